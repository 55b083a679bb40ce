import { describe, expect, it } from 'vitest';
import { chance } from '../signal/oscillator';
import { beatAt, beatsPerBar, changeTempo, msAt, nextGrid, swingDelay } from './musicalTime';
import { TapTempo } from './tapTempo';

describe('musical time', () => {
  it('does not jump when the tempo changes: at 120 bpm one second is two beats, at 60 the next is one', () => {
    const time = { anchorMs: 0, anchorBeat: 0, bpm: 120 };
    changeTempo(time, 60, 1000);
    expect(beatAt(time, 1000)).toBe(2);
    expect(beatAt(time, 2000)).toBe(3);
    expect(msAt(time, 3)).toBe(2000);
  });
  it('has bars of three beats in 3/4 and 6/8, of two in 2/2 of four quarters', () => {
    expect([beatsPerBar([3, 4]), beatsPerBar([6, 8]), beatsPerBar([2, 2]), beatsPerBar([7, 8])]).toEqual([3, 3, 4, 3.5]);
  });
  it('finds the next of a grid, a beat on it counting as it', () => {
    expect([nextGrid(0, 4), nextGrid(0.1, 4), nextGrid(4 + 1e-9, 4), nextGrid(-0.5, 1)]).toEqual([0, 4, 4, 0]);
  });
  it('swings every second step: straight at 1/2, at 2/3 of a pair as triplets do', () => {
    expect(swingDelay(1, 0.5)).toBe(0);
    expect(1 + swingDelay(1, 2 / 3)).toBeCloseTo(4 / 3, 12);
    expect(swingDelay(2, 2 / 3)).toBe(0);
  });
});

describe('a tapped tempo', () => {
  it('is within 1 bpm after 4 taps of +-10 ms, 19 times in 20; never off by more than 2 (seeds 1-200)', () => {
    const errors = Array.from({ length: 200 }, (_, seed) => {
      const tap = new TapTempo();
      const taps = Array.from({ length: 4 }, (_, i) => tap.tap(1000 + i * 600 + 20 * chance(seed + 1, i) - 10));
      return Math.abs(taps.at(-1)! - 100);
    }).sort((a, b) => a - b);
    expect(errors[189]).toBeLessThanOrEqual(1);
    expect(errors[199]).toBeLessThanOrEqual(2);
  });
  it('is known to a tenth after eight taps', () => {
    const tap = new TapTempo();
    const taps = Array.from({ length: 8 }, (_, i) => tap.tap((i * 60_000) / 97.3));
    expect(taps[3]).toBe(97);
    expect(taps[7]).toBe(97.3);
  });
  it('begins anew after a rest, or where the beat is quite another', () => {
    const tap = new TapTempo();
    [0, 500, 1000].forEach((ms) => tap.tap(ms));
    expect(tap.tap(9000)).toBeNaN();
    expect(tap.tap(9300)).toBeCloseTo(200, 9);
    expect(tap.tap(9600)).toBeCloseTo(200, 9);
    expect(tap.tap(10_600)).toBeNaN();
  });
});
