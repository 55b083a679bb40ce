import { Worker } from 'node:worker_threads';
import { CLOCK_RUN, CLOCK_TAKEN, type ClockShared } from './clockShared';

/**
 * Ticks on an absolute grid, woken by a worker thread that waits with `Atomics.wait`; a timer of the event loop would
 * drift by 1-8 % at this rate. It stands still while nobody needs it.
 */
export class Clock {
  private readonly flags = new Int32Array(new SharedArrayBuffer(8));
  private readonly worker: Worker;

  constructor(periodMs: number, onTick: () => void) {
    const shared: ClockShared = { flags: this.flags, periodMs };
    this.worker = new Worker(new URL('./clockWorker.js', import.meta.url), { workerData: shared });
    this.worker.on('message', () => {
      onTick();
      Atomics.store(this.flags, CLOCK_TAKEN, 0);
    });
    this.worker.unref();
  }

  set running(on: boolean) {
    const flag = on ? 1 : 0;
    if (Atomics.exchange(this.flags, CLOCK_RUN, flag) !== flag && on) Atomics.notify(this.flags, CLOCK_RUN);
  }

  async stop(): Promise<void> {
    await this.worker.terminate();
  }
}
