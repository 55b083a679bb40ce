import { referenceShift } from './pitch';
import type { Tuning } from './tuning';

const SEMITONES = 12;
const CENTS = 100;
/** Receivers play keys 0 to 127; a bend reaches a little further. */
export const PITCH_LEAST = 0;
export const PITCH_MOST = 127;

/** Steps of well-known modes, in semitones above their root (any textbook of harmony). */
export const MODES = {
  chromatic: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11],
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10],
  'harmonic minor': [0, 2, 3, 5, 7, 8, 11],
  'melodic minor': [0, 2, 3, 5, 7, 9, 11],
  dorian: [0, 2, 3, 5, 7, 9, 10],
  phrygian: [0, 1, 3, 5, 7, 8, 10],
  lydian: [0, 2, 4, 6, 7, 9, 11],
  mixolydian: [0, 2, 4, 5, 7, 9, 10],
  locrian: [0, 1, 3, 5, 6, 8, 10],
  'major pentatonic': [0, 2, 4, 7, 9],
  'minor pentatonic': [0, 3, 5, 7, 10],
  'whole tone': [0, 2, 4, 6, 8, 10],
} as const;
export type Mode = keyof typeof MODES;
export const MODE_NAMES = Object.keys(MODES) as Mode[];

/** The steps of a mode in cents above its root, the last being the octave. */
export const stepsOf = (mode: Mode): number[] => [...MODES[mode].slice(1), SEMITONES].map((step) => step * CENTS);

/** A scale to be pulled to: a mode on a root (0 = C), steps in cents above a root, the last being the period, or one that is kept in the rig. */
export type Scale = { kind: 'mode'; root: number; mode: Mode } | { kind: 'steps'; root: number; cents: number[] } | { kind: 'kept'; scale: string };

/**
 * All pitches of a scale that a receiver can play, rising, in semitones with fraction (60 = middle C where A4 is 440 Hz).
 * @param kept the tuning of a scale of the kind `kept`; without one there are no pitches, and nothing is pulled
 */
export function pitchesOf(scale: Scale, referenceHz: number, kept: Tuning | null): Float64Array {
  const pitches: number[] = [];
  if (scale.kind === 'kept') {
    for (const pitch of kept?.keys ?? []) if (pitch !== null) pitches.push(pitch);
  } else {
    const shift = referenceShift(referenceHz);
    const steps = scale.kind === 'mode' ? MODES[scale.mode] : [0, ...scale.cents.slice(0, -1).map((cents) => cents / CENTS)];
    const period = scale.kind === 'mode' ? SEMITONES : scale.cents.at(-1)! / CENTS;
    const root = scale.root + shift;
    for (let n = Math.floor((PITCH_LEAST - root) / period) - 1; root + n * period <= PITCH_MOST + 1; n++) for (const step of steps) pitches.push(root + n * period + step);
  }
  return Float64Array.from(new Set(pitches.filter((pitch) => pitch > PITCH_LEAST - 1 && pitch < PITCH_MOST + 1))).sort();
}

/** The pitch of a rising list that lies nearest, of two equally near the lower; NaN of an empty list. */
export function nearestPitch(pitches: Float64Array, pitch: number): number {
  let lo = 0;
  let hi = pitches.length - 1;
  if (hi < 0) return NaN;
  while (hi - lo > 1) {
    const middle = (lo + hi) >> 1;
    if (pitches[middle]! <= pitch) lo = middle;
    else hi = middle;
  }
  return pitch - pitches[lo]! <= pitches[hi]! - pitch ? pitches[lo]! : pitches[hi]!;
}
