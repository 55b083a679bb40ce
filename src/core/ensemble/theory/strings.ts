import { firstFrom } from './voicing';
import { OCTAVE } from './degrees';

export const STRINGS_MOST = 12;

/** Open strings from the lowest-lying to the highest-lying, as tutors and makers of strings publish them (60 = middle C). */
export const TUNINGS: Readonly<Record<string, readonly number[]>> = {
  guitar: [40, 45, 50, 55, 59, 64],
  'bass guitar': [28, 33, 38, 43],
  ukulele: [67, 60, 64, 69],
  violin: [55, 62, 69, 76],
  viola: [48, 55, 62, 69],
  cello: [36, 43, 50, 57],
  banjo: [67, 50, 55, 59, 62],
};

/** Open strings as keys from 0 to 127 with spaces or commas between. Throws a sentence where the text is none. */
export function readTuning(text: string): number[] {
  const keys = text.split(/[\s,]+/).filter((word) => word !== '').map(Number);
  if (keys.length < 1 || keys.length > STRINGS_MOST || keys.some((key) => !Number.isInteger(key) || key < 0 || key > 127)) throw new Error(`Open strings: 1 to ${STRINGS_MOST} whole numbers from 0 to 127; nothing was changed.`);
  return keys;
}

/** What sounds on strings where a chord is held on them: on each the first tone of the chord from its open string up. */
export function stopped(tuning: readonly number[], tones: readonly number[]): number[] {
  if (tones.length === 0) return [];
  return tuning.map((open) => Math.min(...tones.map((tone) => firstFrom(open, tone))));
}

/** Strings that are tuned to a chord: its tones one after another from the lowest up, over as many octaves as it takes. */
export function tunedTo(tones: readonly number[], strings: number): number[] {
  if (tones.length === 0) return [];
  const classes = [...new Map(tones.map((tone) => [((tone % OCTAVE) + OCTAVE) % OCTAVE, tone])).values()].sort((a, b) => a - b);
  const lowest = Math.min(...tones);
  const within = classes.map((tone) => firstFrom(lowest, tone)).sort((a, b) => a - b);
  return Array.from({ length: strings }, (_, i) => within[i % within.length]! + OCTAVE * Math.floor(i / within.length));
}
