import { expect, it } from 'vitest';
import { compile } from '../engine/plan';
import { voiceRig } from '../engine/voices/testVoices';
import { hexOf } from '../midi/describe';
import { TakeRenderer } from './render';
import type { ScoreMessage } from './score';
import { voicesOf } from './voicesOf';

const say = (atMs: number, ...bytes: number[]): ScoreMessage => ({ atMs, source: { output: 'weather', who: 'take', mapping: 'Deck' }, bytes: Uint8Array.from(bytes) });

it('notes of a file play through a voice mapping, each on a channel of its own, bent by what the file bends', () => {
  const rig = voiceRig({ pressure: undefined, slide: undefined });
  // A full bend up in the file is two semitones; at 48 semitones that is 8192 / 24 = 341.33 of 8192 steps: 8533.
  const file = [say(0, 0x95, 60, 100), say(100, 0xe5, 127, 127), say(100, 0x95, 64, 80), say(200, 0x85, 60, 64), say(300, 0x95, 64, 0)];
  const sent: string[] = [];
  const renderer = new TakeRenderer({ rig, startMs: 0, seed: 1, state: null }, { midi: (timeMs, _, bytes, length) => void sent.push(`${timeMs} ${hexOf(bytes.slice(0, length))}`), osc: () => undefined });
  for (const { bytes } of voicesOf(file, compile(rig), 'hull', 400)) renderer.piece(bytes);
  renderer.end(400);
  // The second is struck while its channel is bent: it sounds two semitones higher.
  expect(sent.filter((line) => / [89]. /.test(line))).toEqual(['0 91 3C 64', '100 92 42 50', '200 81 3C 40', '300 82 42 40']);
  const [msb, lsb] = [8533 >> 7, 8533 & 127].map((byte) => byte.toString(16).toUpperCase().padStart(2, '0'));
  expect(sent.some((line) => line === `100 E1 ${lsb} ${msb}`)).toBe(true);
});
it('an endless note ends with the take, and a rig without the stream is refused', () => {
  const rig = voiceRig({});
  const sent: string[] = [];
  const renderer = new TakeRenderer({ rig, startMs: 0, seed: 1, state: null }, { midi: (timeMs, _, bytes, length) => void sent.push(`${timeMs} ${hexOf(bytes.slice(0, length))}`), osc: () => undefined });
  for (const { bytes } of voicesOf([say(0, 0x90, 60, 100)], compile(rig), 'hull', 250)) renderer.piece(bytes);
  expect(sent.filter((line) => / 8. /.test(line))).toEqual(['250 81 3C 40']);
  expect(() => voicesOf([], compile(rig), 'anchor', 10)).toThrow('no stream "anchor"');
});
