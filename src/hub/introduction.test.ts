import { voiceRig } from '../core/engine/voices/testVoices';
import { voiceEvent } from '../core/voices/event';
import { Introduction } from './introduction';
import { VOICE_BASE } from '../core/engine/sink';
import { expect, it, vi } from 'vitest';
import { testRig } from '../core/engine/testRig';
import { hexOf } from '../core/midi/describe';
import type { RigDocument } from '../core/rig/document';
import { memoryStore, SoundingBook } from './outputs/soundingBook';
import { Player } from './player';

const clock = vi.hoisted(() => ({ nowMs: 10_000 }));
vi.mock('./time', () => ({ hubTimeMs: () => clock.nowMs }));

const cc = (controller: number) => ({ kind: 'controlChange' as const, channel: 1, controller, range: [0, 127] as [number, number] });

it('one of several goes on through edits, longer than half a minute, and what it held back is said when its mapping goes', () => {
  const rig = testRig([{ message: cc(1) }, { message: cc(2) }]);
  const sent: string[] = [];
  const ended = vi.fn();
  const player = new Player(new SoundingBook(memoryStore()), { introduced: ended }, () => ({ takes: 'midi', mayComeBack: false, send: ({ bytes }) => void sent.push(hexOf(bytes)), close: () => undefined }));
  const load = (to: RigDocument, stage = false) => {
    player.load(to, 1, stage, {});
    player.tick();
  };
  const move = (value: number) => player.incoming.sample(player.signals.find('fog')!, (clock.nowMs += 10), value, null);
  load(rig);
  sent.length = 0;
  expect(player.introduce('m1', 'follow', { at: 1, of: 2, words: 'Mapping 1' })).toBe(true);
  move(0.5);
  expect(sent.splice(0)).toEqual(['B0 02 40']);
  // An edit that puts another mapping before it, which moves its place in the plan.
  load({ ...rig, mappings: [{ ...rig.mappings[0]!, id: 'new', message: cc(3) }, ...rig.mappings] });
  sent.length = 0;
  clock.nowMs += 60_000;
  player.tick();
  move(1);
  expect(sent.splice(0)).toEqual(['B0 02 7F']);
  expect(ended).not.toHaveBeenCalled();
  load({ ...rig, mappings: [rig.mappings[0]!] });
  expect(ended).toHaveBeenCalledOnce();
  expect(sent).toContain('B0 01 7F');
  // Alone, it ends with every edit, and by itself.
  expect(player.introduce('m0', 'follow')).toBe(true);
  load(rig);
  expect(player.introduction).toBeNull();
});

it('a voice that was bent meanwhile is said where it stands once it is over', () => {
  const rig = { ...voiceRig({}), mappings: testRig([{ message: cc(1) }]).mappings };
  const sent: string[] = [];
  const player = new Player(new SoundingBook(memoryStore()), {}, () => ({ takes: 'midi', mayComeBack: false, send: ({ bytes }) => void sent.push(hexOf(bytes)), close: () => undefined }));
  player.load(rig, 1, false, {});
  const hull = player.streams.find('hull')!;
  player.incoming.voice(hull, clock.nowMs, { ...voiceEvent('on'), voice: 1, pitch: 60 });
  player.introduce('m0', 'follow');
  sent.length = 0;
  player.incoming.voice(hull, (clock.nowMs += 10), { ...voiceEvent('move'), voice: 1, pitch: 61 });
  expect(sent).toEqual([]);
  player.endIntroduction();
  clock.nowMs += 300;
  player.tick();
  // MIDI 1.0: 8192 + 8192 / 48 is 8363, 2B 41.
  expect(sent).toContain('E1 2B 41');
});

it('Panic ends one: its note is not pressed again', () => {
  const sent: string[] = [];
  const ended = vi.fn();
  const player = new Player(new SoundingBook(memoryStore()), { introduced: ended }, () => ({ takes: 'midi', mayComeBack: false, send: ({ bytes }) => void sent.push(hexOf(bytes)), close: () => undefined }));
  player.load(testRig([{ signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100 } }]), 1, false, {});
  player.introduce('m0', 'sweep');
  player.tick();
  expect(sent).toEqual(['90 3C 64']);
  player.panic();
  sent.length = 0;
  for (let i = 0; i < 30; i++) {
    clock.nowMs += 100;
    player.tick();
  }
  expect([sent, ended.mock.calls.length]).toEqual([[], 1]);
});

