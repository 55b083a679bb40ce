import { ChordType, Interval } from 'tonal';

/** Kinds of chords that can be asked for, by their usual symbols behind the name of a root. */
export const QUALITIES = ['M', 'm', 'dim', 'aug', 'sus2', 'sus4', '5', '6', 'm6', '7', 'maj7', 'm7', 'mMaj7', 'm7b5', 'dim7', '7sus4', 'Madd9', '9', 'maj9', 'm9', '7b9', '7#9', '11', 'm11', '13', 'maj13', 'm13'] as const;
export type Quality = (typeof QUALITIES)[number];

const known = new Map<Quality, readonly number[]>(QUALITIES.map((quality) => [quality, ChordType.get(quality).intervals.map((interval) => Interval.semitones(interval))]));

/** The tones of a kind of chord in semitones above its root, rising; from the table of chord types of the package `tonal`. */
export function intervalsOf(quality: Quality): readonly number[] {
  return known.get(quality)!;
}
