import { parentPort, workerData } from 'node:worker_threads';
import { nextTickMs } from '../core/time/nextTick';
import { CLOCK_EVENLY, CLOCK_RUN, CLOCK_SLEEPS, CLOCK_SOONER, CLOCK_TAKEN, monotonicMs, TIME_ASLEEP, TIME_DUE, type ClockShared } from './clockShared';

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
    const evenly = Atomics.load(flags, CLOCK_EVENLY);
    const dueMs = times[TIME_DUE]!;
    const isDone = dueMs === doneMs;
    // Until the hub has answered, the grid goes on: it may have been asked a moment too early.
    const untilMs = nextTickMs(evenly === 1 || isDone ? gridMs : Infinity, isDone ? Infinity : dueMs, tickedMs);
    times[TIME_ASLEEP] = untilMs;
    // First it is written when this wakes, then looked whether that still holds; the hub does the same the other way round, so
    // one of the two sees the other. It takes an operation that both must pass, or each might look too early.
    Atomics.add(flags, CLOCK_SLEEPS, 1);
    const isOther = () => times[TIME_DUE] !== dueMs || Atomics.load(flags, CLOCK_EVENLY) !== evenly;
    if (isOther()) continue;
    const waitMs = untilMs - nowMs();
    // Woken because something else is due before: looked at anew.
    if (waitMs > 0 && Atomics.wait(flags, CLOCK_SOONER, sooner, waitMs) !== 'timed-out') continue;
    // Nobody is woken because something is due later, or nothing any more.
    if (isOther()) continue;
    tickedMs = nowMs();
    if (dueMs <= tickedMs) doneMs = dueMs;
    if (Atomics.exchange(flags, CLOCK_TAKEN, 1) === 0) parentPort!.postMessage(0);
    // Grid points that passed unseen are skipped, not made up for; while nobody wants one there is none to keep to.
    if (evenly === 0) gridMs = tickedMs + periodMs;
    else if (tickedMs >= gridMs) gridMs += periodMs * Math.max(1, Math.ceil((tickedMs - gridMs) / periodMs));
  }
}
