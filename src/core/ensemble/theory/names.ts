import { Chord, Note } from 'tonal';
import { OCTAVE, stackedThirds, type HarmonicMode } from './degrees';

const PITCH_CLASSES = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'] as const;

export const pitchClassName = (pitchClass: number): string => PITCH_CLASSES[((pitchClass % OCTAVE) + OCTAVE) % OCTAVE]!;

/** With flats as music writes them. */
export const asWritten = (name: string): string => name.replace(/([A-G])b/g, '$1♭');

/** What a chord is called, by the package `tonal`; the names of its tones where it knows none. */
export function chordName(root: number, tones: readonly number[]): string {
  if (tones.length === 0) return '';
  const classes = [...new Set(tones.map((tone) => pitchClassName(tone)))];
  const over = pitchClassName(tones[0]!);
  const fromRoot = [pitchClassName(root), ...classes.filter((name) => name !== pitchClassName(root))];
  const plain = Chord.detect(fromRoot).find((name) => Note.pitchClass(Chord.get(name).tonic ?? '') === pitchClassName(root) && !name.includes('/'));
  if (plain === undefined) return asWritten(classes.join(' '));
  const named = plain.replace(/M$/, '');
  return asWritten(over === pitchClassName(root) ? named : `${named}/${over}`);
}

const ROMAN = ['I', 'II', 'III', 'IV', 'V', 'VI', 'VII'];
const MAJOR_THIRD = 4;
const FIFTH = 7;

/** A degree as harmony writes it by its triad: large for a major third, small for a minor one, a ring for diminished, a cross for augmented. */
export function romanNumeral(mode: HarmonicMode, degree: number): string {
  const [root, third, fifth] = stackedThirds(mode, degree, 3) as [number, number, number];
  const numeral = ROMAN[degree - 1]!;
  return `${third - root === MAJOR_THIRD ? numeral : numeral.toLowerCase()}${fifth - root < FIFTH ? '°' : fifth - root > FIFTH ? '+' : ''}`;
}
