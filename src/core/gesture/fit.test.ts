import { describe, expect, it } from 'vitest';
import { seededNoise } from '../standIn/noise';
import { fit } from './fit';
import { noiseOf, percentile } from './statistics';

const RATE_HZ = 100;
const times = (count: number) => Float64Array.from({ length: count }, (_, i) => (i * 1000) / RATE_HZ);

it('takes percentiles straight between the two values beside them', () => {
  // Hyndman and Fan 1996, type 7 on 1..5: place 0.25 * 4 = 1.
  expect(percentile([1, 2, 3, 4, 5], 0.25)).toBe(2);
  expect(percentile([1, 2, 3, 4], 0.5)).toBe(2.5);
  expect(percentile([], 0.5)).toBeNaN();
});

it('finds the noise under a movement', () => {
  const noise = seededNoise(1);
  const values = Array.from({ length: 4000 }, (_, i) => 300 + 200 * Math.sin(i / 40) + 5 * noise());
  expect(noiseOf(values)).toBeGreaterThan(4.5);
  expect(noiseOf(values)).toBeLessThan(5.6);
});

it('proposes the 2nd and 98th percentile, so that one wild value does not count', () => {
  const values = Array.from({ length: 1000 }, (_, i) => i / 10);
  values[500] = 9000;
  const { gesture, rangeIn } = fit(times(1000), values)!;
  expect(gesture.highest).toBe(9000);
  expect(rangeIn.lo).toBeCloseTo(2, 0);
  expect(rangeIn.hi).toBeCloseTo(98, 0);
});

it('takes a gesture over the end of a circle for one way, with its rest on it; all the way round it is the circle', () => {
  const noise = seededNoise(2);
  const heading = Array.from({ length: 1000 }, (_, i) => (360 + 20 * Math.cos(i / 40) + 0.2 * noise()) % 360);
  const { rangeIn, deadZone } = fit(times(1000), heading, { rest: 0, period: 360 })!;
  // It began at 20.
  expect(rangeIn.lo).toBeCloseTo(-20, 0);
  expect(rangeIn.hi).toBeCloseTo(20, 0);
  expect(deadZone?.kind).toBe('centre');
  const round = fit(times(1000), Array.from({ length: 1000 }, (_, i) => i % 360), { period: 360 })!;
  expect(fit([], [], { period: 360 })).toBeNull();
  // 0 to 279 came three times, 280 to 359 twice: the twentieth of 1000 from either end.
  expect([round.rangeIn.lo, round.rangeIn.hi].map(Math.round)).toEqual([6, 349]);
});

it('keeps a range that is turned round the way it is', () => {
  const values = Array.from({ length: 1000 }, (_, i) => i / 10);
  const [there, back] = [fit(times(1000), values, { width: 40 })!, fit(times(1000), values, { width: -40 })!];
  expect(back.rangeIn).toEqual({ lo: there.rangeIn.hi, hi: there.rangeIn.lo });
  expect(back.gesture).toEqual(there.gesture);
});

it('leaves a quiet signal unsmoothed', () => {
  const proposal = fit(times(1000), Array.from({ length: 1000 }, (_, i) => Math.sin(i / 50)))!;
  expect(proposal.smoothing).toBeUndefined();
  expect(proposal.deadZone).toBeUndefined();
});

it('smooths a noisy one more the noisier it is, and puts the dead zone where it rests', () => {
  const noisy = (sigma: number) => {
    const noise = seededNoise(7);
    return Array.from({ length: 1000 }, (_, i) => Math.sin(i / 50) + sigma * noise());
  };
  const little = fit(times(1000), noisy(0.02))!;
  const much = fit(times(1000), noisy(0.1), { rest: 0 })!;
  if (little.smoothing?.kind !== 'oneEuro' || much.smoothing?.kind !== 'oneEuro') throw new Error('no One Euro');
  expect(much.smoothing.minCutoffHz).toBeLessThan(little.smoothing.minCutoffHz);
  expect(little.deadZone?.kind).toBe('ends');
  expect(much.deadZone?.kind).toBe('centre');
});

it.each([
  ['too few samples', times(4), [0, 1, 2, 3]],
  ['no time', new Float64Array(20), Array.from({ length: 20 }, (_, i) => i)],
  ['no movement', times(20), Array.from({ length: 20 }, () => 5)],
])('says nothing from %s', (_, timesMs, values) => expect(fit(timesMs, values)).toBeNull());

it('says nothing from noise alone', () => {
  const noise = seededNoise(3);
  expect(fit(times(500), Array.from({ length: 500 }, () => noise()))).toBeNull();
});

describe('spikes', () => {
  /** A sweep of a sensor between 100 and 400 mm, with single values of 4000 mm in a hundredth of its samples. */
  const spiked = (rateHz: number, runs = 1) => {
    const noise = seededNoise(11);
    const count = 5 * rateHz;
    const timesMs = Float64Array.from({ length: count }, (_, i) => (i * 1000) / rateHz);
    const values = Array.from({ length: count }, (_, i) => 250 + 150 * Math.sin((2 * Math.PI * i) / (2 * rateHz)) + noise());
    for (let i = 30; i + runs < count; i += 100 * runs) for (let k = 0; k < runs; k++) values[i + k] = 4000;
    return { timesMs, values };
  };
  it.each([20, 50, 100, 500])('do not touch the range, speed or smoothing of a fit at %i Hz, and a median is proposed', (rateHz) => {
    const { timesMs, values } = spiked(rateHz);
    const { gesture, rangeIn, median } = fit(timesMs, values)!;
    expect(median).toBe(3);
    expect(gesture.spikes).toBeGreaterThan(0);
    expect(Math.abs(rangeIn.lo - 100)).toBeLessThan(15);
    expect(Math.abs(rangeIn.hi - 400)).toBeLessThan(15);
    // The quickest of a sine of 0.5 Hz: 150 * pi a second, besides what noise adds from one sample to the next.
    expect(gesture.speedPerS).toBeLessThan(150 * Math.PI + 3 * rateHz);
  });
  it('of two samples want a median of 5', () => expect(fit(spiked(100, 2).timesMs, spiked(100, 2).values)!.median).toBe(5));
  it('that the mapping takes out already are not there', () => {
    const { timesMs, values } = spiked(100);
    const { gesture, median, rangeIn } = fit(timesMs, values, { deglitch: { median: 3 } })!;
    expect([gesture.spikes, median]).toEqual([0, undefined]);
    expect(gesture.highest).toBeLessThan(410);
    expect(rangeIn.hi).toBeLessThan(410);
  });
  it('are none in a quick gesture that goes to and fro', () => {
    const values = Array.from({ length: 500 }, (_, i) => (i % 10 < 5 ? 0 : 1));
    expect(fit(times(500), values)!.median).toBeUndefined();
  });
});
