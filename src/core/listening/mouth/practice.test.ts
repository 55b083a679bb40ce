import { describe, expect, it } from 'vitest';
import { countOf, Practice, readPattern } from './practice';

describe('practice', () => {
  it('reads a pattern', () => {
    expect(readPattern('  b . ts  k -\n')).toEqual(['b', null, 'ts', 'k', null]);
    expect(readPattern('')).toEqual([]);
  });

  it('tells hits, other sounds, misses and what nobody wanted, and how late', () => {
    // Steps of 250 ms from 1000: b at 1000, ts at 1500, k at 1750; again from 2000.
    const practice = new Practice(['b', null, 'ts', 'k'], 250, 1000);
    expect([practice.stepAt(999), practice.stepAt(1000), practice.stepAt(1999), practice.stepAt(2000)]).toEqual([-1, 0, 3, 0]);
    expect(practice.strike('b', 1020)).toMatchObject({ kind: 'hit', step: 0, lateMs: 20 });
    expect(practice.strike('k', 1260)).toBeNull();
    expect(practice.strike('b', 1490)).toMatchObject({ kind: 'wrong', sound: 'ts', heard: 'b', lateMs: -10 });
    practice.until(1900);
    expect(practice.verdicts.at(-1)).toMatchObject({ kind: 'missed', sound: 'k', step: 3 });
    expect(practice.strike('b', 1985)).toMatchObject({ kind: 'hit', lateMs: -15 });
    expect(practice.extra).toBe(1);
    expect(countOf(practice.verdicts)).toEqual({ hits: 2, wrong: 1, missed: 1, lateMs: 20, spreadMs: 35 });
    expect(countOf([]).lateMs).toBeNaN();
  });

  it('of two that are near takes the one that is meant', () => {
    const practice = new Practice(['b', 'k'], 150, 0);
    expect(practice.strike('k', 75)).toMatchObject({ kind: 'hit', sound: 'k', lateMs: -75 });
    expect(practice.strike('b', 75)).toMatchObject({ kind: 'hit', sound: 'b', lateMs: 75 });
  });
});
