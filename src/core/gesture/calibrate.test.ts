import { expect, it } from 'vitest';
import { seededNoise } from '../standIn/noise';
import { measureRest, proposeCalibration, wasMoved } from './calibrate';

const noise = seededNoise(5);
const resting = (mean: number, sigma: number) => Array.from({ length: 300 }, () => mean + sigma * noise());
const sweep = (lo: number, hi: number) => Array.from({ length: 400 }, (_, i) => (lo + hi) / 2 + ((hi - lo) / 2) * Math.sin(i / 20));

it('finds the centre, the drift and the travel of a stick', () => {
  const rest = measureRest(resting(0.07, 0.01))!;
  expect(rest.mean).toBeCloseTo(0.07, 2);
  const { travel, noise: still } = proposeCalibration('centred', rest, sweep(-0.85, 0.9))!;
  expect(travel!.centre).toBeCloseTo(0.07, 2);
  expect(travel!.lo).toBeCloseTo(-0.85, 1);
  expect(travel!.hi).toBeCloseTo(0.9, 1);
  // As far as it strayed in 300 numbers, and a quarter more.
  expect(still).toBeGreaterThan(rest.strays);
});

it('finds the zero of a tilt from the rest alone', () => {
  expect(proposeCalibration('zeroed', measureRest(resting(-4, 0.2)), [])!.zero).toBeCloseTo(-4, 1);
});

it('finds the noise floor: three standard deviations', () => {
  const { noise: floor, travel } = proposeCalibration('ends', measureRest(resting(300, 5)), [])!;
  expect(floor).toBeGreaterThan(11);
  expect(floor).toBeLessThan(19);
  expect(travel).toBeUndefined();
});

it.each([
  ['nothing', [], []],
  ['three numbers and no movement', [1, 1, 1], [2, 2]],
])('proposes nothing from %s', (_, rest, moving) => expect(proposeCalibration('ends', measureRest(rest), moving)).toBeNull());

it('keeps what was known before of what was not measured now', () => {
  const before = { noise: 0.1, travel: { lo: -0.8, hi: 0.9, centre: 0.02 } };
  const again = proposeCalibration('centred', measureRest(resting(0.07, 0.01)), [], before)!;
  expect(again.travel).toEqual({ lo: -0.8, hi: 0.9, centre: expect.closeTo(0.07, 2) as number });
  expect(again.noise).toBeLessThan(0.06);
  expect(proposeCalibration('ends', measureRest(resting(300, 5)), [], { travel: { lo: 20, hi: 900 } })!.travel).toEqual({ lo: 20, hi: 900 });
  // Nothing came while it lay still.
  expect(proposeCalibration('centred', null, sweep(-0.5, 0.5), before)).toEqual({ noise: 0.1, travel: { lo: expect.closeTo(-0.5, 1) as number, hi: expect.closeTo(0.5, 1) as number, centre: 0.02 } });
  expect(proposeCalibration('ends', null, [], before)).toBeNull();
});

it('takes noise for no travel', () => {
  const rest = resting(10, 1);
  expect(proposeCalibration('ends', measureRest(rest), resting(10, 1))!.travel).toBeUndefined();
});

it('knows a sensor that was moved while it should have been left alone', () => {
  expect(wasMoved(measureRest(sweep(-0.9, 0.9))!, [-1, 1])).toBe(true);
  expect(wasMoved(measureRest(resting(0.1, 0.02))!, [-1, 1])).toBe(false);
});
