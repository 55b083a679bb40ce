import { describe, expect, it } from 'vitest';
import { MovedFinder } from '../gesture/moved';
import { testRig } from '../engine/testRig';
import { voiceRig } from '../engine/voices/testVoices';
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
  it('a note from something that slides has thresholds', () => {
    expect(addMapping(testRig([]), fog!, 'weather', { kind: 'note', channel: 1, note: 40, velocity: 1 }).change.to).toMatchObject({ gate: { on: 0.5, off: 0.4 } });
  });
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
