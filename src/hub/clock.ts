import { Worker } from 'node:worker_threads';
import { CLOCK_RUN, CLOCK_SOONER, CLOCK_TAKEN, monotonicMs, TIME_ASLEEP, TIME_DUE, type ClockShared } from './clockShared';
import { hubTimeMs } from './time';

/**
 * Ticks on an absolute grid, and whenever something is due between, woken by a worker thread that waits with
 * `Atomics.wait`; a timer of the event loop would drift by 1-8 % at this rate. It stands still while nobody needs it.
 */
export class Clock {
  private readonly flags = new Int32Array(new SharedArrayBuffer(12));
  private readonly times = new Float64Array(new SharedArrayBuffer(16)).fill(Infinity);
  private readonly worker: Worker;

  constructor(periodMs: number, onTick: () => void) {
    // Between the two looks time passes, most of it the first time: the largest is the nearest.
    const offsetMs = Math.max(...Array.from({ length: 5 }, () => hubTimeMs() - monotonicMs()));
    const shared: ClockShared = { flags: this.flags, times: this.times, periodMs, offsetMs };
    this.worker = new Worker(new URL('./clockWorker.js', import.meta.url), { workerData: shared });
    this.worker.on('message', () => {
      // From here a tick that comes due is a new one.
      Atomics.store(this.flags, CLOCK_TAKEN, 0);
      onTick();
    });
    this.worker.unref();
  }

  /** @param dueMs hub time at which a tick is wanted besides those of the grid */
  run(on: boolean, dueMs: number): void {
    this.times[TIME_DUE] = dueMs;
    const flag = on ? 1 : 0;
    if (Atomics.exchange(this.flags, CLOCK_RUN, flag) !== flag) {
      if (on) Atomics.notify(this.flags, CLOCK_RUN);
    } else if (on && dueMs < this.times[TIME_ASLEEP]!) {
      Atomics.add(this.flags, CLOCK_SOONER, 1);
      Atomics.notify(this.flags, CLOCK_SOONER);
    }
  }

  async stop(): Promise<void> {
    await this.worker.terminate();
  }
}
