import type { DeadZone, Shaping, Smoothing } from '../rig/document';
import { turnNearest } from '../signal/period';
import { medianFor, letThrough, type MedianSize } from './spikes';
import { noiseOf, percentile } from './statistics';

/** What a few seconds of a gesture were like. Values in the signal's unit, speeds in units a second. */
export interface Gesture {
  samples: number;
  lowest: number;
  highest: number;
  /** 2nd and 98th percentile: the extremes without single outliers (engine.md, range in). */
  lo: number;
  hi: number;
  /** Standard deviation of the noise. */
  noise: number;
  /** 95th percentile of the absolute speed. */
  speedPerS: number;
  rateHz: number;
  /** Single values that stick out of the movement. */
  spikes: number;
}

export interface FitProposal {
  gesture: Gesture;
  rangeIn: { lo: number; hi: number };
  /** Where there were spikes that the de-glitch so far lets through. */
  median?: MedianSize;
  /** Absent where the noise is too small to be seen at rest. */
  deadZone?: DeadZone;
  smoothing?: Smoothing;
}

const LOW = 0.02;
const HIGH = 0.98;
const FAST = 0.95;
/** Noise at rest that no receiver can see: a quarter of one of 127 steps, as a share of the range. */
const UNSEEN = 0.25 / 127;
/** Noise stays within this many standard deviations nearly always. */
const NOISE_WIDTH = 3;
/** In motion the filter may be so much behind: its cutoff is then 1 / (2 pi lag). */
const LAG_S = 0.016;
const DERIVATIVE_CUTOFF_HZ = 1;
const SLOWEST_CUTOFF_HZ = 0.1;

/** What is known of the signal besides its numbers. */
export interface FitContext {
  /** Where the signal lies untouched, for a dead zone in the middle; absent: at the ends. */
  rest?: number;
  /** Of an angle: after so much it starts again. A gesture over that end is one way, as 350 to 370 degrees. */
  period?: number;
  /** The de-glitch that the mapping has already, and the width of its range in, in the signal's unit: below 0 where that is turned round, and then so is what is proposed. */
  deglitch?: Shaping['deglitch'];
  width?: number;
}

/**
 * Measures a gesture and proposes range, de-glitch, dead zone and smoothing for it, all from what the de-glitch lets through.
 * Null where there is nothing to go by: fewer than eight samples, no time between them, or no movement beyond the noise.
 * @param timesMs rising, one for each value
 */
export function fit(timesMs: ArrayLike<number>, said: ArrayLike<number>, { rest, period = 0, deglitch, width: widthIn = 1 }: FitContext = {}): FitProposal | null {
  const count = said.length;
  if (count < 8) return null;
  const values = period > 0 ? unrolled(said, period) : said;
  const lastedMs = timesMs[count - 1]! - timesMs[0]!;
  if (!(lastedMs > 0)) return null;
  const through = letThrough(timesMs, values, deglitch, widthIn);
  const { median, spikes } = medianFor(through);
  const calm = median ? letThrough(timesMs, through, { median }, widthIn) : through;
  const sorted = calm.slice().sort();
  const gesture: Gesture = {
    samples: count,
    lowest: through.reduce((least, value) => Math.min(least, value)),
    highest: through.reduce((most, value) => Math.max(most, value)),
    lo: percentile(sorted, LOW),
    hi: percentile(sorted, HIGH),
    // A median calms noise too, but the smoothing must do without it.
    noise: noiseOf(through),
    speedPerS: percentile(speeds(timesMs, calm), FAST),
    rateHz: ((count - 1) * 1000) / lastedMs,
    spikes,
  };
  const width = gesture.hi - gesture.lo;
  if (!(width > 2 * NOISE_WIDTH * gesture.noise)) return null;
  const noise = gesture.noise / width;
  return {
    gesture,
    rangeIn: widthIn < 0 ? { lo: gesture.hi, hi: gesture.lo } : { lo: gesture.lo, hi: gesture.hi },
    ...(median ? { median } : {}),
    ...(noise > UNSEEN ? { deadZone: deadZoneFor(noise, gesture, rest === undefined ? undefined : turnNearest(rest, (gesture.lo + gesture.hi) / 2, period)), smoothing: smoothingFor(noise, gesture) } : {}),
  };
}

/** An angle as one way; as it was said where it goes all the way round. */
function unrolled(said: ArrayLike<number>, period: number): ArrayLike<number> {
  let now = said[0] ?? NaN;
  const way = Float64Array.from(said, (value) => (now = turnNearest(value, now, period)));
  const span = way.reduce((most, value) => Math.max(most, value)) - way.reduce((least, value) => Math.min(least, value));
  return span < period ? way : said;
}

function speeds(timesMs: ArrayLike<number>, values: ArrayLike<number>): Float64Array {
  const found: number[] = [];
  for (let i = 1; i < values.length; i++) {
    const dtMs = timesMs[i]! - timesMs[i - 1]!;
    if (dtMs > 0) found.push((Math.abs(values[i]! - values[i - 1]!) / dtMs) * 1000);
  }
  return Float64Array.from(found).sort();
}

/** So wide that noise at rest stays inside: around the middle where the signal rests there, else at both ends. */
function deadZoneFor(noise: number, { lo, hi }: Gesture, rest: number | undefined): DeadZone {
  const share = Math.min(0.2, NOISE_WIDTH * noise);
  const place = rest === undefined ? 0 : (rest - lo) / (hi - lo);
  if (place > 0.25 && place < 0.75) return { kind: 'centre', inner: Math.min(0.4, 2 * share + 2 * Math.abs(place - 0.5)), outer: 1 - share };
  return { kind: 'ends', low: share, high: share };
}

/**
 * One Euro: at rest a cutoff that brings the noise below what a receiver can see, at full speed one that keeps the lag
 * within LAG_S. A one-pole with factor a leaves a / (2 - a) of the variance, and a / (1 - a) = 2 pi fc Te.
 */
function smoothingFor(noise: number, { speedPerS, rateHz, lo, hi }: Gesture): Smoothing {
  const left = (UNSEEN / noise) ** 2;
  const alpha = (2 * left) / (1 + left);
  const minCutoffHz = Math.max(SLOWEST_CUTOFF_HZ, (alpha / (1 - alpha)) * (rateHz / (2 * Math.PI)));
  const quickHz = 1 / (2 * Math.PI * LAG_S);
  const levelsPerS = speedPerS / (hi - lo);
  const beta = levelsPerS > 0 ? Math.max(0, quickHz - minCutoffHz) / levelsPerS : 0;
  return { kind: 'oneEuro', minCutoffHz: rounded(minCutoffHz), beta: rounded(beta), derivativeCutoffHz: DERIVATIVE_CUTOFF_HZ };
}

/** To three figures, as people write such numbers. */
const rounded = (x: number) => Number(x.toPrecision(3));
