import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import type { Shaping } from '../rig/document';
import { inverseOf } from './inverse';

const inverse = (shaping: Shaping) => {
  const rig = testRig([{ shaping }]);
  return inverseOf(rig.mappings[0]!, rig.signals.find(({ id }) => id === rig.mappings[0]!.signal)!);
};

it('finds the value of a level: straight, turned round, along a curve', () => {
  expect(inverse({})(0.25, 0)).toBeCloseTo(0.25, 3);
  expect(inverse({ rangeIn: { lo: 1, hi: 0 } })(0.25, 0)).toBeCloseTo(0.75, 3);
  // Exponent 2^1: the level is the square of the place.
  expect(inverse({ curve: { kind: 'power', k: 1 } })(0.25, 0)).toBeCloseTo(0.5, 3);
});

it('takes the value next to where the signal is, where several are as good', () => {
  const steps = inverse({ steps: { count: 2, hysteresis: 0 } });
  expect(steps(0, 0.3)).toBeCloseTo(0.3, 2);
  expect(steps(1, 0.3)).toBeCloseTo(0.5, 2);
});
