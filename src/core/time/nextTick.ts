/** Ticks come no closer than this, whatever is due. */
const LEAST_MS = 0.5;

/**
 * When the next tick comes, in ms: at the next point of the grid or when something is due, whichever is first. A tick of the grid
 * waits for what is due right after it, which would else come late by the least distance: 24 clocks of 120 bpm are 125 ticks of
 * 4 ms, so each 24th was.
 * @param dueMs Infinity for nothing
 * @param tickedMs when the last tick came
 */
export function nextTickMs(gridMs: number, dueMs: number, tickedMs: number): number {
  const soonestMs = Math.max(dueMs, tickedMs + LEAST_MS);
  return soonestMs < gridMs + LEAST_MS ? soonestMs : gridMs;
}
