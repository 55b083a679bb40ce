import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { mendStored } from './mendStored';

it('puts right what is refused today and keeps everything else', () => {
  const rig = testRig([{ gate: { off: 0.8 } }, { signal: 'bell', gate: { off: 0.3, press: 'toggle' } }, { gate: { on: 0.9, off: 0.8 } }]);
  rig.scenes = [{ id: 's', name: 'S', mappings: { m0: true, m9: true }, pages: { deck: 'two' }, banks: { gone: 1 }, values: {}, glideMs: 0, messages: [[0x90, 0x3d], [0xc0, 5], [0xf0, 1, 2]].map((bytes) => ({ output: 'weather', bytes })) }];
  const mended = mendStored(rig);
  expect(mended.mappings.map(({ gate }) => gate!.off)).toEqual([0.5, 0, 0.8]);
  expect(mended.mappings[2]).toBe(rig.mappings[2]);
  expect(mended.scenes[0]!.messages.map(({ bytes }) => bytes)).toEqual([[0xc0, 5]]);
  expect(mended.scenes[0]).toMatchObject({ mappings: { m0: true }, pages: {}, banks: {} });
  expect(mendStored(mended)).toBe(mended);
});
