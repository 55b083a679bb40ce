import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { mendStored } from './mendStored';
import { checkReferences } from './references';

it('takes apart what an output cannot take: such mappings stay silent, as they were', () => {
  const rig = testRig([{ output: 'far' }, { message: { kind: 'osc', address: '/a', arguments: [], range: [0, 1] } }, {}]);
  rig.outputs.push({ id: 'far', name: 'Far', kind: 'osc', host: '127.0.0.1', port: 9000, receiver: 'weather', sendsClock: true });
  rig.inputs.push({ id: 'board', name: 'Board', kind: 'midi', device: { report: 'b', slot: 1 }, thru: { output: 'far', channels: [1], kinds: ['notes'] } });
  rig.scenes = [{ id: 's', name: 'S', mappings: {}, pages: {}, values: {}, glideMs: 0, messages: [{ output: 'far', bytes: [0xc0, 5] }, { output: 'weather', bytes: [0xc0, 6] }] }];
  expect(checkReferences(rig).map(({ path }) => path)).toEqual(['outputs[1].sendsClock', 'mappings[0].output', 'mappings[1].output', 'inputs[1].thru.output', 'scenes[0].messages[0].output']);
  const mended = mendStored(rig);
  expect(checkReferences(mended)).toEqual([]);
  expect(mended.mappings.map(({ output, message, on }) => [output, message.kind, on])).toEqual([['weather', 'controlChange', false], ['far', 'osc', false], ['weather', 'controlChange', true]]);
  expect(mended.scenes[0]!.messages).toEqual([{ output: 'weather', bytes: [0xc0, 6] }]);
  expect(mended.inputs[1]).not.toHaveProperty('thru');
  expect(mended.outputs[1]).not.toHaveProperty('sendsClock');
});

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
