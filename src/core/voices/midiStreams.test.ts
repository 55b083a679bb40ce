import { describe, expect, it } from 'vitest';
import { playVoices, voiceRig } from '../engine/voices/testVoices';
import { decode } from '../midi/decode';
import { rpn } from '../midi/testMessages';
import { randomFrom } from '../standIn/noise';
import { MidiStreams } from './midiStreams';

interface Said {
  stream: string;
  kind: string;
  voice: number;
  [field: string]: unknown;
}

/** A device with streams, and what is heard of them. */
function feed(...sources: string[]) {
  const said: Said[] = [];
  const streams = new MidiStreams({
    voice: (stream, { kind, voice, ...fields }) => said.push({ stream, kind, voice, ...Object.fromEntries(Object.entries(fields).filter(([name, value]) => name !== 'stream' && !Number.isNaN(value))) }),
    pedal: (stream, controller, value) => said.push({ stream, kind: 'pedal', voice: controller, value }),
  });
  streams.setStreams(sources.map((source, i) => ({ id: `s${i}`, name: source, input: 'hull', source })));
  const hear = (...messages: number[][]) => {
    for (const bytes of messages) streams.message(decode(Uint8Array.from(bytes))!);
    return said.splice(0);
  };
  return { streams, hear };
}

describe('plain MIDI', () => {
  it('has one stream from the first note on, whatever the channel', () => {
    const { hear } = feed('all');
    expect(hear([0x92, 60, 127], [0x82, 60, 64])).toEqual([
      { stream: 's0', kind: 'on', voice: 3 * 128 + 60, pitch: 60, strike: 1, pressure: 0, slide: 64 / 127 },
      { stream: 's0', kind: 'off', voice: 3 * 128 + 60, release: 64 / 127 },
    ]);
  });
  it('a note on with velocity 0 is an end that says nothing of its velocity (MIDI 1.0)', () => expect(feed('all').hear([0x90, 60, 9], [0x90, 60, 0])[1]).toEqual({ stream: 's0', kind: 'off', voice: 188 }));
  it('bends by two semitones, or by what RPN 0 says, with cents', () => {
    const { hear } = feed('all');
    hear([0x90, 60, 100]);
    expect(hear([0xe0, 0, 0x60])[0]).toMatchObject({ kind: 'move', pitch: 61 });
    expect(hear(...rpn(1, 0, 12, 50)).at(-1)).toMatchObject({ pitch: 60 + 12.5 / 2 });
  });
  it('lifts a pedal where its stream is made of other notes while it is down, and leaves it where it is not', () => {
    const { streams, hear } = feed('channel 1', 'all');
    hear([0xb0, 64, 127], [0xb0, 66, 127], [0xb0, 66, 0]);
    streams.setStreams([{ id: 's0', name: 's0', input: 'hull', source: 'channel 2' }, { id: 's1', name: 'Hull', input: 'hull', source: 'all' }]);
    expect(hear()).toEqual([{ stream: 's0', kind: 'pedal', voice: 64, value: 0 }]);
    streams.setStreams([]);
    expect(hear()).toEqual([{ stream: 's1', kind: 'pedal', voice: 64, value: 0 }]);
    streams.setStreams([{ id: 's1', name: 's1', input: 'hull', source: 'all' }]);
    streams.setStreams([]);
    expect(hear()).toEqual([]);
  });
  it('is split by channel and by keys; pedals go to the streams of their channel', () => {
    const { hear } = feed('channel 2', 'keys 0 59');
    expect(hear([0x91, 72, 100], [0x90, 48, 100], [0x91, 50, 100]).map(({ stream, pitch }) => `${stream} ${String(pitch)}`)).toEqual(['s0 72', 's1 48', 's0 50', 's1 50']);
    expect(hear([0xb0, 64, 127]).map(({ stream }) => stream)).toEqual(['s1']);
  });
  it('poly pressure presses its key alone', () => {
    const { hear } = feed('all');
    hear([0x90, 60, 100], [0x90, 64, 100]);
    expect(hear([0xa0, 64, 127])).toEqual([{ stream: 's0', kind: 'move', voice: 192, pressure: 1 }]);
  });
  it('a key that is struck again before it was let go of ends where it is not heard any more', () => {
    const { streams, hear } = feed('all', 'channel 1');
    hear([0x90, 60, 100]);
    streams.setStreams([{ id: 's0', name: '', input: 'hull', source: 'keys 0 30' }, { id: 's1', name: '', input: 'hull', source: 'channel 1' }]);
    expect(hear([0x90, 60, 127])).toMatchObject([{ kind: 'off', stream: 's0' }, { kind: 'on', stream: 's1', strike: 1 }]);
    expect(hear([0x80, 60, 0])).toMatchObject([{ kind: 'off', stream: 's1' }]);
  });
  it('ends where it began, though its stream takes other notes by now; all notes off and a vanished device end all', () => {
    const { streams, hear } = feed('all');
    hear([0x90, 60, 100], [0x91, 62, 100]);
    streams.setStreams([{ id: 's0', name: '', input: 'hull', source: 'channel 9' }]);
    expect(hear([0x80, 60, 0])).toMatchObject([{ kind: 'off', stream: 's0' }]);
    expect(hear([0xb1, 123, 0])).toMatchObject([{ kind: 'off', stream: 's0' }]);
  });
  it('a device that went has let go of its wheel when it is back', () => {
    const { streams, hear } = feed('all');
    hear([0xe0, 0, 0x60], [0xd0, 90], [0x90, 60, 100]);
    streams.letGo();
    expect(hear([0x90, 60, 100])).toMatchObject([{ kind: 'off' }, { kind: 'on', pitch: 60, pressure: 0 }]);
  });
});

