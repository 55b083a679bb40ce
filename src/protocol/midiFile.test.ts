import { parseMidi } from 'midi-file';
import { expect, it } from 'vitest';
import fc from 'fast-check';
import { hexOf } from '../core/midi/describe';
import { NoMidiFile, readMidiFile, writeMidiFile } from './midiFile';

it('a tempo that changes stands where it does, as microseconds of a quarter; times stay what they were, in ticks of each (by hand, SMF 1.0)', () => {
  const bytes = writeMidiFile([{ timeMs: 1000, track: 'a', bytes: Uint8Array.of(0x90, 60, 1) }, { timeMs: 3000, track: 'a', bytes: Uint8Array.of(0x80, 60, 0) }], [{ atMs: 0, bpm: 120 }, { atMs: 2000, bpm: 60 }], { meter: [6, 8] });
  const { tracks, header } = parseMidi(bytes);
  const at = (track: number) => {
    let tick = 0;
    return tracks[track]!.map((event) => [(tick += event.deltaTime), event.type, 'microsecondsPerBeat' in event ? event.microsecondsPerBeat : null]);
  };
  expect(header.ticksPerBeat).toBe(960);
  expect(tracks[0]![0]).toMatchObject({ type: 'timeSignature', numerator: 6, denominator: 8 });
  // Two seconds at 120 are four quarters; one more at 60 is one.
  expect(at(0)).toEqual([[0, 'timeSignature', null], [0, 'setTempo', 500_000], [3840, 'setTempo', 1_000_000], [3840, 'endOfTrack', null]]);
  expect(at(1).filter(([, type]) => String(type).startsWith('note'))).toEqual([[1920, 'noteOn', null], [4800, 'noteOff', null]]);
  expect(readMidiFile(bytes).messages.map(({ timeMs }) => Math.round(timeMs))).toEqual([1000, 3000]);
});
it('a take becomes a format 1 file with a tempo track and one track an output (SMF 1.0)', () => {
  const bytes = writeMidiFile(
    [
      { timeMs: 0, track: 'Bell', bytes: Uint8Array.of(0x99, 67, 100) },
      { timeMs: 500, track: 'Weather', bytes: Uint8Array.of(0xb2, 21, 87) },
      { timeMs: 750, track: 'Bell', bytes: Uint8Array.of(0x89, 67, 64) },
      { timeMs: 800, track: 'Bell', bytes: Uint8Array.of(0xf8) },
      { timeMs: 800, track: 'Bell', bytes: Uint8Array.of(0xe0, 0, 0x40) },
    ],
    120,
  );
  expect(String.fromCharCode(...bytes.slice(0, 4))).toBe('MThd');
  const { header, tracks } = parseMidi(bytes);
  expect([header.format, header.numTracks, header.ticksPerBeat]).toEqual([1, 3, 960]);
  expect(tracks[0]![0]).toMatchObject({ type: 'setTempo', microsecondsPerBeat: 500_000 });
  expect(tracks[1]!.map(({ type, deltaTime }) => [type, deltaTime])).toEqual([
    ['trackName', 0],
    ['noteOn', 0],
    ['noteOff', 1440],
    ['pitchBend', 96],
    ['endOfTrack', 0],
  ]);
  expect(tracks[2]![1]).toMatchObject({ type: 'controller', deltaTime: 960, channel: 2, controllerType: 21, value: 87 });
});

/** A file by hand: head and chunks. */
const chunk = (id: string, ...data: number[]) => [...[...id].map((letter) => letter.charCodeAt(0)), 0, 0, data.length >> 8, data.length & 255, ...data];
const head = (format: number, tracks: number, ...division: [number, number]) => chunk('MThd', 0, format, tracks >> 8, tracks & 255, ...division);
const END = [0, 0xff, 0x2f, 0];
const read = (...bytes: number[][]) => readMidiFile(Uint8Array.from(bytes.flat()));
const inWords = ({ messages }: ReturnType<typeof readMidiFile>) => messages.map(({ timeMs, track, bytes }) => `${Math.round(timeMs * 1000) / 1000} ${track} ${hexOf(bytes)}`);

