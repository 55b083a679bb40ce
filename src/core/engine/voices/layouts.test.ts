import { describe, expect, it } from 'vitest';
import type { RigDocument } from '../../rig/document';
import type { RigVoiceMapping } from '../../rig/voices';
import type { EngineEvent } from '../event';
import { playVoices, voiceRig } from './testVoices';

describe('a zone (MPE 1.0, RP-053: manager on 1, members from 2 up)', () => {
  it('says bend, slide and pressure on the member before the note, and a bend of 60.5 at range 48 as 8192 + 85', () => {
    const play = playVoices(voiceRig({}));
    play.on(0, 7, 60.5, { strike: 100 / 127, pressure: 0, slide: 0.5 });
    // 60.5 is nearest to 61 (as numbers are rounded), half a semitone below it: 8192 - 8192 * 0.5 / 48 = 8106.67.
    expect(play.take()).toEqual(['E1 2B 3F', 'B1 4A 40', 'D1 00', '91 3D 64']);
    play.move(1, 7, { pitch: 60 });
    expect(play.take()).toEqual(['E1 55 3E']);
    play.off(2, 7, 0.5);
    expect(play.take()).toEqual(['81 3D 40']);
    expect(new Set(play.who)).toEqual(new Set(['voice']));
  });

  it('gives away the member that was released longest ago', () => {
    const play = playVoices(voiceRig({ layout: { kind: 'zone', zone: 'lower', members: 3, steal: 'oldest' } }));
    const channels = () => play.take().flatMap((bytes) => (/^9/.test(bytes) ? [parseInt(bytes[1]!, 16) + 1] : []));
    for (let voice = 0; voice < 3; voice++) play.on(voice, voice, 60 + voice);
    expect(channels()).toEqual([2, 3, 4]);
    play.off(10, 1);
    play.off(11, 0);
    play.on(12, 3, 70);
    play.on(13, 4, 71);
    expect(channels()).toEqual([3, 2]);
  });

  it('an upper zone has its members from 15 down, its manager on 16', () => {
    const play = playVoices(voiceRig({ layout: { kind: 'zone', zone: 'upper', members: 2, steal: 'oldest' } }));
    play.on(0, 0, 60);
    play.on(0, 1, 62);
    expect(play.take().filter((bytes) => bytes.startsWith('9'))).toEqual(['9E 3C 64', '9D 3E 64']);
    play.engine.take({ kind: 'pedal', timeMs: 1, stream: 0, controller: 64, value: 127 });
    expect(play.take()).toEqual(['BF 40 7F']);
  });
});

describe('when all channels are taken', () => {
  const full = (steal: 'oldest' | 'quietest' | 'notLowest' | 'refuse') => {
    const play = playVoices(voiceRig({ layout: { kind: 'run', first: 1, last: 3, steal }, slide: undefined }));
    play.on(0, 0, 48, { strike: 0.9, pressure: 0.2 });
    play.on(1, 1, 60, { strike: 0.9, pressure: 0.1 });
    play.on(2, 2, 64, { strike: 0.9, pressure: 0.5 });
    play.take();
    play.on(3, 3, 67, { strike: 0.9, pressure: 0.3 });
    return play.take().filter((bytes) => /^[89]/.test(bytes));
  };
  it.each([
    ['oldest', ['80 30 40', '90 43 72']],
    ['quietest', ['81 3C 40', '91 43 72']],
    ['notLowest', ['81 3C 40', '91 43 72']],
    ['refuse', []],
  ] as const)('%s', (steal, sent) => expect(full(steal)).toEqual(sent));

  it('a voice that was robbed says nothing any more, and its end ends nobody else', () => {
    const play = playVoices(voiceRig({ layout: { kind: 'run', first: 1, last: 1, steal: 'oldest' } }));
    play.on(0, 0, 60);
    play.on(1, 1, 64);
    play.take();
    play.move(2, 0, { pitch: 61, pressure: 1, slide: 1 });
    play.off(3, 0);
    expect(play.take()).toEqual([]);
    play.off(4, 1);
    expect(play.take()).toEqual(['80 40 40']);
  });
});

