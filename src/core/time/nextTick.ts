/** Ticks come no closer than this, whatever is due. */
const LEAST_MS = 0.1;
/** A tick of the grid, which nobody hears, waits so long for what is due: its work would else be in the way. */
const GRID_WAITS_MS = 0.5;

/**
 * When the next tick comes, in ms: at the next point of the grid or when something is due, whichever is first. A tick of the grid
 * waits for what is due right after it: 24 clocks of 120 bpm are 125 ticks of 4 ms, so each 24th would come right behind one.
 * @param dueMs Infinity for nothing
 * @param tickedMs when the last tick came
 */
export function nextTickMs(gridMs: number, dueMs: number, tickedMs: number): number {
  const soonestMs = Math.max(dueMs, tickedMs + LEAST_MS);
  return soonestMs < gridMs + GRID_WAITS_MS ? soonestMs : gridMs;
}
