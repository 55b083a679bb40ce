import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { Engine } from '../engine/engine';
import { voiceRig } from '../engine/voices/testVoices';
import { hexOf } from '../midi/describe';
import type { RigDocument, RigReceiver } from '../rig/document';
import type { VoiceLayout } from '../voices/layout';
import { layoutChannels, voiceChannels } from './layout';
import { notesChannel } from './played';
import { checklist, setUpItems } from './setUp';

function rigOf(receiver: Partial<RigReceiver>, output: object = {}, mappings: Parameters<typeof testRig>[0] = []) {
  const rig = testRig(mappings);
  rig.receivers = [{ ...rig.receivers[0]!, ...receiver }];
  rig.outputs = [{ ...rig.outputs[0]!, ...output }];
  return rig;
}
const sent = (...of: Parameters<typeof rigOf>) => {
  const rig = rigOf(...of);
  return setUpItems(rig, rig.outputs[0]!).flatMap(({ messages }) => messages.map(hexOf));
};

// MIDI 1.0 Detailed Specification 4.2, table IIIa: registered parameter 0 is bend range, data entry 6 in semitones, 38 in cents.
it('sets the bend range on each channel that the rig plays, and lets go of the parameter', () => {
  const onTwo: Parameters<typeof testRig>[0] = [{ message: { kind: 'controlChange', channel: 3, controller: 20, range: [0, 127] } }, { message: { kind: 'pitchBend', channel: 2, range: [0, 16383] } }];
  expect(sent({ bendRangeSemitones: 12 }, {}, onTwo)).toEqual(['B1 65 00 B1 64 00 B1 06 0C B1 26 00 B1 65 7F B1 64 7F', 'B2 65 00 B2 64 00 B2 06 0C B2 26 00 B2 65 7F B2 64 7F']);
  expect(sent({ bendRangeSemitones: 2.5 })).toEqual(['B0 65 00 B0 64 00 B0 06 02 B0 26 32 B0 65 7F B0 64 7F']);
});

it('sets it where voices sound, too: a receiver without a layout has it on the channels of whatever plays it', () => {
  const ranges = (layout: VoiceLayout, receiver: Partial<RigReceiver> = {}) => {
    const rig = voiceRig({ layout });
    rig.receivers = [{ ...rig.receivers[0]!, bendRangeSemitones: 12, ...receiver }];
    return setUpItems(rig, rig.outputs[0]!).flatMap(({ messages }) => messages.map((bytes) => (bytes[0]! & 0x0f) + 1));
  };
  expect(ranges({ kind: 'poly', channel: 5, voices: 8, steal: 'oldest' })).toEqual([5]);
  expect(ranges({ kind: 'run', first: 3, last: 5, steal: 'oldest' })).toEqual([3, 4, 5]);
  expect(ranges({ kind: 'zone', zone: 'lower', members: 2, steal: 'oldest' })).toEqual([2, 3]);
  expect(ranges({ kind: 'run', first: 3, last: 5, steal: 'oldest' }, { channels: [4, 9] })).toEqual([4]);
  expect(ranges({ kind: 'poly', channel: 5, voices: 8, steal: 'oldest' }, { channels: [9] })).toEqual([9]);
});

it('knows on which channel a note is heard at an output', () => {
  const heardOn = (rig: RigDocument, receiver: Partial<RigReceiver> = {}) => {
    rig.receivers = [{ ...rig.receivers[0]!, ...receiver }];
    return notesChannel(rig, rig.outputs[0]!);
  };
  const onFive = () => voiceRig({ layout: { kind: 'mono', channel: 5, priority: 'last', legato: false, glideMs: 0 } });
  expect([heardOn(testRig([])), heardOn(testRig([]), { channels: [7, 9] }), heardOn(onFive()), heardOn(onFive(), { channels: [7] })]).toEqual([1, 7, 5, 7]);
  expect(heardOn(onFive(), { layout: { kind: 'zone', zone: 'lower', members: 3 } })).toBe(2);
  expect(heardOn(testRig([{ message: { kind: 'pitchBend', channel: 4, range: [0, 16383] } }, { message: { kind: 'pitchBend', channel: 3, range: [0, 16383] } }]))).toBe(3);
});

