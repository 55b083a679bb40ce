import { OCTAVE } from './degrees';

export const SPREADS = ['close', 'open', 'drop 2'] as const;
export type Spread = (typeof SPREADS)[number];

/** The lowest pitch of a pitch class (0 = C) from `low` up. */
export function firstFrom(low: number, pitchClass: number): number {
  return low + ((((pitchClass - low) % OCTAVE) + OCTAVE) % OCTAVE);
}

const rising = (tones: readonly number[]) => [...tones].sort((a, b) => a - b);

/**
 * A chord in close position: its root at the lowest place from `low` up, and so many of its lowest tones an octave higher as the
 * inversion says.
 * @param intervals semitones above the root
 */
export function closePosition(root: number, intervals: readonly number[], low: number, inversion: number): number[] {
  const base = firstFrom(low, root);
  const tones = rising(intervals).map((interval) => base + interval);
  return rising(tones.map((tone, i) => (i < inversion % tones.length ? tone + OCTAVE : tone)));
}

/** By how many semitones the tones of a chord move altogether to become another: in pairs from below, or to the nearest where there are more of one. */
export function movement(from: readonly number[], to: readonly number[]): number {
  if (from.length === to.length) return rising(from).reduce((sum, tone, i) => sum + Math.abs(rising(to)[i]! - tone), 0);
  const nearest = (tone: number, others: readonly number[]) => Math.min(...others.map((other) => Math.abs(other - tone)));
  return to.reduce((sum, tone) => sum + nearest(tone, from), 0) + from.reduce((sum, tone) => sum + nearest(tone, to), 0);
}

/** So far below and above `low` a led chord may wander with its lowest tone. */
const WANDERS = [-7, 12] as const;

/** Of all inversions the one whose tones move the least from those before; of equals the lowest. */
export function leastMovement(root: number, intervals: readonly number[], low: number, before: readonly number[]): number[] {
  let best = closePosition(root, intervals, low, 0);
  let least = Infinity;
  for (const shift of [-OCTAVE, 0, OCTAVE]) {
    for (let inversion = 0; inversion < intervals.length; inversion++) {
      const tones = closePosition(root, intervals, low, inversion).map((tone) => tone + shift);
      if (tones[0]! < low + WANDERS[0] || tones[0]! > low + WANDERS[1]) continue;
      const moved = movement(before, tones);
      if (moved < least || (moved === least && tones[0]! < best[0]!)) {
        least = moved;
        best = tones;
      }
    }
  }
  return best;
}

/**
 * Opens a chord in close position. Open: its second tone from below an octave higher, as triads in open position have it. Drop 2:
 * its second tone from above an octave lower.
 */
export function spreadOut(close: readonly number[], spread: Spread): number[] {
  const moved = spread === 'open' ? 1 : spread === 'drop 2' ? close.length - 2 : -1;
  if (close.length < 3 || moved < 0) return [...close];
  return rising(close.map((tone, i) => (i === moved ? tone + (spread === 'open' ? OCTAVE : -OCTAVE) : tone)));
}
