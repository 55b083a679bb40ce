import { OneEuroFilter } from '1eurofilter';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { oneEuro } from './oneEuro';
import { onePole } from './onePole';
import { rangeIn } from './rangeIn';
import { rangeOut } from './rangeOut';

describe('rangeIn', () => {
  it('lays 20-1000 mm on 0-1 and stays at the ends outside', () => {
    expect(rangeIn(20, 20, 1000)).toBe(0);
    expect(rangeIn(510, 20, 1000)).toBeCloseTo(0.5, 12);
    expect(rangeIn(1400, 20, 1000)).toBe(1);
  });
  it('turns round where lo > hi', () => expect(rangeIn(250, 1000, 0)).toBe(0.75));
  it('is a threshold where the range has no width', () => {
    expect([rangeIn(4.9, 5, 5), rangeIn(5, 5, 5), rangeIn(5.1, 5, 5)]).toEqual([0, 1, 1]);
  });
  it('never leaves 0-1, whatever comes', () => {
    fc.assert(
      fc.property(fc.double(), fc.double({ noNaN: true, min: -1e9, max: 1e9 }), fc.double({ noNaN: true, min: -1e9, max: 1e9 }), (x, lo, hi) => {
        const level = rangeIn(x, lo, hi);
        return level >= 0 && level <= 1;
      }),
    );
  });
});

describe('rangeOut', () => {
  it('inverts where lo > hi', () => expect(rangeOut(0.25, 96, 0)).toBe(72));
});

describe('onePole', () => {
  it('covers 63.2 % of a step after one time constant (first-order system)', () => {
    let y = 0;
    for (let i = 0; i < 50; i++) y = onePole(y, 1, 1, 2, 100);
    expect(y).toBeCloseTo(1 - Math.exp(-1), 12);
    expect(y).toBeCloseTo(0.632, 3);
  });
  it('gives the same for a ramp in one step and in a thousand (closed form)', () => {
    const once = onePole(0.2, 0, 0.7, 90, 35);
    let y = 0.2;
    for (let i = 0; i < 1000; i++) y = onePole(y, (0.7 * i) / 1000, (0.7 * (i + 1)) / 1000, 0.09, 35);
    expect(y).toBeCloseTo(once, 10);
  });
  it('passes the input through with a time constant of 0, and stands still while time does', () => {
    expect(onePole(0.1, 0.3, 0.4, 10, 0)).toBe(0.4);
    expect(onePole(0.1, 0.3, 0.4, 0, 50)).toBe(0.1);
    expect(onePole(0.1, 0.3, 0.4, -5, 50)).toBe(0.1);
  });
});

describe('oneEuro', () => {
  const filter = (samples: [timeMs: number, x: number][], minCutoffHz: number, beta: number) => {
    const state = new Float64Array(2);
    return samples.map(([timeMs, x], i) => {
      if (i === 0) return (state[0] = x);
      const [beforeMs, before] = samples[i - 1]!;
      return oneEuro(state, 0, x, before, timeMs - beforeMs, minCutoffHz, beta, 1);
    });
  };

  it('agrees to 12 digits with the package 1eurofilter (of its inventors) where speed plays no part', () => {
    const reference = new OneEuroFilter(120, 1.2, 0, 1);
    const samples = Array.from({ length: 500 }, (_, i): [number, number] => [1000 + i * 8 + (i % 3), Math.sin(i / 20) + 0.1 * Math.sin(i * 1.7)]);
    const expected = samples.map(([timeMs, x]) => reference.filter(x, timeMs / 1000));
    filter(samples, 1.2, 0).forEach((y, i) => expect(y).toBeCloseTo(expected[i]!, 12));
  });
  it('lags a steady ramp of v units/s by v / (2 pi (fcMin + beta v)) (closed form of the filter in steady state)', () => {
    const ramp = Array.from({ length: 6000 }, (_, i): [number, number] => [i * 5, i * 5 * 0.0004]);
    const last = filter(ramp, 0.8, 2).at(-1)!;
    expect(ramp.at(-1)![1] - last).toBeCloseTo(0.4 / (2 * Math.PI * (0.8 + 2 * 0.4)), 6);
  });
  it('stands still while time does', () => {
    const state = Float64Array.of(0.5, 0);
    expect(oneEuro(state, 0, 0.9, 0.5, 0, 1, 1, 1)).toBe(0.5);
  });
});
