import { describe, expect, it } from 'vitest';
import { MovedFinder } from '../gesture/moved';
import { testRig } from '../engine/testRig';
import { voiceRig } from '../engine/voices/testVoices';
import type { RigDocument } from '../rig/document';
import { duplicateMapping, duplicateVoiceMapping } from '../rig/duplicate';
import type { RigVoiceMapping } from '../rig/voices';
import { keepOrCountOn } from './countOn';
import { ledgerOf } from './ledger';
import { addMapping, proposeMessages } from './propose';
import type { MessageSpec } from '../messages';

const cc = (controller: number, channel = 1): MessageSpec => ({ kind: 'controlChange', channel, controller, range: [0, 127] });
const [fog, , bell] = testRig([]).signals;

describe('proposing a message', () => {
  it('takes the next free number of the channel that the input uses there', () => {
    const rig = testRig([{ message: cc(20, 3) }, { message: cc(21, 3) }, { message: cc(20, 1) }]);
    expect(proposeMessages(rig, fog!, 'weather').map(({ kind, message }) => [kind, 'controller' in message ? message.controller : null, 'channel' in message && message.channel])).toEqual([
      ['controller', 22, 3],
      ['fine controller', 22, 3],
      ['bend', null, 3],
      ['pressure', null, 3],
      ['note', null, 3],
    ]);
  });
  it('proposes a note first for a gate, never one that is taken', () => {
    const rig = testRig([{ signal: 'bell', message: { kind: 'note', channel: 1, note: 36, velocity: 9 } }]);
    expect(proposeMessages(rig, bell!, 'weather')[0]!.message).toMatchObject({ kind: 'note', channel: 1, note: 37 });
  });
  it('where voices have all keys of a channel, proposes one of the next channel that has some', () => {
    const rig = voiceRig({ layout: { kind: 'poly', channel: 1, voices: 8, steal: 'oldest' } }, { layout: { kind: 'run', first: 2, last: 3, steal: 'oldest' } });
    expect(proposeMessages(rig, bell!, 'weather')[0]!.message).toMatchObject({ kind: 'note', channel: 4, note: 36 });
  });
  it('takes a channel that the receiver listens to and that is not wholly of voices', () => {
    const channelsOf = (rig: RigDocument) => [fog!, bell!].map((signal) => [...new Set(proposeMessages(rig, signal, 'weather').flatMap(({ message }) => ('channel' in message ? [message.channel] : [])))]);
    const listens = testRig([{ message: cc(20, 1) }]);
    listens.receivers[0]!.channels = [3, 9];
    expect(channelsOf(listens)).toEqual([[3], [3]]);
    expect(channelsOf(voiceRig({ layout: { kind: 'zone', zone: 'lower', members: 5, steal: 'oldest' } }))).toEqual([[7], [7]]);
    const voices = voiceRig({ layout: { kind: 'zone', zone: 'lower', members: 5, steal: 'oldest' } });
    voices.mappings = testRig([{ message: cc(20, 2) }, { message: cc(21, 2) }]).mappings;
    expect(channelsOf(voices)).toEqual([[7], [7]]);
    // All sixteen.
    expect(proposeMessages(voiceRig({}), fog!, 'weather')).toEqual([]);
    expect(proposeMessages(voiceRig({}), bell!, 'weather').map(({ kind }) => kind)).toEqual(['start', 'stop']);
  });
  it('every proposal, taken one after another, makes no clash', () => {
    let rig = testRig([]);
    for (let i = 0; i < 60; i++) {
      for (const signal of [fog!, bell!]) {
        const [first] = proposeMessages(rig, signal, 'weather');
        rig = { ...rig, mappings: [...rig.mappings, addMapping(rig, signal, 'weather', first!.message).change.to as never] };
      }
    }
    expect(ledgerOf(rig).clashes).toEqual([]);
    expect(ledgerOf(rig).warnings).toEqual([]);
  });
  it('gives a mapping an id that no voice mapping has either', () => {
    const voices = voiceRig({ id: 'fog' }, { id: 'v0-2' });
    expect(addMapping(voices, { ...fog!, name: 'Fog' }, 'weather', cc(20)).id).toBe('fog-2');
    const both = { ...voices, mappings: testRig([{ id: 'v0' }]).mappings };
    expect(duplicateMapping(both, 'v0')!.id).toBe('v0-3');
  });
  it('a note from something that slides has thresholds', () => {
    expect(addMapping(testRig([]), fog!, 'weather', { kind: 'note', channel: 1, note: 40, velocity: 1 }).change.to).toMatchObject({ gate: { on: 0.5, off: 0.4 } });
  });
});

