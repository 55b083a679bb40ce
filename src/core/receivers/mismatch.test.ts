import { describe, expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { voiceRig } from '../engine/voices/testVoices';
import type { RigDocument, RigReceiver } from '../rig/document';
import type { RigOutput } from '../outputs/kinds';
import { mismatches } from './mismatch';

type Mappings = Parameters<typeof testRig>[0];

/** What is said of a rig whose only receiver is like this. */
function said(mappings: Mappings, receiver: Partial<RigReceiver>, more: Partial<RigDocument> = {}): string[] {
  const rig = testRig(mappings);
  rig.receivers = [{ ...rig.receivers[0]!, ...receiver }];
  return mismatches({ ...rig, ...more }).map(({ text }) => text);
}
const bend: Mappings = [{ message: { kind: 'pitchBend', channel: 1, unit: 'semitones', range: [-2, 2] } }];
const cc = (channel: number, controller: number): Mappings[number] => ({ message: { kind: 'controlChange', channel, controller, range: [0, 127] } });

describe('what does not fit over there', () => {
  it('is nothing where nothing is said of the receiver', () => expect(said([...bend, cc(3, 11)], {})).toEqual([]));

  // 100 cents times the range there over the range here, by hand: 100 * 2 / 48 = 4.17; 100 * 12 / 2 = 600; 100 * 24 / 48 = 50.
  it.each([
    [48, 2, 'bend range is 48 here and 2 there: a semitone will sound as 4.2 cents'],
    [2, 12, 'bend range is 2 here and 12 there: a semitone will sound as 600 cents'],
    [48, 24, 'bend range is 48 here and 24 there: a semitone will sound as 50 cents'],
    [12, 0, 'bend range is 12 here and 0 there: a semitone will sound as 0 cents'],
    [0, 2, 'bend range is 0 here and 2 there: nothing bends'],
  ])('a bend range of %s here and %s there', (here, there, text) => expect(said(bend, { bendRangeSemitones: here, bendThereSemitones: there })).toEqual([text]));
  it('an equal bend range fits, and one of a rig that bends nothing is of no matter', () => {
    expect(said(bend, { bendRangeSemitones: 12, bendThereSemitones: 12 })).toEqual([]);
    expect(said([cc(1, 20)], { bendRangeSemitones: 48, bendThereSemitones: 2 })).toEqual([]);
  });

  it('a channel that is not listened to, with the mappings that send on it', () => {
    expect(said([cc(1, 20), cc(3, 20), cc(3, 21), cc(3, 22), cc(3, 23)], { channels: [1, 2] })).toEqual(['channel 3 is not listened to there: Mapping 1, Mapping 2, Mapping 3 and 1 more']);
  });
  it('kinds that are not understood', () => {
    const mappings: Mappings = [{ message: { kind: 'channelPressure', channel: 1, range: [0, 127] } }, { signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100 } }];
    expect(said(mappings, { lacks: ['pressure', 'programs'] })).toEqual(['pressure is not understood there: Mapping 0']);
    expect(said(mappings, { lacks: ['notes'] })).toEqual(['notes are not understood there: Mapping 1']);
  });
  it('controllers that do something of their own there, also as the fine half of one of 14 bits', () => {
    expect(said([cc(1, 11), { message: { kind: 'controlChange14', channel: 1, controller: 7, range: [0, 16383] } }], { hardWired: [{ controller: 11, does: 'volume' }, { controller: 39, does: 'a filter' }, { controller: 12, does: 'nothing' }] })).toEqual([
      'controller 11 is volume there, hard-wired: Mapping 0',
      'controller 39 is a filter there, hard-wired: Mapping 1',
    ]);
  });
  it('a mapping that is off is of no matter', () => expect(said([{ ...cc(3, 20), on: false }], { channels: [1] })).toEqual([]));

  it('two receivers on one channel of one port, named at both', () => {
    const port = (id: string, slot: number): RigOutput => ({ id, name: id, receiver: id, kind: 'port', device: { report: 'Deck box', slot } });
    const receiver = (id: string, channels?: number[]): RigReceiver => ({ id, name: id, about: '', bendRangeSemitones: 2, ...(channels ? { channels } : {}) });
    const rig = (a: number[] | undefined, b: number[] | undefined, slot = 1) => mismatches({ ...testRig([]), outputs: [port('horn', 1), port('bell', slot)], receivers: [receiver('horn', a), receiver('bell', b)] });
    expect(rig([1, 2], [2, 3])).toEqual(['horn', 'bell'].map((output) => ({ output, text: 'two receivers listen on channel 2 of this port: horn and bell' })));
    expect(rig(undefined, undefined)[0]!.text).toBe('two receivers listen on every channel of this port: horn and bell');
    expect(rig([1], [2])).toEqual([]);
    expect(rig([1], [1], 2)).toEqual([]);
  });
});

describe('voices', () => {
  const said = (change: Partial<RigReceiver>, mapping: Parameters<typeof voiceRig>[0] = {}) => {
    const rig = voiceRig(mapping);
    Object.assign(rig.receivers[0]!, change);
    return mismatches(rig).map(({ text }) => text);
  };
  it.each([
    [{ layout: { kind: 'zone', zone: 'lower', members: 15 } }, {}, []],
    [{ layout: { kind: 'zone', zone: 'upper', members: 7 } }, {}, ['voices go to MPE lower zone of 15 here, and there they are MPE, upper zone with 7 channels: Voices 0']],
    [{ voices: 8 }, {}, ['15 voices here and 8 there: the others are not heard: Voices 0']],
    [{ bendThereSemitones: 2 }, {}, ['bend range is 48 here and 2 there: a semitone will sound as 4.2 cents']],
    [{ bendThereSemitones: 2 }, { pitch: { transpose: 0, bends: false } }, []],
    [{ lacks: ['pressure'] }, {}, ['pressure is not understood there: Voices 0']],
    [{ hardWired: [{ controller: 74, does: 'brightness' }] }, {}, ['controller 74 is brightness there, hard-wired: Voices 0']],
    [{ channels: [1, 2, 3] }, { layout: { kind: 'run', first: 3, last: 5, steal: 'oldest' } }, ['channel 4 is not listened to there: Voices 0', 'channel 5 is not listened to there: Voices 0']],
    [{ layout: { kind: 'run', first: 1, last: 4 } }, { layout: { kind: 'mono', channel: 1, priority: 'last', legato: false, glideMs: 0 } }, []],
  ] as const)('for a receiver with %j', (receiver, mapping, sentences) => expect(said(receiver as Partial<RigReceiver>, mapping as Parameters<typeof voiceRig>[0])).toEqual(sentences));
});
