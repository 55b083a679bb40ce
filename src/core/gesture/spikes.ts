import type { Shaping } from '../rig/document';
import { JUMP_SLOTS, jumpGate } from '../shaping/jumpGate';
import { median, MEDIAN_SLOTS } from '../shaping/median';
import { SignalTimes } from '../signal/signalTimes';
import { noiseOf, percentile } from './statistics';

export type MedianSize = NonNullable<NonNullable<Shaping['deglitch']>['median']>;

const SIZES: readonly MedianSize[] = [3, 5, 7];
/** A value this many standard deviations of the noise away from the median around it sticks out. */
const STICKS_OUT = 8;
/** And at least this share of the travel. */
const SEEN = 0.05;
/** Where more than this share sticks out, it is the gesture itself. */
const FEW = 0.05;

/** What a de-glitch lets through of recorded values, as the engine would, in the unit of the signal. */
export function letThrough(timesMs: ArrayLike<number>, values: ArrayLike<number>, deglitch: Shaping['deglitch'], width: number): Float64Array {
  const medianState = new Float64Array(MEDIAN_SLOTS);
  const jumpState = new Float64Array(JUMP_SLOTS).fill(NaN);
  const times = new SignalTimes(1);
  return Float64Array.from(values, (value, i) => {
    const calm = deglitch?.median ? median(medianState, 0, value, deglitch.median) : value;
    if (!deglitch?.jump) return calm;
    times.heard(0, timesMs[i]!, true);
    if (i === 0) {
      jumpState.set([calm, timesMs[0]!]);
      return calm;
    }
    return jumpGate(jumpState, 0, calm, timesMs[i]!, deglitch.jump.perS * Math.abs(width), deglitch.jump.forMs, times.stillUntilMs(0));
  });
}

/**
 * The smallest median that takes the spikes out of a movement: values that stick out for one, two or three samples and are
 * gone again. None where nothing sticks out, or so much that it is meant.
 */
export function medianFor(values: Float64Array): { median?: MedianSize; spikes: number } {
  const spikes = countSpikes(values, 7);
  if (spikes === 0 || spikes > FEW * values.length) return { spikes: 0 };
  return { median: SIZES.find((size) => countSpikes(values, size) === spikes) ?? 7, spikes };
}

/** How many values stick out of the median of `size` around them. */
function countSpikes(values: Float64Array, size: MedianSize): number {
  const half = (size - 1) / 2;
  const state = new Float64Array(MEDIAN_SLOTS);
  const medians = Float64Array.from(values, (value) => median(state, 0, value, size));
  const sorted = medians.slice().sort();
  const least = Math.max(STICKS_OUT * noiseOf(values), SEEN * (percentile(sorted, 0.98) - percentile(sorted, 0.02)));
  let count = 0;
  // The median of a window lies in its middle, half a window back.
  for (let i = half; i + half < values.length; i++) if (Math.abs(values[i]! - medians[i + half]!) > least) count++;
  return count;
}
