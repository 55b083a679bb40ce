import { Worker } from 'node:worker_threads';
import { percentile } from './report';
import { sleep } from './pace';

/** The floor: an even grid in a bare thread that waits with `Atomics.wait` and posts to this process; when each post came, in ms. */
export async function bareGrid(everyMs: number, forMs: number): Promise<number[]> {
  const times: number[] = [];
  const code = `const { parentPort } = require('node:worker_threads'); const a = new Int32Array(new SharedArrayBuffer(4)); let due = performance.now();
    for (;;) { due += ${everyMs}; const wait = due - performance.now(); if (wait > 0) Atomics.wait(a, 0, 0, wait); parentPort.postMessage(0); }`;
  const worker = new Worker(code, { eval: true });
  worker.on('message', () => times.push(performance.now()));
  await sleep(forMs);
  await worker.terminate();
  // The thread's own start is no part of the grid.
  return times.slice(5);
}

/** The place on a grid that a time lies next to. */
export const nearestPlace = (everyMs: number) => (_: number, sinceMs: number) => Math.round(sinceMs / everyMs);

/**
 * Distances from the grid whose beginning lies in the middle of what was seen, ms; what the grid moved by from first to last; and how
 * many of its places nothing stands at. `place` says the place of each on the grid.
 */
export function onGrid(timesMs: readonly number[], everyMs: number, place: (i: number, sinceMs: number) => number): { offMs: number[]; driftMs: number; missing: number } {
  const late = timesMs.map((timeMs, i) => timeMs - timesMs[0]! - place(i, timeMs - timesMs[0]!) * everyMs);
  const middle = percentile([...late], 0.5);
  const tenth = Math.floor(late.length / 10);
  return {
    offMs: late.map((ms) => Math.abs(ms - middle)),
    driftMs: Math.abs(percentile(late.slice(-tenth), 0.5) - percentile(late.slice(0, tenth), 0.5)),
    missing: Math.round((timesMs.at(-1)! - timesMs[0]!) / everyMs) + 1 - timesMs.length,
  };
}
