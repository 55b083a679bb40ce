import { performance } from 'node:perf_hooks';
import { parentPort, workerData } from 'node:worker_threads';
import { CLOCK_RUN, CLOCK_TAKEN, type ClockShared } from './clockShared';

const { flags, periodMs } = workerData as ClockShared;
const asleep = new Int32Array(new SharedArrayBuffer(4));

for (;;) {
  Atomics.wait(flags, CLOCK_RUN, 0);
  let dueMs = performance.now() + periodMs;
  while (Atomics.load(flags, CLOCK_RUN) === 1) {
    const waitMs = dueMs - performance.now();
    if (waitMs > 0) Atomics.wait(asleep, 0, 0, waitMs);
    if (Atomics.exchange(flags, CLOCK_TAKEN, 1) === 0) parentPort!.postMessage(0);
    // Grid points that passed unseen are skipped, not made up for.
    dueMs += periodMs * Math.max(1, Math.ceil((performance.now() - dueMs) / periodMs));
  }
}