describe('a run of channels', () => {
  it('gives pedals to each', () => {
    const play = playVoices(voiceRig({ layout: { kind: 'run', first: 5, last: 7, steal: 'oldest' } }));
    play.engine.take({ kind: 'pedal', timeMs: 0, stream: 0, controller: 64, value: 127 });
    expect(play.take()).toEqual(['B4 40 7F', 'B5 40 7F', 'B6 40 7F']);
    play.engine.take({ kind: 'endStream', timeMs: 1, stream: 0 });
    expect(play.take()).toEqual(['B4 40 00', 'B5 40 00', 'B6 40 00']);
  });
});

describe('a pedal that is down when its voice mapping leaves its channels by an edit', () => {
  const layout = { kind: 'poly', channel: 4, voices: 8, steal: 'oldest' } as const;
  const other = { layout, on: false };
  it.each<[string, (rig: RigDocument) => RigDocument]>([
    ['is switched off', (rig) => ({ ...rig, voiceMappings: rig.voiceMappings.map((mapping) => ({ ...mapping, on: false })) })],
    ['goes, while another keeps the channel', (rig) => ({ ...rig, voiceMappings: rig.voiceMappings.slice(1) })],
    ['is played by another stream', (rig) => ({ ...rig, voiceMappings: rig.voiceMappings.map((mapping) => ({ ...mapping, stream: 'other' })) })],
  ])('comes up: it %s', (_, edit) => {
    const rig = voiceRig({ layout }, other);
    rig.streams.push({ id: 'other', name: 'Other', input: 'hull', source: 'lowerZone' });
    const play = playVoices(rig);
    play.engine.take({ kind: 'pedal', timeMs: 0, stream: 0, controller: 64, value: 127 });
    expect(play.take()).toEqual(['B3 40 7F']);
    play.engine.take({ kind: 'rig', timeMs: 1, rig: edit(rig) });
    expect(play.take()).toEqual(['B3 40 00']);
  });

  it('can go down again at once', () => {
    const rig = voiceRig({ layout }, { layout });
    const play = playVoices(rig);
    play.engine.take({ kind: 'pedal', timeMs: 0, stream: 0, controller: 64, value: 127 });
    play.engine.take({ kind: 'rig', timeMs: 1, rig: { ...rig, voiceMappings: rig.voiceMappings.slice(1) } });
    play.engine.take({ kind: 'pedal', timeMs: 2, stream: 0, controller: 64, value: 127 });
    expect(play.take()).toEqual(['B3 40 7F', 'B3 40 00', 'B3 40 7F']);
  });
});

