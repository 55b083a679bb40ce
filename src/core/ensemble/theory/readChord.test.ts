import { expect, it } from 'vitest';
import { chordOf, readChord, tonesInWords } from './readChord';

it.each([
  ['Dm9', 0, [2, 5, 9, 12, 16]],
  ['G7', 0, [7, 11, 14, 17]],
  // The third below all others: B D F G.
  ['G7/B', 0, [11, 14, 17, 19]],
  ['C/E', 0, [4, 7, 12]],
  ['D F A C', 0, [2, 5, 9, 12]],
  ['C E G', 2, [10, 14, 17]],
  ['Bb, D, F', 10, [0, 4, 7]],
  ['B♭m', 0, [10, 13, 17]],
] as const)('"%s" above the tonic %i', (text, tonic, tones) => expect(readChord(text, tonic)).toEqual({ ok: true, tones }));
it('what is no chord is said', () => {
  expect(readChord('Hx', 0)).toEqual({ ok: false, message: '"Hx" is neither a chord (as Dm9 or G7/B) nor the name of a tone (as D, F#, Bb).' });
  expect(readChord('', 0)).toMatchObject({ ok: false });
});
it('what sounds is a chord: D3 A3 F4 above C', () => {
  expect(chordOf([50, 57, 65], 0)).toEqual([2, 9, 17]);
  expect(tonesInWords([2, 9, 17], 0)).toBe('D A F');
});
