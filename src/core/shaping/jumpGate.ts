import { periodicDifference } from '../signal/period';

/** Slots: the value let through last, its time, and since when values have been refused (NaN: they are not). */
export const JUMP_SLOTS = 3;

/**
 * Ignores a change faster than `perS` (levels a second) unless it lasts longer than `forMs`. Memory at `state[at]`;
 * NaN in the first slot is empty.
 * @param stillMs until when the input stood still, which was no part of its way; -Infinity where it did not
 * @param period of an angle in levels, so that its way over the end is short; else 0
 * @returns the level let through
 */
export function jumpGate(state: Float64Array, at: number, x: number, timeMs: number, perS: number, forMs: number, stillMs = -Infinity, period = 0): number {
  if (state[at + 1]! < stillMs) state[at + 1] = stillMs;
  const passed = state[at]!;
  const since = state[at + 2]!;
  const dtS = (timeMs - state[at + 1]!) / 1000;
  const tooFast = Math.abs(periodicDifference(x, passed, period)) > perS * Math.max(dtS, 0);
  if (tooFast && (Number.isNaN(since) || timeMs - since <= forMs)) {
    if (Number.isNaN(since)) state[at + 2] = timeMs;
    // The speed is always taken against the last good value at its own time, so a true, slow change catches up.
    return passed;
  }
  state[at] = x;
  state[at + 1] = timeMs;
  state[at + 2] = NaN;
  return x;
}
