import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { applyEdit } from '../rig/edit';
import { findSignal } from '../rig/find';
import { checkReferences } from '../rig/references';
import { addMapping, proposeMessages } from './propose';
import { possibleKinds, throughOutput, withMessage } from './throughOutput';

function withOsc() {
  const rig = testRig([{ message: { kind: 'controlChange', channel: 5, controller: 40, range: [127, 0] } }]);
  rig.outputs.push({ id: 'far', name: 'Far', kind: 'osc', host: '127.0.0.1', port: 9000, receiver: 'weather' });
  return rig;
}
const set = (rig: ReturnType<typeof withOsc>, fields: object) => {
  const applied = applyEdit(rig, { kind: 'setMapping', mapping: 'm0', set: fields });
  if (!applied.ok) throw new Error(applied.message);
  return applied.document;
};

it('a message by an output that cannot take it becomes one that it can, and back on its channel in its direction', () => {
  const rig = withOsc();
  expect(checkReferences(set(rig, { output: 'far' })).map(({ path, message }) => [path, message])).toEqual([['mappings[0].output', 'expected an output that takes MIDI, as the message of "Mapping 0" is, found "Far"']]);
  const there = set(rig, throughOutput(rig, rig.mappings[0]!, 'far'));
  expect([checkReferences(there), there.mappings[0]!.message.kind]).toEqual([[], 'osc']);
  const back = set(there, throughOutput(there, there.mappings[0]!, 'weather'));
  expect([checkReferences(back), back.mappings[0]!.message]).toEqual([[], { kind: 'controlChange', channel: 1, controller: 20, range: [127, 0] }]);
  expect(throughOutput(rig, rig.mappings[0]!, 'weather').message).toBe(rig.mappings[0]!.message);
});

it('another kind of message goes by the first output that takes it', () => {
  const rig = withOsc();
  const { output } = withMessage(rig, rig.mappings[0]!, { kind: 'osc', address: '/a', arguments: [], range: [0, 1] });
  expect(output).toBe('far');
  expect(withMessage(rig, rig.mappings[0]!, { kind: 'transport', action: 'start' }).output).toBe('weather');
});

it('offers only what some output takes, and to an output of OSC an OSC message', () => {
  expect(possibleKinds(testRig([]))).not.toContain('osc');
  const rig = withOsc();
  expect(possibleKinds(rig)).toContain('osc');
  const { signal } = findSignal(rig, 'fog.touch')!;
  const [proposal, ...others] = proposeMessages(rig, signal, 'far');
  expect([proposal!.message, others]).toEqual([{ kind: 'osc', address: '/fog/touch', arguments: [{ type: 'f', value: 'value' }], range: [0, 1] }, []]);
  const applied = applyEdit(rig, { kind: 'change', changes: [addMapping(rig, signal, 'far', proposal!.message).change] });
  expect(applied.ok && checkReferences(applied.document)).toEqual([]);
});