it('reads the example of the specification: format 0, running status, variable lengths (SMF 1.0, appendix D, from memory)', () => {
  // 96 ticks a beat, 120 beats a minute by default: a tick is 5.2083 ms. C0 05, C1 2E, C2 46, then notes by running status.
  const track = [0, 0xff, 0x51, 3, 7, 0xa1, 0x20, 0, 0xc0, 5, 0, 0x92, 0x30, 0x60, 0, 0x3c, 0x60, 0x60, 0x91, 0x43, 0x40, 0x60, 0x90, 0x4c, 0x20, 0x81, 0x40, 0x82, 0x30, 0x40, 0, 0x3c, 0x40, ...END];
  expect(inWords(read(head(0, 1, 0, 96), chunk('MTrk', ...track)))).toEqual(['0 Track 1 C0 05', '0 Track 1 92 30 60', '0 Track 1 92 3C 60', '500 Track 1 91 43 40', '1000 Track 1 90 4C 20', '2000 Track 1 82 30 40', '2000 Track 1 82 3C 40']);
});
it('a tempo map counts for every track; marks and names are read; other chunks are passed over', () => {
  // 480 ticks a beat. 120 beats a minute for one beat, then 60 (0F 42 40): tick 960 lies at 500 + 1000 ms.
  const tempo = [0, 0xff, 3, 4, 77, 97, 112, 32, 0x83, 0x60, 0xff, 0x51, 3, 0x0f, 0x42, 0x40, 0x83, 0x60, 0xff, 6, 4, 70, 111, 103, 33, ...END];
  const notes = [0, 0xff, 3, 4, 66, 101, 108, 108, 0x87, 0x40, 0x90, 60, 64, 10, 60, 0, ...END];
  const file = read(head(1, 2, 1, 0xe0), chunk('MTrk', ...tempo), chunk('XFIH', 1, 2, 3), chunk('MTrk', ...notes));
  expect(inWords(file)).toEqual(['1500 Bell 90 3C 40', '1520.833 Bell 80 3C 00']);
  expect(file).toMatchObject({ marks: [{ atMs: expect.closeTo(1500, 6) as number, name: 'Fog!' }], tempoBpm: 120, remarks: [] });
});
it('names are written and read as UTF-8, and those of older programs as Latin-1', () => {
  const [track, mark] = ['Fähre 渡し船 ♭', 'Übergang 🚢'];
  const bytes = writeMidiFile([{ timeMs: 0, track, bytes: Uint8Array.of(0x90, 60, 1) }, { timeMs: 100, track, bytes: Uint8Array.of(0x80, 60, 1) }], 120, { marks: [{ atMs: 50, name: mark }] });
  expect(Buffer.from(bytes).includes(Buffer.from(track))).toBe(true);
  expect([readMidiFile(bytes).messages[0]!.track, readMidiFile(bytes).marks[0]!.name]).toEqual([track, mark]);
  const latin = [0x00, 0xff, 0x03, 0x05, 0x46, 0xe4, 0x68, 0x72, 0x65, 0x00, 0x90, 60, 90, 0x01, 0x80, 60, 64, 0x00, 0xff, 0x2f, 0x00];
  expect(readMidiFile(Uint8Array.of(0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, latin.length, ...latin)).messages[0]!.track).toBe('Fähre');
});
it('pieces of their own stand one after another, each at its own tempo and from a mark on (SMF 1.0, format 2)', () => {
  // 96 ticks a quarter. The first says no tempo, so 120 a minute: its end lies at 500 ms. The second goes at 240: 96 ticks are 250 ms; the third at 120 again.
  const named = (name: string) => [0, 0xff, 0x03, name.length, ...[...name].map((letter) => letter.charCodeAt(0))];
  const file = read(
    head(2, 3, 0, 96),
    chunk('MTrk', ...named('One'), 0, 0x90, 60, 64, 96, 0x80, 60, 64, ...END),
    chunk('MTrk', ...named('Two'), 0, 0xff, 0x51, 3, 0x03, 0xd0, 0x90, 0, 0x90, 62, 64, 96, 0x80, 62, 64, ...END),
    chunk('MTrk', ...named('Three'), 96, 0x90, 64, 64, ...END),
  );
  expect(inWords(file)).toEqual(['0 One 90 3C 40', '500 One 80 3C 40', '500 Two 90 3E 40', '750 Two 80 3E 40', '1250 Three 90 40 40']);
  expect(file.marks).toEqual([{ atMs: 0, name: 'One' }, { atMs: 500, name: 'Two' }, { atMs: 750, name: 'Three' }]);
  expect([file.tempoBpm, file.lengthMs, file.remarks]).toEqual([120, 1250, ['The 3 tracks of this file are pieces of their own (format 2): they stand one after another, each from a mark on.']]);
});
it('SMPTE time: 25 frames of 40 ticks are milliseconds', () => {
  expect(inWords(read(head(0, 1, 256 - 25, 40), chunk('MTrk', 0x87, 0x68, 0xb0, 7, 100, ...END)))).toEqual(['1000 Track 1 B0 07 64']);
});
it('what would come after half a day is left out and counted', () => {
  // One tick a quarter at 120 a minute: half a second each. FF FF FF 7F is the longest delta time of all, 268,435,455.
  const track = [0x00, 0x90, 60, 90, 0x02, 0x80, 60, 64, 0xff, 0xff, 0xff, 0x7f, 0x90, 62, 90, 0x01, 0x80, 62, 64, 0x00, 0xff, 0x2f, 0x00];
  const file = readMidiFile(Uint8Array.of(0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 1, 0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, track.length, ...track));
  expect(file.messages.map(({ timeMs }) => timeMs)).toEqual([0, 1000]);
  expect([file.lengthMs, file.remarks]).toEqual([1000, ['2 events that would come after 12 hours were left out.']]);
});
it('300 tracks, a broken one, and a file that is cut short: the whole tracks are kept and the rest is named', () => {
  const one = chunk('MTrk', 0, 0x90, 60, 64, 96, 0x80, 60, 64, ...END);
  expect(read(head(1, 300, 0, 96), ...Array.from({ length: 300 }, () => one)).messages).toHaveLength(600);
  const broken = read(head(1, 3, 0, 96), one, chunk('MTrk', 0, 60, 64, ...END), one, [...chunk('MTrk', 0, 0x90), 1].slice(0, 9));
  expect(broken.messages).toHaveLength(4);
  expect(broken.remarks).toEqual(['Track 2 is broken and was left out.', expect.stringMatching(/^The file is cut short in the chunk at byte \d+: what is in it is left out\.$/)]);
  expect(() => read([1, 2, 3])).toThrow(NoMidiFile);
  expect(() => read(head(0, 1, 0, 0), one)).toThrow('a beat has no ticks');
  expect(() => read(head(0, 1, 0xe8, 0), one)).toThrow('a frame has no ticks');
  expect(() => read(head(0, 0, 0, 96))).toThrow('no whole track');
});
it('whatever is written comes back with the same bytes and times to a tick, in one track or many', () => {
  const take = Array.from({ length: 200 }, (_, i) => ({ timeMs: i * 13.37, track: i % 3 ? 'Hull' : 'Bell', bytes: [Uint8Array.of(0x90 + (i % 5), 60, 1 + (i % 127)), Uint8Array.of(0xe1, i % 128, 64), Uint8Array.of(0xf0, 1, 2, 0xf7), Uint8Array.of(0xd2, 9), Uint8Array.of(0xc3, 4), Uint8Array.of(0xa1, 60, 5), Uint8Array.of(0xb0, 74, 3)][i % 7]! }));
  for (const format of [0, 1] as const) {
    const back = readMidiFile(writeMidiFile(take, 97, { format, marks: [{ atMs: 500, name: 'Here' }] }));
    expect(back.messages.map(({ bytes }) => hexOf(bytes))).toEqual(take.map(({ bytes }) => hexOf(bytes)));
    // Half a tick is 60000 / 97 / 960 / 2 = 0.322 ms.
    back.messages.forEach(({ timeMs, track }, i) => {
      expect(Math.abs(timeMs - take[i]!.timeMs)).toBeLessThan(0.33);
      if (format === 1) expect(track).toBe(take[i]!.track);
    });
    expect(back.marks.map(({ name }) => name)).toEqual(['Here']);
    expect(back.tempoBpm).toBeCloseTo(97, 2);
  }
});
it('no bytes make it throw anything but a sentence', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 200 }), fc.boolean(), (rest, whole) => {
      try {
        readMidiFile(Uint8Array.from([...head(1, 2, 0, 96), ...(whole ? chunk('MTrk', ...rest) : rest)]));
      } catch (error) {
        expect(error).toBeInstanceOf(NoMidiFile);
      }
    }),
    { numRuns: 3000 },
  );
});

