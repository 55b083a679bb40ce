import { periodicDifference } from '../period';
import type { FormulaKind } from './kind';
import { signalId } from './together';

/** How fast a signal changes, in its unit a second. */
export interface Speed {
  op: 'speed';
  of: string;
}

/** A source that kept its value for this long stands still; one that is heard seldom, once it is silent. */
const STILL_MS = 100;
/** Two samples nearer than this in time say nothing about speed. */
const NEAREST_MS = 0.5;

export const speed: FormulaKind<Speed> = {
  name: 'Speed',
  fields: { of: signalId },
  movesByItself: true,
  restsCount: false,
  // A speed in mm is not in mm.
  unit: (of) => (of === 'deg' ? 'deg/s' : 'unit'),
  /** Full ways of the source in a second either way, which is what quick gestures reach (common practice). */
  range({ of }, rangeOf) {
    const [lo, hi] = rangeOf(of);
    return [lo - hi, hi - lo];
  },
  words: ({ of }, nameOf) => `how fast ${nameOf(of)} changes, per second`,
  fresh: ({ take }) => ({ op: 'speed', of: take(1)[0]! }),
  // A way that was too near in time to say anything is still to be told.
  rests: (_, { sources }, { x, y }, values) => y === 0 && values[sources[0]!] === x,
  value(_, { sources, period }, state, values, timeMs, __, times) {
    const source = sources[0]!;
    const x = values[source]!;
    const beforeMs = state.heardMs;
    state.heardMs = times.lastMs(source);
    if (Number.isNaN(state.timeMs)) {
      state.x = x;
      state.timeMs = timeMs;
      return (state.y = 0);
    }
    const silenceMs = times.silenceMs(source);
    const sinceMs = timeMs - state.timeMs;
    const stoodStill = sinceMs >= Math.max(STILL_MS, silenceMs);
    const way = periodicDifference(x, state.x, period);
    if (way === 0) {
      if (stoodStill) state.y = 0;
      return state.y;
    }
    // What stood still went off with the sample before, or, where that is long ago, the least silence ago that would have been noticed.
    const dtMs = stoodStill ? Math.min(timeMs - beforeMs, silenceMs) : sinceMs;
    if (dtMs >= NEAREST_MS) {
      state.y = (way / dtMs) * 1000;
      state.x = x;
      state.timeMs = timeMs;
    }
    return state.y;
  },
};
