import { parseMidi } from 'midi-file';
import { expect, it } from 'vitest';
import { writeMidiFile } from './midiFile';

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