describe('one channel', () => {
  it('poly: what belongs to the channel follows the newest voice, and is said when it changes', () => {
    const play = playVoices(voiceRig({ layout: { kind: 'poly', channel: 4, voices: 8, steal: 'oldest' } }));
    play.on(0, 0, 60);
    expect(play.take()).toEqual(['E3 00 40', 'B3 4A 40', 'D3 00', '93 3C 64']);
    play.on(1, 1, 64);
    expect(play.take()).toEqual(['93 40 64']);
    play.move(2, 0, { pressure: 1 });
    play.move(2, 1, { pressure: 0.5 });
    expect(play.take()).toEqual(['D3 40']);
  });

  it('poly: when the newest ends, the channel is again as the one before it stands', () => {
    const play = playVoices(voiceRig({ layout: { kind: 'poly', channel: 4, voices: 8, steal: 'oldest' } }));
    play.on(0, 0, 60, { pressure: 0.2 });
    play.on(1, 1, 64.5, { pressure: 1 });
    play.take();
    // Bend range 48: half a semitone is 8192 * 0.5 / 48 = 85 steps (MIDI 1.0).
    play.move(2, 1, { pitch: 64 });
    play.take();
    play.off(3, 1);
    expect(play.take()).toEqual(['83 41 40', 'E3 00 40', 'D3 19']);
    play.off(4, 0);
    expect(play.take()).toEqual(['83 3C 40']);
  });

  it('poly: a key that another voice strikes again belongs to that one', () => {
    const play = playVoices(voiceRig({ layout: { kind: 'poly', channel: 1, voices: 8, steal: 'oldest' }, pressure: undefined, slide: undefined, pitch: { transpose: 0, bends: false } }));
    play.on(0, 0, 60);
    play.on(1, 1, 60.2);
    play.off(2, 0);
    play.off(3, 1);
    expect(play.take()).toEqual(['90 3C 64', '80 3C 40', '90 3C 64', '80 3C 40']);
  });

  it('poly pressure is said of its key, after the note', () => {
    const play = playVoices(voiceRig({ layout: { kind: 'poly', channel: 1, voices: 8, steal: 'oldest' }, slide: undefined, pitch: { transpose: 0, bends: false }, pressure: { shaping: {}, message: { kind: 'polyPressure' }, range: [0, 127] } }));
    play.on(0, 0, 60, { pressure: 0.5 });
    play.on(1, 1, 64);
    play.move(2, 0, { pressure: 1 });
    expect(play.take()).toEqual(['90 3C 64', 'A0 3C 40', '90 40 64', 'A0 40 00', 'A0 3C 7F']);
  });

  const mono = (more: object, bends = false) => voiceRig({ layout: { kind: 'mono', channel: 1, priority: 'last', legato: false, glideMs: 0, ...more }, pressure: undefined, slide: undefined, pitch: { transpose: 0, bends } });
  it.each([
    ['last', ['90 40 64', '80 40 40', '90 43 64', '80 43 40', '90 3C 64', '80 3C 40', '90 43 64', '80 43 40', '90 40 64', '80 40 40']],
    ['highest', ['90 40 64', '80 40 40', '90 43 64', '80 43 40', '90 40 64', '80 40 40']],
    ['lowest', ['90 40 64', '80 40 40', '90 3C 64', '80 3C 40', '90 40 64', '80 40 40']],
  ])('mono, %s', (priority, sent) => {
    const play = playVoices(mono({ priority }));
    play.on(0, 0, 64);
    play.on(1, 1, 67);
    play.on(2, 2, 60);
    play.off(3, 2);
    play.off(4, 1);
    play.off(5, 0);
    expect(play.take()).toEqual(sent);
  });

  it('mono, legato: the next begins before the one before it ends, also on the same key', () => {
    const play = playVoices(mono({ legato: true }));
    play.on(0, 0, 60);
    play.on(1, 1, 64);
    expect(play.take()).toEqual(['90 3C 64', '90 40 64', '80 3C 40']);
    play.on(2, 2, 64.1);
    play.off(3, 2);
    play.off(4, 1);
    play.off(5, 0);
    const rest = play.take();
    expect(rest.filter((bytes) => bytes === '90 40 64').length).toBe(rest.filter((bytes) => bytes === '80 40 40').length - 1);
    expect(rest.at(-1)).toBe('80 3C 40');
  });

  it('mono, glide: half of the way after half of the time, in a straight line', () => {
    const play = playVoices(mono({ legato: true, glideMs: 100 }, true));
    play.on(0, 0, 60);
    play.take();
    play.on(10, 1, 72);
    // 12 semitones below at range 48: 8192 - 2048 = 6144 = 30 00.
    expect(play.take()).toEqual(['E0 00 30', '90 48 64', '80 3C 40']);
    play.engine.take({ kind: 'tick', timeMs: 60 });
    expect(play.take()).toEqual(['E0 00 38']);
    play.engine.take({ kind: 'tick', timeMs: 110 });
    expect(play.take()).toEqual(['E0 00 40']);
    expect(play.engine.pending).toBe(false);
  });
});

