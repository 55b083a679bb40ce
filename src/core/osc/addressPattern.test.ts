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
  ])('%s and %s: %s', (pattern, address, expected) => expect(matchesAddress(pattern, address)).toBe(expected));

  it('is not slowed down by many stars', () => {
    expect(matchesAddress(`/${'*'.repeat(200)}x`, `/${'a'.repeat(200)}`)).toBe(false);
  });
});