// MPE 1.0 (MMA, 2018): registered parameter 6 on channel 1 (lower) or 16 (upper) with the number of members; from memory of it.
it('sets up a zone: its members first, then two semitones for its manager, and the range of each member', () => {
  const all = sent({ bendRangeSemitones: 48, layout: { kind: 'zone', zone: 'upper', members: 2 } });
  expect(all[0]).toBe('BF 65 00 BF 64 06 BF 06 02 BF 65 7F BF 64 7F');
  expect(all.slice(1).map((line) => line.replace(/ 26.*/, ''))).toEqual(['BF 65 00 BF 64 00 BF 06 02 BF', 'BE 65 00 BE 64 00 BE 06 30 BE', 'BD 65 00 BD 64 00 BD 06 30 BD']);
});

it('knows the channels of zones and runs', () => {
  expect(voiceChannels({ kind: 'zone', zone: 'lower', members: 3 })).toEqual([2, 3, 4]);
  expect(voiceChannels({ kind: 'zone', zone: 'upper', members: 3 })).toEqual([15, 14, 13]);
  expect(layoutChannels({ kind: 'zone', zone: 'upper', members: 1 })).toEqual([16, 15]);
  expect(layoutChannels({ kind: 'run', first: 5, last: 7 })).toEqual([5, 6, 7]);
});

it('calls up the program from its bank, of 14 bits', () => expect(sent({ lacks: ['bend'], program: { number: 4, bank: 130 } })).toEqual(['B0 00 01 B0 20 02 C0 04']));

it('lists what no message can set, and remembers what was done for that value alone', () => {
  const list = (receiver: Partial<RigReceiver>, output = {}) => {
    const rig = rigOf(receiver, output);
    return checklist(rig, rig.outputs[0]!).map(({ text, isDone }) => `${isDone ? '✓ ' : ''}${text}`);
  };
  expect(list({ bendRangeSemitones: 12, voices: 8, channels: [3] })).toEqual(['listens on channel 3', '8 voices']);
  expect(list({ bendRangeSemitones: 12, lacks: ['parameters'], setByHand: ['bend 12'] })).toEqual(['✓ bend range 12 semitones']);
  expect(list({ bendRangeSemitones: 24, lacks: ['parameters'], setByHand: ['bend 12'] })).toEqual(['bend range 24 semitones']);
  expect(list({ bendRangeSemitones: 1, program: { number: 0 } }, { configuration: 'blocked' })).toEqual(['bend range 1 semitone', 'program 1']);
});

it('leaves by the engine, which then knows that no parameter is selected any more', () => {
  const rig = rigOf({ bendRangeSemitones: 12 }, {}, [{ message: { kind: 'parameter', registered: true, channel: 1, parameter: 1, bits: 7, range: [0, 127] } }]);
  const lines: string[] = [];
  const engine = new Engine(rig, { midi: (_, by, bytes, length) => void lines.push(`${by}: ${hexOf(bytes.slice(0, length))}`), osc: () => undefined });
  engine.take({ kind: 'start', timeMs: 0 });
  const signal = 0;
  engine.take({ kind: 'sample', signal, timeMs: 1, value: 0.5 });
  lines.length = 0;
  expect(engine.take({ kind: 'setUp', output: rig.outputs[0]!.id, timeMs: 2 })).toBe(true);
  expect(lines).toEqual(['-8: B0 65 00 B0 64 00 B0 06 0C B0 26 00 B0 65 7F B0 64 7F']);
  lines.length = 0;
  engine.take({ kind: 'sample', signal, timeMs: 3, value: 0.9 });
  expect(lines[0]).toMatch(/^0: B0 65 00 B0 64 01 B0 06/);
  expect(engine.take({ kind: 'setUp', output: 'nowhere', timeMs: 4 })).toBe(false);
});
