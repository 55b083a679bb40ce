import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { freshMessage } from './freshMessage';
import type { MessageSpec } from '../messages';

const rig = testRig([]);
const to = (kind: MessageSpec['kind'], before: MessageSpec) => freshMessage(kind, before, rig, 'weather');
const cc = (range: [number, number]): MessageSpec => ({ kind: 'controlChange', channel: 5, controller: 21, range });

it.each<[string, MessageSpec['kind'], MessageSpec, object]>([
  ['channel, number and direction stay', 'controlChange14', cc([127, 0]), { channel: 5, controller: 21, range: [16383, 0] }],
  ['half of the way is half of the way', 'pitchBend', cc([0, 63.5]), { channel: 5, range: [0, 8192] }],
  ['semitones become the steps that they are of', 'controlChange', { kind: 'pitchBend', channel: 2, unit: 'semitones', range: [2, -2] }, { channel: 2, range: [127, 0] }],
  ['programs count from 1', 'programChange', cc([0, 127]), { channel: 5, range: [1, 128] }],
  ['OSC gets its own unit', 'osc', cc([127, 0]), { range: [1, 0] }],
  ['and gives it back', 'channelPressure', { kind: 'osc', address: '/x', arguments: [], range: [1, 0] }, { channel: 1, range: [127, 0] }],
  ['what has no range begins with the whole', 'controlChange', { kind: 'note', channel: 7, note: 60, velocity: 9 }, { channel: 7, range: [0, 127] }],
])('%s', (_, kind, before, expected) => expect(to(kind, before)).toMatchObject({ kind, ...expected }));

it('what has no channel gets one that the receiver listens to', () => {
  const listens = testRig([]);
  listens.receivers[0]!.channels = [3];
  expect(freshMessage('channelPressure', { kind: 'osc', address: '/x', arguments: [], range: [0, 1] }, listens, 'weather')).toMatchObject({ channel: 3 });
});
