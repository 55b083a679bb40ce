import { expect, it } from 'vitest';
import { nextTickMs } from './nextTick';

const PERIOD_MS = 4;

/** How late each of what is due every so many ms gets its tick, in a minute; and how many ticks there were. */
function minute(everyMs: number, fromMs: number): { lateMs: number[]; ticks: number } {
  const lateMs: number[] = [];
  let [gridMs, tickedMs, ticks, next] = [PERIOD_MS, -Infinity, 0, 0];
  for (let nowMs = 0; nowMs < 60_000; ticks++) {
    nowMs = nextTickMs(gridMs, fromMs + next * everyMs, tickedMs);
    tickedMs = nowMs;
    for (; fromMs + next * everyMs <= nowMs; next++) lateMs.push(nowMs - (fromMs + next * everyMs));
    if (nowMs >= gridMs) gridMs += PERIOD_MS * Math.ceil((nowMs - gridMs) / PERIOD_MS || 1);
  }
  return { lateMs, ticks };
}

it.each([20, 84, 120, 137.5, 300])('a clock at %d bpm has its tick when it is due, wherever it stands to the grid', (bpm) => {
  for (let fromMs = 0; fromMs < PERIOD_MS; fromMs += 0.17) expect(Math.max(...minute(60_000 / bpm / 24, fromMs).lateMs)).toBe(0);
});

it('where nothing is due there is the grid alone, and where much is, ticks keep their least distance', () => {
  expect(minute(0, Infinity).ticks).toBe(15_000);
  const { lateMs, ticks } = minute(0.03, 0);
  expect(lateMs.every((late) => late <= 0.1)).toBe(true);
  expect(ticks).toBeLessThanOrEqual(600_010);
});
