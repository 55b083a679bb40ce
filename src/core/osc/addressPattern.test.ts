import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { matchesAddress } from './addressPattern';

describe('matchesAddress (Open Sound Control 1.0, pattern matching)', () => {
  it.each([
    ['/mooring/stretch', '/mooring/stretch', true],
    ['/mooring/stretch', '/mooring/stretch/1', false],
    ['/mooring/s?retch', '/mooring/stretch', true],
    ['/mooring/?', '/mooring/', false],
    ['/mooring/*', '/mooring/stretch', true],
    ['/mooring/*', '/mooring/', true],
    ['/*', '/mooring/stretch', false],
    ['/*/stretch', '/mooring/stretch', true],
    ['/point[1-4]/x', '/point3/x', true],
    ['/point[1-4]/x', '/point5/x', false],
    ['/point[!1-4]/x', '/point5/x', true],
    ['/point[!1]', '/point/', false],
    ['/point[a-c1]', '/point1', true],
    ['/{fog,swell}', '/swell', true],
    ['/{fog,swell}', '/sprawl', false],
    ['/{fog,swell}/*', '/fog/level', true],
    ['/a.b+c', '/a.b+c', true],
    ['/a.?', '/axb', false],
    ['/open[', '/open[', false],
    ['/open{a', '/opena', false],
    ['/[', '/x', false],
    ['/]', '/]', false],
    ['/[]', '/]', false],
    ['/*a*', '/banana', true],
    ['/*an?', '/banana', true],
    ['/*an', '/banana', false],
    ['/fog*/*', '/fog/level', true],
    ['/{fo,fog}{g,}*', '/fog', true],
    ['/{fo,fog}x', '/fogx', true],
    ['/[z-a]', '/m', true],
    ['/[a-]', '/-', true],
    ['/point*', '/points/1', false],
    ['/{a/b,c}', '/a/b', false],
    ['/*', '/', true],
    ['/*/', '/a/', true],
  ])('%s and %s: %s', (pattern, address, expected) => expect(matchesAddress(pattern, address)).toBe(expected));

  it.each([
    ['*', 200],
    ['*?', 100],
    ['*a', 100],
    ['{a,aa}', 40],
    ['{,a}', 60],
    ['[a-c]*', 40],
  ])('is not slowed down by many of %s, whoever sent it', (piece, times) => {
    expect(matchesAddress(`/${piece.repeat(times)}x`, `/${'a'.repeat(200)}`)).toBe(false);
  });
  it('takes an address of 60,000 characters against a rule with stars, and no pattern of more than 256', () => {
    expect(matchesAddress('/*a*b*c', `/${'ab'.repeat(30_000)}`)).toBe(false);
    expect(matchesAddress(`/${'?'.repeat(255)}`, `/${'a'.repeat(255)}`)).toBe(true);
    expect(matchesAddress(`/${'?'.repeat(256)}`, `/${'a'.repeat(256)}`)).toBe(false);
  });
  it('says what a regular expression of the same meaning says', () => {
    const piece = fc.constantFrom('a', 'b', '/', '?', '*', '[ab]', '[!a]', '{a,b}', '{a,ab,}');
    const meaning: Record<string, string> = { '?': '[^/]', '*': '[^/]*', '[ab]': '[ab]', '[!a]': '[^a/]', '{a,b}': '(?:a|b)', '{a,ab,}': '(?:a|ab|)' };
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 8 }), fc.array(fc.constantFrom('a', 'b', '/'), { maxLength: 8 }), (pieces, characters) => {
        const address = `/${characters.join('')}`;
        const expression = new RegExp(`^/${pieces.map((one) => meaning[one] ?? one).join('')}$`);
        expect(matchesAddress(`/${pieces.join('')}`, address)).toBe(expression.test(address));
      }),
      { numRuns: 5000 },
    );
  });
});
