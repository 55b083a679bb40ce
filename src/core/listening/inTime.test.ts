import { expect, it } from 'vitest';
import { HOP_MS } from './audio';
import { HopClock, Lateness } from './inTime';

/** Blocks that come in time, each heard in so many ms by somebody who does nothing else: how late each was when its turn came, and whether it was heard. */
function heard(blocks: number, hearMs: number) {
  const lateness = new Lateness(0);
  let freeMs = 0;
  const turns = Array.from({ length: blocks }, (_, i) => {
    const lateMs = Math.max(0, freeMs - i * HOP_MS);
    const isHeard = lateness.isHeard(i * HOP_MS, i * HOP_MS + lateMs);
    freeMs = Math.max(freeMs, i * HOP_MS) + (isHeard ? hearMs : 0);
    return { lateMs, isHeard };
  });
  return { turns, leftOutMs: lateness.leftOutMs };
}

it('hears everything where there is time for it, also after a stall of a quarter of a second', () => {
  expect(heard(10_000, HOP_MS * 0.9).leftOutMs).toBe(0);
  const lateness = new Lateness(0);
  for (const lateMs of [0, 250, 249, 200, 100, 0]) expect(lateness.isHeard(1000, 1000 + lateMs)).toBe(true);
});

it('of audio that comes twice as fast as it can be heard half is left out, in pieces of a quarter of a second and more, and nothing is heard later than 0.3 s', () => {
  const { turns, leftOutMs } = heard(20_000, HOP_MS * 2);
  const kept = turns.filter(({ isHeard }) => isHeard);
  expect(kept.length / turns.length).toBeCloseTo(0.5, 1);
  expect(leftOutMs).toBeCloseTo((turns.length - kept.length) * HOP_MS, 3);
  expect(Math.max(...kept.map(({ lateMs }) => lateMs))).toBeLessThanOrEqual(300);
  const begins = turns.filter(({ isHeard }, i) => !isHeard && turns[i - 1]?.isHeard).length;
  expect(leftOutMs / begins).toBeGreaterThan(250);
});

it('what waited while the listener itself was not there yet is not heard, and nothing to complain of', () => {
  const lateness = new Lateness(5000);
  expect([4000, 4999, 5000].map((takenMs) => lateness.isHeard(takenMs, 5200))).toEqual([false, false, true]);
  // The computer's clock was set back.
  expect(lateness.isHeard(1000, 1001)).toBe(true);
  expect(lateness.leftOutMs).toBe(0);
});

it('makes as many hops as time passed for, and of a gap the newest alone', () => {
  const clock = new HopClock(1000);
  let hops = 0;
  // 10 s in uneven looks of 1 to 19 ms: 48,000 samples a second in blocks of 128 are 3750 hops.
  let nowMs = 1000;
  for (let i = 0; nowMs < 11_000; i++) {
    nowMs = Math.min(11_000, nowMs + 1 + ((i * 7) % 19));
    hops += clock.due(nowMs);
  }
  expect([3749, 3750]).toContain(hops);
  expect(clock.due(nowMs + 299)).toBeGreaterThan(110);
  expect(clock.due(nowMs + 3_600_000)).toBe(1);
});
