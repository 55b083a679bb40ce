import { periodicDifference } from '../period';
import type { FormulaKind } from './kind';
import { signalId } from './together';

/** How fast a signal changes, in its unit a second. */
export interface Speed {
  op: 'speed';
  of: string;
}

/** A source that was silent for this long stands still. */
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
  value(_, { sources, period }, state, values, timeMs) {
    const x = values[sources[0]!]!;
    if (Number.isNaN(state.timeMs)) {
      state.x = x;
      state.timeMs = timeMs;
      return (state.y = 0);
    }
    const dtMs = timeMs - state.timeMs;
    const way = periodicDifference(x, state.x, period);
    if (way !== 0 && dtMs >= NEAREST_MS) {
      state.y = (way / dtMs) * 1000;
      state.x = x;
      state.timeMs = timeMs;
    } else if (way === 0 && dtMs >= STILL_MS) {
      state.y = 0;
      state.timeMs = timeMs;
    }
    return state.y;
  },
};
