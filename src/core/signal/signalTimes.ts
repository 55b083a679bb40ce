/** Intervals that the mean is taken of. */
const INTERVALS = 8;
/** A longer pause is none of them. */
const LONGEST_MS = 250;
/** The mean interval of a signal that had none yet. */
const UNKNOWN_MS = 25;
const SILENT_INTERVALS = 3;
/** No signal counts as silent sooner. */
export const SHORTEST_SILENCE_MS = 25;
const LONGEST_SILENCE_MS = 250;

const LAST = 0;
const CHANGED = 1;
const MEAN = 2;
const SILENCE = 3;
const STILL = 4;
const SUM = 5;
const KEPT = 6;
const PLACE = 7;
const RING = 8;
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
    this.noteStill(at, gapMs, timeMs);
    times[at + LAST] = timeMs;
    if (gapMs > LONGEST_MS) return;
    const place = times[at + PLACE]!;
    // The sum goes along; once a round it is taken anew, so that nothing adds up in it.
    let sum = times[at + SUM]! + gapMs - times[at + RING + place]!;
    times[at + RING + place] = gapMs;
    if (times[at + KEPT]! < INTERVALS) times[at + KEPT]!++;
    if (place + 1 < INTERVALS) times[at + PLACE] = place + 1;
    else {
      times[at + PLACE] = 0;
      sum = 0;
      for (let i = 0; i < INTERVALS; i++) sum += times[at + RING + i]!;
    }
    times[at + SUM] = sum;
    const meanMs = sum / times[at + KEPT]!;
    times[at + MEAN] = meanMs;
    const silenceMs = SILENT_INTERVALS * meanMs;
    times[at + SILENCE] = silenceMs < SHORTEST_SILENCE_MS ? SHORTEST_SILENCE_MS : silenceMs > LONGEST_SILENCE_MS ? LONGEST_SILENCE_MS : silenceMs;
  }

  /** The signal was moved by something that is no sample: a glide, a spring. */
  moved(signal: number, timeMs: number, changed: boolean): void {
    const { times } = this;
    const at = signal * STRIDE;
    this.noteStill(at, timeMs - times[at + LAST]!, timeMs);
    times[at + LAST] = timeMs;
    if (changed) times[at + CHANGED] = timeMs;
  }

  /** When the signal was heard or moved last, -Infinity for never. */
  lastMs(signal: number): number {
    return this.times[signal * STRIDE + LAST]!;
  }

  /** How long the signal must be quiet to count as silent. */
  silenceMs(signal: number): number {
    return this.times[signal * STRIDE + SILENCE]!;
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

  /** When the straight way to the last sample began: at the sample before it, or later where a silence was between them. */
  wayBeganMs(signal: number): number {
    const { times } = this;
    const at = signal * STRIDE;
    const stillMs = times[at + STILL]!;
    if (stillMs > -Infinity) return stillMs;
    return times[at + LAST]! - times[at + RING + ((times[at + PLACE]! + INTERVALS - 1) % INTERVALS)]!;
  }

  private noteStill(at: number, gapMs: number, timeMs: number): void {
    const { times } = this;
    times[at + STILL] = gapMs >= times[at + SILENCE]! ? Math.max(timeMs - SILENT_INTERVALS * times[at + MEAN]!, this.tickMs) : -Infinity;
  }

  /** Takes over what was known of a signal of another plan. */
  carry(signal: number, from: SignalTimes, was: number): void {
    this.times.set(from.times.subarray(was * STRIDE, (was + 1) * STRIDE), signal * STRIDE);
  }
}