/** A file of one track of these events, each a delta and its bytes (by hand, SMF 1.0). */
const fileOf = (...events: number[][]) => {
  const track = [...events, [0, 0xff, 0x2f, 0]].flat();
  const length = [track.length >> 24, (track.length >> 16) & 255, (track.length >> 8) & 255, track.length & 255];
  return Uint8Array.from([...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96], ...[0x4d, 0x54, 0x72, 0x6b], ...length, ...track]);
};
it('SysEx in pieces becomes whole with the last of them (the example of SMF 1.0, sysex events, at 96 ticks a beat)', () => {
  const example = fileOf([0, 0xf0, 3, 0x43, 0x12, 0], [0x81, 0x48, 0xf7, 6, 0x43, 0x12, 0, 0x43, 0x12, 0], [0x64, 0xf7, 4, 0x43, 0x12, 0, 0xf7]);
  const { messages, remarks } = readMidiFile(example);
  expect(messages.map(({ timeMs, bytes }) => [Math.round(timeMs), hexOf(bytes)])).toEqual([[Math.round((300 / 96) * 500), 'F0 43 12 00 43 12 00 43 12 00 43 12 00 F7']]);
  expect(remarks).toEqual([]);
});
it('SysEx that is whole stays, however long; a piece without its end or beginning, and one with status bytes within, are left out and counted', () => {
  const long = 0x40000;
  const { messages, remarks } = readMidiFile(
    fileOf([0, 0xf0, 5, 0x7e, 0x7f, 9, 1, 0xf7], [0, 0xf0, 0x90, 0x80, 0x00, ...new Array<number>(long - 1).fill(1), 0xf7], [0, 0xf7, 3, 0x43, 0x12, 0xf7], [0, 0xf0, 4, 0x43, 0x90, 0x3c, 0xf7], [0, 0x90, 60, 1], [0, 0xf0, 3, 0x43, 0x12, 0x00]),
  );
  expect(messages.map(({ bytes }) => (bytes.length < 10 ? hexOf(bytes) : bytes.length))).toEqual(['F0 7E 7F 09 01 F7', long + 1, '90 3C 01']);
  expect(remarks).toEqual(['3 SysEx messages that are not whole were left out.']);
});
