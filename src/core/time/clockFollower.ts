import { periodOf } from './periodFit';

export const CLOCKS_PER_BEAT = 24;
/** The tempo is that of the last beats. */
const BEATS = 2;
/** From so many clocks on there is a tempo. */
const FEWEST = CLOCKS_PER_BEAT / 2 + 1;
/** Two clocks further apart belong to different stretches of playing. */
const GAP_MS = 500;
/** Two clocks in a row that are off by more than this, ever further and to one side, are another tempo and no jitter. */
const OFF_MS = 6;
const OFF_SHARE = 0.1;

/** The tempo of a MIDI clock (24 a beat, MIDI 1.0), by a line through the times of the last beats. */
export class ClockFollower {
  private timesMs: number[] = [];
  private periodMs = NaN;
  private offMs = 0;
  /** When the last clock should have come, as far as is known: its own time before there is a tempo. */
  fittedMs = NaN;

  /** A clock came; gives the tempo in beats a minute, NaN before there are enough of them. */
  clock(timeMs: number): number {
    const { timesMs } = this;
    const lastMs = timesMs.at(-1);
    this.fittedMs = timeMs;
    if (lastMs === undefined || !(timeMs > lastMs) || timeMs - lastMs > GAP_MS) return this.begin(timeMs);
    const offMs = Number.isNaN(this.periodMs) ? 0 : timeMs - timesMs[0]! - this.periodMs * timesMs.length;
    const isOff = Math.abs(offMs) > Math.max(OFF_MS, OFF_SHARE * this.periodMs);
    timesMs.push(timeMs);
    if (isOff && Math.sign(offMs) === Math.sign(this.offMs) && Math.abs(offMs) > Math.abs(this.offMs)) {
      // The clock before was the first of the new tempo, and the one before that is where it began.
      this.timesMs = timesMs.slice(-3);
      this.periodMs = NaN;
      this.offMs = 0;
      return NaN;
    }
    this.offMs = isOff ? offMs : 0;
    if (timesMs.length > BEATS * CLOCKS_PER_BEAT + 1) timesMs.shift();
    if (timesMs.length < FEWEST) return NaN;
    this.periodMs = periodOf(timesMs);
    this.fittedMs = timesMs.reduce((sum, ms) => sum + ms, 0) / timesMs.length + (this.periodMs * (timesMs.length - 1)) / 2;
    return 60_000 / (this.periodMs * CLOCKS_PER_BEAT);
  }

  private begin(timeMs: number): number {
    this.timesMs = [timeMs];
    this.periodMs = NaN;
    this.offMs = 0;
    return NaN;
  }
}
