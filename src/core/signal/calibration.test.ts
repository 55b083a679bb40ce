import { expect, it } from 'vitest';
import { play } from '../engine/testPlay';
import { testRig } from '../engine/testRig';
import type { Calibration } from '../rig/document';
import { calibrated, withoutNoise, zeroedAt } from './calibration';

const stick = (calibration: Calibration) => ({ ...calibration, lo: -1, hi: 1, rest: 0, period: null });

it.each([
  ['its raw low end', -0.8, -1],
  ['beyond it', -0.9, -1],
  ['its raw middle', 0.1, 0],
  ['half way down', -0.35, -0.5],
  ['half way up', 0.5, 0.5],
  ['its raw high end', 0.9, 1],
])('lays %s of a worn stick onto the nominal range', (_, raw, nominal) => {
  expect(calibrated(stick({ travel: { lo: -0.8, hi: 0.9, centre: 0.1 } }), raw)).toBeCloseTo(nominal, 9);
});

it('turns a sensor round whose raw numbers fall where they should rise', () => {
  expect(calibrated(stick({ travel: { lo: 500, hi: 100, centre: 300 } }), 400)).toBeCloseTo(-0.5, 9);
});

it('takes a zero off, within the circle for an angle', () => {
  expect(calibrated({ zero: 12, lo: -90, hi: 90, rest: 0, period: null }, 15)).toBe(3);
  expect(calibrated({ zero: 350, lo: 0, hi: 360, rest: null, period: 360 }, 10)).toBe(20);
});

it('leaves noise out, and holds the centre while it only drifts', () => {
  const planned = stick({ noise: 0.05, travel: { lo: -1, hi: 1, centre: 0.1 } });
  expect(withoutNoise(planned, 0.53, 0.5)).toBe(0.5);
  expect(withoutNoise(planned, 0.56, 0.5)).toBe(0.56);
  expect(withoutNoise(planned, 0.14, 0.3)).toBe(0.1);
  expect(withoutNoise(planned, 0.3, NaN)).toBe(0.3);
});

it('holds an angle that trembles about the end of its circle', () => {
  const heading = { noise: 2, lo: 0, hi: 360, rest: null, period: 360 };
  expect([withoutNoise(heading, 359.5, 0.5), withoutNoise(heading, 357, 0.5)]).toEqual([0.5, 357]);
  // Raw numbers of a travel are on no circle.
  expect(withoutNoise({ ...heading, travel: { lo: 0, hi: 1000 } }, 361, 1)).toBe(361);
});

it('says a zeroed angle about the middle of its range', () =>
  expect(calibrated({ zero: 12, lo: -90, hi: 90, rest: 0, period: 360 }, -88)).toBe(-100));

it('moves a zero that was set before', () => expect(zeroedAt({ zero: 5, noise: 1 }, 3)).toEqual({ zero: 8, noise: 1 }));

it('is played by the engine, before the shaping', () => {
  const rig = testRig([{}]);
  rig.signals[0] = { ...rig.signals[0]!, calibration: { travel: { lo: 100, hi: 900 } } };
  const { move, sent } = play(rig);
  move('fog', 10, 900);
  move('fog', 20, 500);
  expect(sent.map(({ bytes }) => bytes[2])).toEqual([127, 64]);
});

it('is not applied again to a value that is only restored', () => {
  const rig = testRig([{}]);
  rig.signals[0] = { ...rig.signals[0]!, calibration: { travel: { lo: 100, hi: 900 } } };
  const { engine, index, sent } = play(rig);
  engine.take({ kind: 'restore', signal: index('fog'), timeMs: 10, value: 0.5 });
  expect(sent.map(({ bytes }) => bytes[2])).toEqual([64]);
});

it('keeps what its noise filter holds when something else is edited', () => {
  const rig = testRig([{}]);
  rig.signals[0] = { ...rig.signals[0]!, calibration: { noise: 0.1 } };
  const { engine, move, sent } = play(rig);
  move('fog', 10, 0.5);
  engine.take({ kind: 'rig', rig: { ...rig, tempoBpm: 99 }, timeMs: 20 });
  move('fog', 30, 0.55);
  expect(sent.map(({ bytes }) => bytes[2])).toEqual([64]);
});