it('one of several ends on Stage', () => {
  const rig = testRig([{ message: cc(1) }]);
  const player = new Player(new SoundingBook(memoryStore()));
  player.load(rig, 1, false, {});
  player.introduce('m0', 'sweep', { at: 1, of: 1, words: 'Mapping 0' });
  player.load(rig, 1, true, {});
  expect(player.introduction).toBeNull();
});

it('holds voices back as it holds back mappings, and says none of them again as if it were one', () => {
  const introduction = new Introduction(0, 'fog', 'sweep', 0);
  expect([introduction.holdsBack(VOICE_BASE), introduction.holdsBack(VOICE_BASE + 3), introduction.holdsBack(2), introduction.holdsBack(0)]).toEqual([true, true, true, false]);
  expect([...introduction.withheld]).toEqual([2]);
});

it('a voice mapping that is introduced is heard alone, follows the hand, and leaves nothing behind', () => {
  const rig = voiceRig({}, { stream: 'keel', layout: { kind: 'poly', channel: 1, voices: 4, steal: 'oldest' } });
  rig.voiceMappings[0]!.layout = { kind: 'run', first: 3, last: 6, steal: 'oldest' };
  rig.streams.push({ id: 'keel', name: 'Keel', input: 'hull', source: 'channel 2' });
  const player = new Player(new SoundingBook(memoryStore()));
  player.load(rig, 1, false, {});
  const sent: string[] = [];
  const send = player.outputs.midi.bind(player.outputs);
  player.outputs.midi = (output, by, bytes, length, address) => {
    sent.push(hexOf(bytes.slice(0, length)));
    send(output, by, bytes, length, address);
  };
  const play = (stream: string, kind: 'on' | 'off') => player.incoming.voice(player.streams.find(stream)!, clock.nowMs, { ...voiceEvent(kind), voice: 1, pitch: 60 });
  expect(player.introduce('v1', 'sweep')).toBe(true);
  expect(player.introduction!.how).toBe('follow');
  for (const stream of ['hull', 'keel']) play(stream, 'on');
  expect(sent.filter((bytes) => bytes.startsWith('9'))).toEqual(['90 3C 64']);
  clock.nowMs += 100;
  player.tick();
  player.load({ ...rig, tempoBpm: 90 }, 2, false, {});
  expect(player.introduction).toBeNull();
  for (const stream of ['hull', 'keel']) play(stream, 'off');
  expect(sent.filter((bytes) => bytes.startsWith('80'))).toEqual(['80 3C 40']);
});

it('voices have their turn among others: played, never swept, and found again after an edit', () => {
  const rig = { ...voiceRig({}, { layout: { kind: 'mono', channel: 16, priority: 'last', legato: true, glideMs: 0 } }), mappings: testRig([{ message: cc(1) }]).mappings };
  const sent: string[] = [];
  const player = new Player(new SoundingBook(memoryStore()), {}, () => ({ takes: 'midi', mayComeBack: false, send: ({ bytes }) => void sent.push(hexOf(bytes)), close: () => undefined }));
  player.load(rig, 1, false, {});
  expect(player.introduce('v1', 'sweep', { at: 1, of: 2, words: 'Voices 1' })).toBe(true);
  player.load({ ...rig, voiceMappings: [rig.voiceMappings[1]!, rig.voiceMappings[0]!] }, 2, false, {});
  sent.length = 0;
  player.tick();
  player.incoming.sample(player.signals.find('fog')!, (clock.nowMs += 10), 1, null);
  player.incoming.voice(player.streams.find('hull')!, clock.nowMs, { ...voiceEvent('on'), voice: 1, pitch: 60 });
  expect(sent.filter((bytes) => bytes.startsWith('9'))).toEqual(['9F 3C 64']);
  expect(sent.every((bytes) => bytes[1] === 'F')).toBe(true);
  player.endIntroduction();
  expect(sent).toContain('B0 01 7F');
});
