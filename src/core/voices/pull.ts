import { onePole } from '../shaping/onePole';
import type { Scale } from './scale';

/**
 * How a voice is pulled towards a scale. Each amount is a share of what is missing, 0 nothing and 1 all of it: at the
 * beginning, while it is held, and at its end.
 */
export interface Pull {
  scale: Scale;
  /** The frequency of A4 for modes and steps. */
  referenceHz: number;
  atStart: number;
  held: number;
  /** Only what lies this near to a pitch of the scale is pulled while it is held: what is further away is on its way. */
  bandCents: number;
  /** The time constant of the pull while held: what is quicker (vibrato) is left as it is played. */
  speedMs: number;
  atRelease: number;
}

const CENTS = 100;

/** What is added to a voice as it begins, in semitones. `degree` is the nearest pitch of the scale, NaN where there is none. */
export function pullAtStart({ atStart }: Pull, pitch: number, degree: number): number {
  return Number.isNaN(degree) ? 0 : atStart * (degree - pitch);
}

/**
 * Where what is added to a held voice is heading: between what it began with (`held` 0) and all that is missing (`held` 1).
 * Outside of the band it stays where it is.
 * @param added what is added now
 * @param began what was added at the beginning
 */
export function pullTarget({ held, bandCents }: Pull, pitch: number, degree: number, added: number, began: number): number {
  if (Number.isNaN(degree) || held === 0 || Math.abs(degree - pitch) * CENTS > bandCents) return added;
  return began + held * (degree - pitch - began);
}

/** Moves what is added towards its target, which went in a straight line from `from` to `to` (see `onePole`). */
export function pullHeld({ speedMs }: Pull, added: number, from: number, to: number, dtMs: number): number {
  return onePole(added, from, to, dtMs, speedMs);
}

/** What is added as a voice ends. */
export function pullAtRelease({ atRelease }: Pull, pitch: number, degree: number, added: number): number {
  return Number.isNaN(degree) ? added : added + atRelease * (degree - pitch - added);
}