describe('channel mode messages', () => {
  it.each([120, 123, 124, 125, 126, 127])('%i ends all notes of its channel (MIDI 1.0, table IV)', (controller) => {
    const { hear } = feed('all');
    hear([0x90, 60, 100], [0x90, 64, 100], [0x91, 62, 100]);
    expect(hear([0xb0, controller, 0]).map(({ kind, voice }) => `${kind} ${voice}`)).toEqual(['off 188', 'off 192']);
  });
  it('121 puts back bend, pressure and pedals of its channel, and selects no parameter; slides stay (MMA RP-015)', () => {
    const { hear } = feed('all');
    hear([0x90, 60, 100], [0xe0, 0, 0x60], [0xd0, 90], [0xb0, 74, 100], [0xa0, 60, 99], [0xb0, 101, 0], [0xb0, 100, 0]);
    expect(hear([0xb0, 121, 0])).toEqual([
      { stream: 's0', kind: 'move', voice: 188, pitch: 60 },
      { stream: 's0', kind: 'move', voice: 188, pressure: 0 },
      ...[64, 65, 66, 67].map((voice) => ({ stream: 's0', kind: 'pedal', voice, value: 0 })),
    ]);
    hear([0xb0, 6, 12]);
    expect(hear([0x90, 62, 127], [0xe0, 0, 0x60])).toMatchObject([{ pitch: 62, pressure: 0, slide: 100 / 127 }, { pitch: 61 }, { pitch: 63 }]);
  });
  it('on the manager of a zone go for all of it', () => {
    const { hear } = feed('all');
    hear(...rpn(1, 6, 3), [0x91, 60, 100], [0x92, 64, 100], [0x95, 67, 100], [0xe1, 0, 0x60], [0xe5, 0, 0x60]);
    expect(hear([0xb0, 121, 0]).filter(({ kind }) => kind === 'move').map(({ voice, pitch, pressure }) => [voice, pitch ?? pressure])).toEqual([[316, 60], [316, 0], [448, 64], [448, 0]]);
    expect(hear([0xb0, 123, 0]).map(({ voice }) => voice)).toEqual([316, 448]);
  });
});

describe('MPE (RP-053)', () => {
  it('RPN 6 makes a zone: 48 semitones for its members, 2 for its manager, whose bend comes on top', () => {
    const { hear } = feed('all');
    hear(...rpn(1, 6, 15), [0xe1, 0, 0x60], [0x91, 60, 100]);
    expect(hear([0xe0, 0, 0x60])[0]).toMatchObject({ pitch: 60 + 24 + 1 });
    // A range that is said on one member goes for all.
    hear([0x95, 62, 100], [0xe5, 0, 0x60]);
    expect(hear(...rpn(2, 0, 24)).at(-1)).toMatchObject({ pitch: 60 + 12 + 1 });
    expect(hear([0xe5, 0, 0x60])[0]).toMatchObject({ pitch: 62 + 12 + 1 });
  });
  it('two zones are two streams; a zone of 0 members is none', () => {
    const { hear } = feed('zone lower', 'zone upper');
    hear(...rpn(1, 6, 7), ...rpn(16, 6, 7));
    expect(hear([0x91, 60, 1], [0x9e, 62, 1]).map(({ stream }) => stream)).toEqual(['s0', 's1']);
    expect(hear(...rpn(16, 6, 0), [0x9d, 64, 1])).toEqual([]);
  });
  it('a later zone takes channels from the other', () => {
    const { hear } = feed('zone lower', 'zone upper');
    hear(...rpn(16, 6, 15), ...rpn(1, 6, 10));
    expect(hear([0x9a, 60, 1], [0x9b, 62, 1]).map(({ stream }) => stream)).toEqual(['s0', 's1']);
  });
  it('one that does not say so is found out by two channels that are bent while both sound', () => {
    const { streams, hear } = feed('all');
    hear([0xe1, 0, 0x40], [0x91, 60, 100]);
    expect(streams.assumed).toBe(false);
    hear([0xe2, 0, 0x40], [0x92, 64, 100]);
    expect(streams.assumed).toBe(true);
    expect(hear([0xe2, 0, 0x60])[0]).toMatchObject({ pitch: 88 });
  });
  it('what leaves a zone bends as it did before, and what sounds there goes on so', () => {
    const { hear } = feed('all');
    hear(...rpn(1, 6, 15), [0xe0, 0, 0x60], [0xd0, 127], [0xe9, 0, 0x60], [0x99, 60, 100]);
    // 24 of the channel and 1 of the manager; then the channel alone, by 2 semitones.
    expect(hear(...rpn(1, 6, 5))).toMatchObject([{ kind: 'move', pitch: 61 }, { kind: 'move', pressure: 0 }]);
    expect(hear([0x89, 60, 0])).toMatchObject([{ kind: 'off' }]);
    expect(hear(...rpn(1, 6, 0), [0xe1, 0, 0x20], [0x91, 60, 100])).toMatchObject([{ kind: 'on', pitch: 59 }]);
  });
  it('one that says that it sends none is believed, whatever bends', () => {
    const { streams, hear } = feed('all');
    hear(...rpn(1, 6, 0), [0xe1, 0, 0x40], [0x91, 60, 100], [0xe2, 0, 0x40], [0x92, 64, 100]);
    expect(streams.assumed).toBe(false);
    expect(hear([0xe2, 0, 0x60])).toMatchObject([{ pitch: 65 }]);
  });
  it('any bytes at all', () => {
    const random = randomFrom(3);
    const { streams, hear } = feed('all', 'zone lower', 'keys 3 90');
    const begun = new Map<string, number>();
    for (let i = 0; i < 50_000; i++) {
      const kind = [0x80, 0x90, 0xa0, 0xb0, 0xc0, 0xd0, 0xe0][Math.floor(random() * 7)]!;
      const bytes = [kind | Math.floor(random() * 16), random() < 0.3 ? [6, 38, 64, 74, 98, 100, 101, 120, 123][Math.floor(random() * 9)]! : Math.floor(random() * 128), Math.floor(random() * 128)];
      for (const { stream, kind: what, voice, ...fields } of hear(kind === 0xc0 || kind === 0xd0 ? bytes.slice(0, 2) : bytes)) {
        if (what === 'on') begun.set(`${stream} ${voice}`, 1);
        if (what === 'off') begun.delete(`${stream} ${voice}`);
        if (!Object.values(fields).every(Number.isFinite)) throw new Error(JSON.stringify(fields));
      }
    }
    streams.letGo();
    for (const { stream, voice } of hear()) begun.delete(`${stream} ${voice}`);
    expect([...begun.keys()]).toEqual([]);
  });
});

