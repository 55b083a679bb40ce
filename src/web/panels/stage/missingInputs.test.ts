import { expect, it } from 'vitest';
import { testRig } from '../../../core/engine/testRig';
import type { RigDocument } from '../../../core/rig/document';
import type { FeedState, InputsState } from '../../../protocol/live';
import { missingInputs } from './missingInputs';

const rig: RigDocument = { ...testRig([]), inputs: [...testRig([]).inputs, ...['pad', 'rope', 'keys'].map((id) => ({ id, name: id, kind: 'gamepad' as const, device: { report: id, slot: 1 } }))] };
const state = (...feeds: Partial<FeedState>[]) => ({ feeds }) as InputsState;

it('names what left, what fell silent and what was never here; surfaces and what is live are not missing', () => {
  expect(missingInputs(rig, state({ input: 'pad', state: 'live' }, { input: 'rope', state: 'gone' }))).toEqual([
    { name: 'rope', why: 'is gone' },
    { name: 'keys', why: 'is not here' },
  ]);
  expect(missingInputs(rig, state({ input: 'pad', state: 'silent' }, { input: 'rope', state: 'live' }, { input: 'keys', state: 'live' }))).toEqual([{ name: 'pad', why: 'is silent' }]);
  expect(missingInputs(rig, null)).toEqual([]);
});
