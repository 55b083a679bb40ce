/** Intervals that the mean is taken of. */
const INTERVALS = 8;
/** A longer pause is none of them. */
const LONGEST_MS = 250;
/** The mean interval of a signal that had none yet. */
const UNKNOWN_MS = 25;
const SILENT_INTERVALS = 3;
const SHORTEST_SILENCE_MS = 25;
const LONGEST_SILENCE_MS = 250;

const LAST = 0;
const CHANGED = 1;
const MEAN = 2;
const SILENCE = 3;
const STILL = 4;
const COUNT = 5;
const RING = 6;
const STRIDE = RING + INTERVALS;

/**
 * When the signals of a plan were heard, and from it how long each must be quiet to count as silent (engine.md, Settled:
 * mean interval, silence). All in one Float64Array: numbers with a fraction in fields or results may be allocated.
 */
export class SignalTimes {
  private readonly times: Float64Array;
  /** The last tick that was carried out. */
  tickMs = -Infinity;

  constructor(signals: number) {
    this.times = new Float64Array(signals * STRIDE);
    for (let s = 0; s < signals; s++) {
      const at = s * STRIDE;
      this.times[at + LAST] = this.times[at + CHANGED] = this.times[at + STILL] = -Infinity;
      this.times[at + MEAN] = UNKNOWN_MS;
      this.times[at + SILENCE] = SILENT_INTERVALS * UNKNOWN_MS;
    }
  }

  /** A sample at a time that is not before the last one. Samples at one time are one. */
  heard(signal: number, timeMs: number, changed: boolean): void {
    const { times } = this;
    const at = signal * STRIDE;
    const gapMs = timeMs - times[at + LAST]!;
    if (changed) times[at + CHANGED] = timeMs;
    if (!(gapMs > 0)) return;
    this.moved(signal, timeMs, changed);
    if (gapMs > LONGEST_MS) return;
    const count = times[at + COUNT]!;
    times[at + RING + (count % INTERVALS)] = gapMs;
    times[at + COUNT] = count + 1;
    const kept = Math.min(count + 1, INTERVALS);
    let sum = 0;
    for (let i = 0; i < kept; i++) sum += times[at + RING + i]!;
    const mean = sum / kept;
    times[at + MEAN] = mean;
    times[at + SILENCE] = Math.min(Math.max(SILENT_INTERVALS * mean, SHORTEST_SILENCE_MS), LONGEST_SILENCE_MS);
  }

  /** The signal was moved by something that is no sample: a glide, a spring. */
  moved(signal: number, timeMs: number, changed: boolean): void {
    const { times } = this;
    const at = signal * STRIDE;
    const silent = timeMs - times[at + LAST]! >= times[at + SILENCE]!;
    times[at + STILL] = silent ? Math.max(timeMs - SILENT_INTERVALS * times[at + MEAN]!, this.tickMs) : -Infinity;
    times[at + LAST] = timeMs;
    if (changed) times[at + CHANGED] = timeMs;
  }

  /** Whether something that was last moved at `sinceMs` has been quiet for the silence of this signal. */
  isSilent(signal: number, sinceMs: number, timeMs: number): boolean {
    return timeMs - sinceMs >= this.times[signal * STRIDE + SILENCE]!;
  }

  /** Whether the signal had no other value for a silence, also while equal samples come. */
  standsStill(signal: number, timeMs: number): boolean {
    return this.isSilent(signal, this.times[signal * STRIDE + CHANGED]!, timeMs);
  }

  /** Until when the input stood still before the last sample; -Infinity where it was not silent before that. */
  stillUntilMs(signal: number): number {
    return this.times[signal * STRIDE + STILL]!;
  }

  /** Takes over what was known of a signal of another plan. */
  carry(signal: number, from: SignalTimes, was: number): void {
    this.times.set(from.times.subarray(was * STRIDE, (was + 1) * STRIDE), signal * STRIDE);
  }
}
