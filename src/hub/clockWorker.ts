import { parentPort, workerData } from 'node:worker_threads';
import { nextTickMs } from '../core/time/nextTick';
import { CLOCK_RUN, CLOCK_SOONER, CLOCK_TAKEN, monotonicMs, TIME_ASLEEP, TIME_DUE, type ClockShared } from './clockShared';

const { flags, times, periodMs, offsetMs } = workerData as ClockShared;
const nowMs = () => monotonicMs() + offsetMs;

for (;;) {
  Atomics.wait(flags, CLOCK_RUN, 0);
  let gridMs = nowMs() + periodMs;
  let tickedMs = -Infinity;
  /** What was due at the last tick, until the hub says what is due next. */
  let doneMs = Infinity;
  while (Atomics.load(flags, CLOCK_RUN) === 1) {
    const sooner = Atomics.load(flags, CLOCK_SOONER);
    const dueMs = times[TIME_DUE]!;
    const untilMs = nextTickMs(gridMs, dueMs === doneMs ? Infinity : dueMs, tickedMs);
    times[TIME_ASLEEP] = untilMs;
    const waitMs = untilMs - nowMs();
    // Woken because something else is due before: looked at anew.
    if (waitMs > 0 && Atomics.wait(flags, CLOCK_SOONER, sooner, waitMs) !== 'timed-out') continue;
    tickedMs = nowMs();
    if (dueMs <= tickedMs) doneMs = dueMs;
    if (Atomics.exchange(flags, CLOCK_TAKEN, 1) === 0) parentPort!.postMessage(0);
    // Grid points that passed unseen are skipped, not made up for.
    if (tickedMs >= gridMs) gridMs += periodMs * Math.max(1, Math.ceil((tickedMs - gridMs) / periodMs));
  }
}
