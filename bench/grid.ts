import { fork } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
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

/** What an ear heard: when the voices of each address began, and the bare grid of the same seconds, ms of its own clock. */
export interface Heard {
  bare: number[];
  begins: Record<string, number[]>;
}

/** A process that hears voices that come as OSC, beside a grid (see `ear.ts`). */
export async function openEar(everyMs: number): Promise<{ port: number; listen(forMs: number): Promise<Heard>; close(): void }> {
  const ear = fork('bench/ear.ts', [String(everyMs)], { execArgv: ['--import', 'tsx'] });
  const says = <T>() => new Promise<T>((resolve) => ear.once('message', (said) => resolve(said as T)));
  return {
    port: await says<number>(),
    listen(forMs) {
      ear.send(forMs);
      return says<Heard>();
    },
    close: () => ear.disconnect(),
  };
}

/**
 * From here on a hub that is started notes when it writes each voice that leaves as OSC (see `writeProbe.mjs`). The times are there once it
 * has ended, by address, ms of its own clock.
 */
export function watchWrites(): { read(): Record<string, number[]> } {
  const file = join(mkdtempSync(join(tmpdir(), 'pumice-writes-')), 'writes.json');
  process.env.PUMICE_BENCH_WRITES = file;
  process.env.NODE_OPTIONS = `${process.env.NODE_OPTIONS ?? ''} --import ${resolve('bench/writeProbe.mjs')}`;
  return { read: () => JSON.parse(readFileSync(file, 'utf8')) as Record<string, number[]> };
}
