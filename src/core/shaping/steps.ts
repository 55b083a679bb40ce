import type { UnitInterval } from '../units/unitInterval';

/**
 * One of `count` equal steps, 0 to count - 1. To leave a step, `x` must go past its border by `hysteresis` of a step
 * (0 to below 1), so that noise at a border does not chatter.
 * @param before the step it was in, or -1
 */
export function step(x: UnitInterval, count: number, hysteresis: number, before: number): number {
  const at = Math.min(count - 1, Math.floor(x * count));
  if (before < 0 || at === before) return at;
  const past = at > before ? x * count - (before + 1) : before - x * count;
  // The outermost steps are always reached at the very end of the way.
  if (past < hysteresis && x > 0 && x < 1) return before;
  return at;
}