describe('counting on', () => {
  const counted = (message: MessageSpec, rig: RigDocument) => keepOrCountOn(rig, { ...testRig([{ message }]).mappings[0]!, output: 'weather' });
  it('goes past channels of voices, and past those that nobody listens to', () => {
    const voices = voiceRig({ layout: { kind: 'zone', zone: 'lower', members: 5, steal: 'oldest' } });
    expect(counted(cc(20, 2), voices)).toMatchObject({ channel: 7, controller: 20 });
    expect(counted({ kind: 'pitchBend', channel: 1, range: [0, 16383] }, voices)).toMatchObject({ channel: 7 });
    expect(counted({ kind: 'note', channel: 4, note: 60, velocity: 100 }, voices)).toMatchObject({ channel: 7, note: 60 });
    expect(counted(cc(20, 9), voices)).toEqual(cc(20, 9));
    const listens = testRig([{ message: { kind: 'pitchBend', channel: 3, range: [0, 16383] } }]);
    listens.receivers[0]!.channels = [3, 9];
    expect(counted({ kind: 'pitchBend', channel: 3, range: [0, 16383] }, listens)).toMatchObject({ channel: 9 });
    expect(counted({ kind: 'transport', action: 'start' }, voices)).toEqual({ kind: 'transport', action: 'start' });
  });
});

it('a copy of notes goes to a channel that is listened to and free', () => {
  const rig = voiceRig({ layout: { kind: 'poly', channel: 3, voices: 8, steal: 'oldest' } }, { layout: { kind: 'run', first: 5, last: 6, steal: 'oldest' } });
  rig.receivers[0]!.channels = [3, 5, 9];
  expect((duplicateVoiceMapping(rig, 'v0')!.change.to as RigVoiceMapping).layout).toMatchObject({ kind: 'poly', channel: 9 });
});

describe('finding what is moved', () => {
  const finder = () => new MovedFinder(new Map(testRig([]).signals.map((signal) => [signal.id, signal])));
  it('takes the fader, not the touch that comes first', () => {
    const it = finder();
    for (const [id, value, timeMs] of [['fog', 0.2, 0], ['fog.touch', 0, 0], ['fog.touch', 1, 10], ['fog', 0.3, 20], ['fog', 0.6, 100]] as const) it.value(id, value, timeMs);
    expect(it.found(300)).toBeNull();
    expect(it.found(400)).toBe('fog');
  });
  it('waits for a finger that lies on a fader before it moves it', () => {
    const it = finder();
    for (const [id, value, timeMs] of [['fog', 0.2, 0], ['fog.touch', 0, 0], ['fog.touch', 1, 10]] as const) it.value(id, value, timeMs);
    expect(it.found(1000)).toBeNull();
    it.value('fog', 0.5, 1100);
    expect(it.found(1110)).toBe('fog');
  });
  it('takes a button that is pressed alone, and nothing for a tremble', () => {
    const it = finder();
    for (const [id, value, timeMs] of [['fog', 0.5, 0], ['bell', 0, 0], ['fog', 0.55, 5], ['fog', 0.45, 9]] as const) it.value(id, value, timeMs);
    expect(it.found(9999)).toBeNull();
    it.value('bell', 1, 10_000);
    it.value('bell', 0, 10_100);
    expect(it.found(10_300)).toBeNull();
    expect(it.found(10_400)).toBe('bell');
  });
  it('a compass that trembles about north does not move, for all that 359 lies beside 0', () => {
    const [fog] = testRig([]).signals;
    const it = new MovedFinder(new Map([['fog', { ...fog!, range: [0, 360] as [number, number], period: 360 }]]));
    for (const [value, timeMs] of [[359, 0], [1, 10], [358, 20], [2, 30]] as const) it.value('fog', value, timeMs);
    expect(it.found(9999)).toBeNull();
    it.value('fog', 90, 10_000);
    expect(it.found(10_400)).toBe('fog');
  });
  it('a button that is held from before must be let go and pressed', () => {
    const it = finder();
    it.value('bell', 1, 0);
    it.value('bell', 0.5, 10);
    expect(it.found(1000)).toBeNull();
    it.value('bell', 0, 1000);
    it.value('bell', 1, 1100);
    expect(it.found(1500)).toBeNull();
    expect(it.found(2600)).toBe('bell');
  });
});
