import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { transferOf } from './transfer';

it('is the shape that the engine comes to rest on: range, dead zone, curve, steps, window', () => {
  const rig = testRig([{ shaping: { rangeIn: { lo: 0, hi: 2 }, smoothing: { kind: 'onePole', timeConstantMs: 500 }, curve: { kind: 'power', k: 1 } } }]);
  const transfer = transferOf(rig.mappings[0]!, rig.signals[0]!);
  expect([0, 1, 2, 3].map(transfer)).toEqual([0, 0.25, 1, 1]);
});

it('is on or off for what is one or the other', () => {
  const rig = testRig([{ message: { kind: 'note', channel: 1, note: 60, velocity: 100 }, gate: { on: 0.6, off: 0.4 } }]);
  const transfer = transferOf(rig.mappings[0]!, rig.signals[0]!);
  expect([0, 0.5, 0.6, 1].map(transfer)).toEqual([0, 0, 1, 1]);
});
