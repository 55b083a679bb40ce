import { expect, it } from 'vitest';
import { hexOf } from '../midi/describe';
import { Playback, type PlaybackOptions } from './playback';
import type { ScoreMessage } from './score';

const source = { output: 'weather', who: 'mapping', mapping: 'fog' } as const;
const say = (atMs: number, ...bytes: number[]): ScoreMessage => ({ atMs, source, bytes: Uint8Array.from(bytes) });
const TAKE = [say(0, 0xb2, 21, 10), say(100, 0x90, 60, 90), say(150, 0xb2, 21, 20), say(300, 0x80, 60, 64), say(400, 0xe0, 0, 80), say(500, 0x90, 62, 90), say(900, 0x80, 62, 64)];
const USUAL: PlaybackOptions = { fromMs: 0, speed: 1, loop: null, muted: [], output: null, punch: null };
const played = (options: Partial<PlaybackOptions>, untilMs: number, take = TAKE) => new Playback(take, { ...USUAL, ...options }, readVoice).until(untilMs).map(({ dueMs, output, bytes }) => `${dueMs} ${output === 'weather' ? '' : `${output} `}${hexOf(bytes)}`);

/** Packets of voices by hand: 1 begins voice 7, 2 ends it, 3 moves it. */
const readVoice = ([kind]: Uint8Array) => (kind === 3 ? null : { held: 'hull 7', end: kind === 1 ? Uint8Array.of(2) : null });

it('plays from the beginning, at twice the speed in half the time', () => {
  expect(played({}, 350)).toEqual(['0 B2 15 0A', '100 90 3C 5A', '150 B2 15 14', '300 80 3C 40']);
  expect(played({ speed: 2 }, 151)).toEqual(['0 B2 15 0A', '50 90 3C 5A', '75 B2 15 14', '150 80 3C 40']);
});
it('begins in the middle with what holds there, and no note of before', () => {
  expect(played({ fromMs: 450 }, 100)).toEqual(['0 E0 00 50', '0 B2 15 14', '50 90 3E 5A']);
});
it('a loop ends what sounds, says again what holds at its beginning, and goes round', () => {
  expect(played({ fromMs: 90, loop: { fromMs: 90, toMs: 190 } }, 215)).toEqual(['0 B2 15 0A', '10 90 3C 5A', '60 B2 15 14', '100 80 3C 40', '100 B2 15 0A', '110 90 3C 5A', '160 B2 15 14', '200 80 3C 40', '200 B2 15 0A', '210 90 3C 5A']);
});
it('a voice that left as OSC plays too, and the end of a loop ends it', () => {
  const voice = { output: 'weather', who: 'voice', mapping: 'hull' } as const;
  const take = [1, 3, 2].map((kind, i): ScoreMessage => ({ atMs: 100 * i, source: voice, bytes: Uint8Array.of(kind) }));
  expect(played({}, 1000, take)).toEqual(['0 01', '100 03', '200 02']);
  expect(played({ loop: { fromMs: 0, toMs: 150 } }, 200, take)).toEqual(['0 01', '100 03', '150 02', '150 01']);
  // From the middle: a voice of before is not begun, and its end stays, which the hub leaves out.
  expect(played({ fromMs: 50 }, 1000, take)).toEqual(['50 03', '150 02']);
});
it('a line is muted, everything goes elsewhere, and what is given in stretches is the same', () => {
  expect(played({ muted: ['weather mapping fog'] }, 1000)).toEqual([]);
  expect(played({ output: 'bell' }, 101)).toEqual(['0 bell B2 15 0A', '100 bell 90 3C 5A']);
  const playback = new Playback(TAKE, USUAL, readVoice);
  const pieces = [50, 100, 101, 500, 2000].flatMap((untilMs) => playback.until(untilMs));
  expect(pieces.map(({ bytes }) => hexOf(bytes))).toEqual(TAKE.map(({ bytes }) => hexOf(bytes)));
  expect(playback.ended).toBe(true);
});
it('a selection of a parameter is said before its data, wherever it begins', () => {
  const take = [say(0, 0xb0, 101, 0), say(0, 0xb0, 100, 0), say(0, 0xb0, 6, 48), say(10, 0xb0, 101, 127), say(10, 0xb0, 100, 127)];
  const bendRange = ['0 B0 65 00', '0 B0 64 00', '0 B0 06 30'];
  expect(played({ fromMs: 5 }, 1, take)).toEqual([...bendRange, '0 B0 65 00', '0 B0 64 00']);
  // After it was closed by selecting none (MIDI 1.0, 7F 7F): the data goes where it belongs, and none is selected again.
  expect(played({ fromMs: 20 }, 1, take)).toEqual([...bendRange, '0 B0 65 7F', '0 B0 64 7F']);
  // Two parameters one after the other: each with its own value.
  const two = [say(0, 0xb0, 99, 1), say(0, 0xb0, 98, 10), say(0, 0xb0, 6, 100), say(1, 0xb0, 98, 20), say(1, 0xb0, 6, 50)];
  expect(played({ fromMs: 20 }, 1, two)).toEqual(['63 01', '62 0A', '06 64', '63 01', '62 14', '06 32', '63 01', '62 14'].map((data) => `0 B0 ${data}`));
});
it('what was pedalled, pressed or bent in a loop is at rest where that begins again, and what held there holds', () => {
  const take = [say(0, 0xe0, 0, 70), say(100, 0xb0, 64, 127), say(110, 0x90, 60, 90), say(120, 0xe0, 0, 100), say(130, 0xe1, 0, 20), say(140, 0xd0, 30), say(150, 0x80, 60, 64), say(500, 0xb0, 64, 0)];
  expect(played({ fromMs: 50, loop: { fromMs: 50, toMs: 200 } }, 200, take).filter((line) => line.startsWith('150 '))).toEqual(['150 B0 40 00', '150 D0 00', '150 E0 00 40', '150 E1 00 40', '150 E0 00 46']);
});
