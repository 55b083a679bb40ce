import { NOTE_NAMES } from '../../midi/describe';
import type { Mode } from '../../voices/scale';

/** By how many semitones a mode begins above the major scale whose key signature it has; null where none has its tones. */
const ABOVE_MAJOR: Record<Mode, number | null> = {
  chromatic: null,
  major: 0,
  minor: 9,
  'harmonic minor': 9,
  'melodic minor': 9,
  dorian: 2,
  phrygian: 4,
  lydian: 5,
  mixolydian: 7,
  locrian: 11,
  'major pentatonic': 0,
  'minor pentatonic': 9,
  'whole tone': null,
};
const MINOR = 9;
const SEMITONES = 12;
const FIFTH = 7;

/** Letters in fifths, F being one below C. */
const LETTERS = ['F', 'C', 'G', 'D', 'A', 'E', 'B'] as const;
const SIGNS: Readonly<Record<number, string>> = { [-1]: '♭', 0: '', 1: '♯' };

/**
 * What each pitch class, from C up, is called in a key: its tones as its signature writes them, and the others by the nearest fifths, as
 * music for keyboards does (any textbook of harmony). Of keys with six sharps or six flats that of the plain name of their tonic is
 * meant; what would take two signs is called plainly.
 */
export function namesIn(tonic: number, mode: Mode): readonly string[] {
  const above = ABOVE_MAJOR[mode];
  if (above === null) return NOTE_NAMES;
  // In minor the raised sixth and seventh are near, too.
  const lowest = signatureOf(tonic, above) - (above === MINOR ? 3 : 4);
  const names: string[] = [...NOTE_NAMES];
  for (let fifths = lowest; fifths < lowest + SEMITONES; fifths++) {
    const sign = SIGNS[Math.floor((fifths + 1) / LETTERS.length)];
    if (sign !== undefined) names[within(fifths * FIFTH, SEMITONES)] = `${LETTERS[within(fifths + 1, LETTERS.length)]}${sign}`;
  }
  return names;
}

/** The sharps of a key, less than 0 for flats. */
function signatureOf(tonic: number, above: number): number {
  const sharps = within((tonic - above) * FIFTH, SEMITONES);
  if (sharps === SEMITONES / 2) return NOTE_NAMES[tonic]!.endsWith('♭') ? -sharps : sharps;
  return sharps > SEMITONES / 2 ? sharps - SEMITONES : sharps;
}

const within = (value: number, size: number) => ((value % size) + size) % size;