it('voices that leave by a zone and come in again are the same voices', () => {
  const heard: Said[] = [];
  const streams = new MidiStreams({ voice: (stream, event) => void heard.push({ ...event, stream }), pedal: () => undefined });
  streams.setStreams([{ id: 'back', name: 'Back', input: 'hull', source: 'all' }]);
  for (const bytes of rpn(1, 6, 15)) streams.message(decode(Uint8Array.from(bytes))!);
  const play = playVoices(voiceRig({}), (bytes) => streams.message(decode(bytes)!));
  const random = randomFrom(11);
  const now = new Map<number, { pitch: number; pressure: number; slide: number; as: number }>();
  let compared = 0;
  for (let i = 0; i < 4000; i++) {
    const voice = Math.floor(random() * 12);
    heard.length = 0;
    const held = now.get(voice);
    const said = { pitch: 40 + 40 * random(), pressure: Math.round(127 * random()) / 127, slide: Math.round(127 * random()) / 127 };
    if (!held) {
      play.on(i * 5, voice, said.pitch, { strike: 0.5, pressure: said.pressure, slide: said.slide });
      const begun = heard.find(({ kind }) => kind === 'on')!;
      now.set(voice, { ...said, as: begun.voice });
      expect(begun).toMatchObject({ pressure: said.pressure, slide: said.slide });
      expect(Math.abs((begun.pitch as number) - said.pitch)).toBeLessThan(0.003);
    } else if (random() < 0.3) {
      play.off(i * 5, voice, 0.5);
      expect(heard.find(({ kind }) => kind === 'off')).toMatchObject({ voice: held.as, release: Math.round(63.5) / 127 });
      now.delete(voice);
    } else {
      play.move(i * 5, voice, { pitch: said.pitch });
      const moved = heard.filter(({ kind, voice: as }) => kind === 'move' && as === held.as).at(-1);
      if (moved) expect(Math.abs((moved.pitch as number) - said.pitch)).toBeLessThan(0.003);
      compared++;
    }
  }
  expect(compared).toBeGreaterThan(1000);
});


it('what members of a zone say of their notes is of voices alone; the manager, pedals and a plain device are not', () => {
  const { streams, hear } = feed('all');
  const of = (...bytes: number[]) => streams.isOfVoices(decode(Uint8Array.from(bytes))!);
  expect([of(0xe1, 0, 64), of(0x91, 60, 1)]).toEqual([false, false]);
  hear(...rpn(1, 6, 4));
  expect([of(0xe1, 0, 64), of(0x91, 60, 1), of(0xd4, 9), of(0xb2, 74, 9)]).toEqual([true, true, true, true]);
  expect([of(0xe0, 0, 64), of(0xb0, 64, 127), of(0xb2, 7, 9), of(0xe5, 0, 64), of(0xf8)]).toEqual([false, false, false, false, false]);
});
