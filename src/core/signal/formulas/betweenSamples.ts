import type { SignalTimes } from '../signalTimes';
import type { DerivedState, Sources } from './kind';

/** What a formula makes of a straight line of its source from `from` to `to` in `dtMs`, when it stood at `y`. */
export type Along<F> = (formula: F, y: number, from: number, to: number, dtMs: number) => number;

/**
 * Of a formula that goes after its source in time: where it stands now, `y` and `x` of the state being those at the last sample. Between two
 * samples the source is taken as a straight line, so that its rate makes no difference (engine.md, Settled); a tick cannot know the line yet
 * and gives what becomes of a source that stands still, which the next sample replaces. Before a sample that comes after a silence the source did stand still; so
 * does a gate before any.
 *
 * @param x the source now
 */
export function afterSource<F>(along: Along<F>, formula: F, { sources, isGate }: Sources, state: DerivedState, x: number, timeMs: number, times: SignalTimes): number {
  const source = sources[0]!;
  const stoodStill = along(formula, state.y, state.x, state.x, timeMs - state.timeMs);
  const heardMs = times.lastMs(source);
  if (heardMs !== timeMs) {
    // In a silence there is no line to come.
    if (isGate || times.isSilent(source, heardMs, timeMs)) {
      state.y = stoodStill;
      state.timeMs = timeMs;
    }
    return stoodStill;
  }
  const isStep = isGate || times.stillUntilMs(source) > -Infinity;
  state.y = isStep ? stoodStill : along(formula, state.y, state.x, x, timeMs - state.timeMs);
  state.x = x;
  state.timeMs = timeMs;
  return state.y;
}

/** Whether something stays where it is is asked for so long, which is how often ticks come. */
const REST_MS = 4;

/** Whether what a tick would make of `y` is that, but for rounding: what runs out would else take minutes to be nothing. */
export function rests<F>(along: Along<F>, formula: F, y: number, x: number): boolean {
  return Math.abs(along(formula, y, x, x, REST_MS) - y) <= Number.EPSILON * Math.max(1, Math.abs(y));
}
