import { expect, it } from 'vitest';
import { freest, type Turn } from './freest';

const voice = (key: number | null, ringsUntilS: number, struckAtS: number): Turn => ({ key, ringsUntilS, struckAtS });
/** The place of the voice that a key gets at 10 s. */
const placeFor = (key: number, voices: Turn[]) => voices.indexOf(freest(voices, key, 10));

it.each<[string, number, Turn[], number]>([
  ['the voice of the same key, however many are silent', 60, [voice(null, 0, 0), voice(60, Infinity, 9)], 1],
  ['the first that is silent', 60, [voice(62, Infinity, 1), voice(null, 12, 5), voice(null, 9, 8), voice(null, 2, 1)], 2],
  ['the one that has rung on longest where all free ones ring', 60, [voice(null, 12, 1), voice(null, 10.5, 7), voice(62, Infinity, 0)], 1],
  ['the one that was struck first where all are held', 60, [voice(62, Infinity, 3), voice(64, Infinity, 1), voice(65, Infinity, 2)], 1],
])('a note gets %s', (_, key, voices, place) => expect(placeFor(key, voices)).toBe(place));
