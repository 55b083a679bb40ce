import { Worker } from 'node:worker_threads';
import { CLOCK_EVENLY, CLOCK_RUN, CLOCK_SOONER, CLOCK_TAKEN, freshFlags, freshTimes, monotonicMs, TIME_ASLEEP, TIME_DUE, type ClockShared } from './clockShared';
import { hubTimeMs } from './time';

/**
 * Ticks on an absolute grid, and whenever something is due between, woken by a worker thread that waits with
 * `Atomics.wait`; a timer of the event loop would drift by 1-8 % at this rate. It stands still while nobody needs it.
 */
export class Clock {
  private readonly flags = freshFlags();
  private readonly times = freshTimes();
  private readonly worker: Worker;

  /** @param script the built worker, where this runs from its source */
  constructor(periodMs: number, onTick: () => void, script = new URL('./clockWorker.js', import.meta.url)) {
    // Between the two looks time passes, most of it the first time: the largest is the nearest.
    const offsetMs = Math.max(...Array.from({ length: 5 }, () => hubTimeMs() - monotonicMs()));
    const shared: ClockShared = { flags: this.flags, times: this.times, periodMs, offsetMs };
    this.worker = new Worker(script, { workerData: shared });
    this.worker.on('message', () => {
      // From here a tick that comes due is a new one.
      Atomics.store(this.flags, CLOCK_TAKEN, 0);
      onTick();
    });
    this.worker.unref();
  }

  /**
   * @param evenly whether the ticks of the grid are wanted
   * @param dueMs hub time at which a tick is wanted besides those; Infinity for never
   */
  run(evenly: boolean, dueMs: number): void {
    const { flags, times } = this;
    times[TIME_DUE] = dueMs;
    const isMore = Atomics.exchange(flags, CLOCK_EVENLY, Number(evenly)) < Number(evenly);
    const on = evenly || dueMs < Infinity ? 1 : 0;
    const wasOn = Atomics.exchange(flags, CLOCK_RUN, on);
    if (on === 0) return;
    if (wasOn === 0) Atomics.notify(flags, CLOCK_RUN);
    if (wasOn === 0 || isMore || dueMs < times[TIME_ASLEEP]!) {
      Atomics.add(flags, CLOCK_SOONER, 1);
      Atomics.notify(flags, CLOCK_SOONER);
    }
  }

  async stop(): Promise<void> {
    await this.worker.terminate();
  }
}
