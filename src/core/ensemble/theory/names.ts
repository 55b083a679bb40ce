import { Chord } from 'tonal';
import { NOTE_NAMES } from '../../midi/describe';
import { OCTAVE, stackedThirds, type HarmonicMode } from './degrees';

/** As the package `tonal` spells them. */
const PLAIN = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'] as const;

const classOf = (pitch: number): number => ((pitch % OCTAVE) + OCTAVE) % OCTAVE;

/**
 * What a chord is called, by the package `tonal`; the names of its tones where it knows none.
 * @param names by pitch class from C up, as the key writes them
 */
export function chordName(root: number, tones: readonly number[], names: readonly string[] = NOTE_NAMES): string {
  if (tones.length === 0) return '';
  const classes = [...new Set(tones.map(classOf))];
  const over = classOf(tones[0]!);
  const tonic = PLAIN[classOf(root)]!;
  const fromRoot = [tonic, ...classes.map((one) => PLAIN[one]!).filter((name) => name !== tonic)];
  const plain = Chord.detect(fromRoot).find((name) => Chord.get(name).tonic === tonic && !name.includes('/'));
  if (plain === undefined) return classes.map((one) => names[one]).join(' ');
  const named = `${names[classOf(root)]}${plain.slice(tonic.length).replace(/^M$/, '')}`;
  return over === classOf(root) ? named : `${named}/${names[over]}`;
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