describe('one voice alone, to shape a sound', () => {
  it('by scene: what sounds ends, and one voice plays the first member until another scene says otherwise', () => {
    const rig = voiceRig({});
    const scene = { name: 'S', mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0 };
    rig.scenes.push({ ...scene, id: 'edit', alone: { weather: true } }, { ...scene, id: 'play', alone: { weather: false } });
    const play = playVoices(rig);
    play.on(0, 0, 60);
    play.take();
    play.engine.take({ kind: 'recall', timeMs: 1, scene: 'edit' });
    expect(play.take()).toEqual(['81 3C 40']);
    play.on(2, 1, 62);
    play.on(3, 2, 64);
    expect(play.take().filter((bytes) => /^[89]/.test(bytes))).toEqual(['91 3E 64', '81 3E 40', '91 40 64']);
    play.engine.take({ kind: 'recall', timeMs: 4, scene: 'play' });
    play.on(5, 3, 60);
    play.on(6, 4, 62);
    expect(play.take().filter((bytes) => bytes.startsWith('9')).map((bytes) => bytes.slice(0, 2))).toEqual(['92', '93']);
  });
});

describe('bad input', () => {
  it('a voice that begins twice ends first; one that did not begin says nothing', () => {
    const play = playVoices(voiceRig({ pressure: undefined, slide: undefined, pitch: { transpose: 0, bends: false } }));
    play.move(0, 1, { pitch: 60 });
    play.off(0, 1);
    play.on(1, 1, 60);
    play.on(2, 1, 62);
    play.off(3, 1);
    play.off(4, 1);
    expect(play.take()).toEqual(['91 3C 64', '81 3C 40', '92 3E 64', '82 3E 40']);
  });
  it('60 fingers: as many sound as there are channels, and all end', () => {
    const play = playVoices(voiceRig({}));
    for (let voice = 0; voice < 60; voice++) play.on(voice, voice, 30 + voice);
    for (let voice = 0; voice < 60; voice++) play.off(100 + voice, voice);
    const sent = play.take();
    expect(sent.filter((bytes) => bytes.startsWith('9')).length).toBe(sent.filter((bytes) => bytes.startsWith('8')).length);
  });
  it('numbers that are none, and beyond all ends', () => {
    const play = playVoices(voiceRig({}));
    play.on(0, 1, NaN);
    expect(play.take()).toEqual([]);
    play.on(1, 1, 300, { strike: 9, pressure: -4, slide: Infinity });
    expect(play.take()).toEqual(['E1 7F 7F', 'B1 4A 7F', 'D1 00', '91 7F 7F']);
  });
  it('a bend range of 0 leaves the bend in its middle', () => {
    const rig = voiceRig({});
    rig.receivers[0]!.bendRangeSemitones = 0;
    const play = playVoices(rig);
    play.on(0, 1, 60.4);
    play.move(1, 1, { pitch: 66 });
    expect(play.take().filter((bytes) => bytes.startsWith('E'))).toEqual(['E1 00 40']);
  });
});

