import { MS_PER_MINUTE } from './musicalTime';
import { periodOf } from './periodFit';

/** A longer wait begins anew, and so does one that is this much longer or shorter than those before. */
const LONGEST_MS = 3000;
const OFF_SHARE = 0.4;
const MOST = 8;

/**
 * The tempo that is tapped: by the line through the last taps, so that one that is late does not count more than others. A few taps of a
 * hand tell no more than whole beats a minute, all of them a tenth.
 */
export class TapTempo {
  private tapsMs: number[] = [];

  /** A tap; gives beats a minute, NaN after the first. */
  tap(timeMs: number): number {
    const { tapsMs } = this;
    const gapMs = timeMs - (tapsMs.at(-1) ?? -Infinity);
    const expectedMs = tapsMs.length > 1 ? (tapsMs.at(-1)! - tapsMs[0]!) / (tapsMs.length - 1) : gapMs;
    if (!(gapMs > 0 && gapMs <= LONGEST_MS) || Math.abs(gapMs - expectedMs) > OFF_SHARE * expectedMs) this.tapsMs = [timeMs];
    else this.tapsMs = [...tapsMs, timeMs].slice(-MOST);
    if (this.tapsMs.length < 2) return NaN;
    const bpm = MS_PER_MINUTE / periodOf(this.tapsMs);
    return this.tapsMs.length < MOST ? Math.round(bpm) : Math.round(bpm * 10) / 10;
  }
}
