import type { Calibration } from '../rig/document';
import { noiseOf, percentile } from './statistics';

/** What a sensor did while nobody touched it, in raw numbers. */
export interface Resting {
  samples: number;
  mean: number;
  /** Standard deviation of its noise. */
  noise: number;
  /** How far it strayed from the mean, noise and slow drift together. */
  strays: number;
}

/** What strays further than this share of its range was not left alone. */
const MOVED = 0.2;
/** Drift goes on after the few seconds that were watched. */
const DRIFT_MARGIN = 1.25;
/** Noise stays within so many standard deviations nearly always. */
const NOISE_WIDTH = 3;
const LOW = 0.01;
const HIGH = 0.99;

/** Null for fewer than four samples. */
export function measureRest(values: ArrayLike<number>): Resting | null {
  if (values.length < 4) return null;
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i]!;
  const mean = sum / values.length;
  let strays = 0;
  for (let i = 0; i < values.length; i++) strays = Math.max(strays, Math.abs(values[i]! - mean));
  return { samples: values.length, mean, noise: noiseOf(values), strays };
}

/** Whether a sensor was moved while it should have been left alone: then nothing can be said of its rest. */
export function wasMoved({ strays }: Resting, [lo, hi]: readonly [number, number]): boolean {
  return strays > MOVED * Math.abs(hi - lo);
}

/** How a sensor is to be calibrated: a stick springs back, a tilt has a zero, anything else has ends and noise. */
export type CalibrationKind = 'centred' | 'zeroed' | 'ends';

/**
 * The calibration that follows from what was recorded at rest and through the whole travel; either may be missing or too
 * short to say anything (less than eight samples of travel, or no more of it than noise): then that part stays as it was `before`.
 * Null where nothing follows.
 */
export function proposeCalibration(kind: CalibrationKind, resting: Resting | null, moving: ArrayLike<number>, before: Calibration = {}): Calibration | null {
  const found = kind === 'zeroed' ? null : travelOf(moving, resting);
  if (!resting && !found) return null;
  const still = resting ? Math.max(NOISE_WIDTH * resting.noise, kind === 'centred' ? DRIFT_MARGIN * resting.strays : 0) : before.noise;
  const travel = kind === 'zeroed' ? undefined : (found ?? before.travel);
  const centre = kind === 'centred' && travel && resting && between(resting.mean, travel) ? resting.mean : before.travel?.centre;
  return {
    ...(still ? { noise: still } : {}),
    ...(travel ? { travel: { lo: travel.lo, hi: travel.hi, ...(centre !== undefined && between(centre, travel) ? { centre } : {}) } } : {}),
    ...(kind === 'zeroed' && resting ? { zero: resting.mean } : {}),
  };
}

function travelOf(moving: ArrayLike<number>, resting: Resting | null): { lo: number; hi: number } | null {
  if (moving.length < 8) return null;
  const sorted = Float64Array.from(moving).sort();
  const lo = percentile(sorted, LOW);
  const hi = percentile(sorted, HIGH);
  return hi - lo > 4 * (resting?.strays ?? 0) && hi > lo ? { lo, hi } : null;
}

const between = (x: number, { lo, hi }: { lo: number; hi: number }) => x > lo && x < hi;