describe('an edit while voices sound', () => {
  it('says nothing again where it is about something else, and what became of an axis where it is not', () => {
    const rig = voiceRig({});
    const play = playVoices(rig);
    play.on(0, 0, 60.3, { pressure: 0.5 });
    play.on(0, 1, 64, { pressure: 0.25 });
    play.take();
    play.engine.take({ kind: 'rig', timeMs: 1, rig: { ...rig, tempoBpm: 90, scenes: [{ id: 's', name: 'S', mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0 }] } });
    for (let timeMs = 4; timeMs < 400; timeMs += 4) play.engine.take({ kind: 'tick', timeMs });
    expect(play.take()).toEqual([]);
    const [voices] = rig.voiceMappings;
    play.engine.take({ kind: 'rig', timeMs: 401, rig: { ...rig, voiceMappings: [{ ...voices!, pressure: { shaping: {}, message: { kind: 'controlChange', controller: 11 }, range: [0, 127] } }] } });
    for (let timeMs = 404; timeMs < 800; timeMs += 4) play.engine.take({ kind: 'tick', timeMs });
    expect(play.take().sort()).toEqual(['B1 0B 40', 'B2 0B 20']);
    play.off(801, 0);
    play.off(801, 1);
    expect(play.take()).toEqual(['81 3C 40', '82 40 40']);
  });
  it('of how far their receiver bends says at once what bends them as far as before', () => {
    const rig = voiceRig({});
    const { engine, on, take } = playVoices(rig);
    on(0, 1, 60.25);
    take();
    // A quarter of a semitone: 8192 + 8192 * 0.25 / 12, in 7 and 7 bits (engine.md, bend in semitones).
    engine.take({ kind: 'rig', timeMs: 10, rig: { ...rig, receivers: [{ ...rig.receivers[0]!, bendRangeSemitones: 12 }] } });
    expect(take()).toEqual(['E1 2B 41']);
    engine.take({ kind: 'rig', timeMs: 20, rig: { ...rig, receivers: [{ ...rig.receivers[0]!, bendRangeSemitones: 12, about: 'Below deck' }] } });
    expect(take()).toEqual([]);
  });
  it('of the scale that they are pulled to pulls them to its pitches', () => {
    const pull = { scale: { kind: 'kept', scale: 'planks' }, referenceHz: 440, atStart: 1, held: 1, bandCents: 1200, speedMs: 0, atRelease: 0 } as const;
    const rigOf = (cents: number[]) => ({ ...voiceRig({ pitch: { transpose: 0, bends: true, pull } }), scales: [{ id: 'planks', name: 'Planks', cents }] });
    const { engine, on, take } = playVoices(rigOf([400, 1200]));
    on(0, 1, 62.3);
    // A4 at 440 Hz is the tenth degree from middle C, 400 cents above its period: the nearest pitch to 62.3 is 69 - 4 = 65.
    expect(take().at(-1)).toBe('91 41 64');
    engine.take({ kind: 'rig', timeMs: 400, rig: rigOf([450, 1200]) });
    for (let timeMs = 404; timeMs < 800; timeMs += 4) engine.take({ kind: 'tick', timeMs });
    // Now 69 - 4.5 = 64.5: half a semitone down, 8192 - 8192 * 0.5 / 48.
    expect(take()).toEqual(['E1 2B 3F']);
  });
  it('lifts a pedal that an axis plays where it plays another controller, is switched off or its stream goes', () => {
    const rig = voiceRig({ slide: { shaping: {}, message: { kind: 'controlChange', controller: 64 }, range: [0, 127] } });
    const [voices] = rig.voiceMappings;
    const after = (happens: EngineEvent): string[] => {
      const { engine, on, take } = playVoices(rig);
      on(0, 1, 60, { slide: 1 });
      take();
      engine.take(happens);
      return take().filter((bytes) => bytes.startsWith('B1 40'));
    };
    const edit = (more: Partial<RigVoiceMapping>): EngineEvent => ({ kind: 'rig', timeMs: 9, rig: { ...rig, voiceMappings: [{ ...voices!, ...more }] } });
    expect(after(edit({ slide: { shaping: {}, message: { kind: 'controlChange', controller: 74 }, range: [0, 127] } }))).toEqual(['B1 40 00']);
    expect(after(edit({ on: false }))).toEqual(['B1 40 00']);
    expect(after({ kind: 'endStream', timeMs: 9, stream: 0 })).toEqual(['B1 40 00']);
    expect(after(edit({ name: 'Below deck', pressure: { shaping: {}, message: { kind: 'controlChange', controller: 11 }, range: [0, 127] } }))).toEqual([]);
  });
  it('that sends them elsewhere ends them there', () => {
    const rig = voiceRig({});
    const play = playVoices(rig);
    play.on(0, 0, 60);
    play.take();
    const [voices] = rig.voiceMappings;
    play.engine.take({ kind: 'rig', timeMs: 1, rig: { ...rig, voiceMappings: [{ ...voices!, layout: { kind: 'run', first: 4, last: 9, steal: 'oldest' } }] } });
    expect(play.take()).toEqual(['81 3C 40']);
    play.move(2, 0, { pitch: 61 });
    play.off(3, 0);
    expect(play.take()).toEqual([]);
  });
});
