import { SAMPLE_RATE_HZ } from '../audio';
import { DECIMATION } from '../spectrum/decimator';
import { findRoots, predict } from './linearPrediction';

const RATE_HZ = SAMPLE_RATE_HZ / DECIMATION;
const ORDER = 12;
export const FORMANT_WINDOW = 384;
/** Wider resonances are the slope of the source rather than of the mouth. */
const WIDEST_HZ = 500;
const LEAST_HZ = 180;
const EMPHASIS = 0.95;
/** Where the first formant is closed and open, and the second back and front: between the ends of men's and women's vowels (Peterson and Barney 1952). */
const FIRST_HZ = [280, 820] as const;
const SECOND_HZ = [850, 2500] as const;

/**
 * The first two formants of the newest moment at 12 kHz, by linear prediction of order 12, and from them how open a vowel is and how
 * far in front, each 0 to 1. Kept as they are where nothing is found.
 */
export class OpenFront {
  firstHz = NaN;
  secondHz = NaN;
  open = 0.5;
  front = 0.5;
  private readonly window = Float64Array.from({ length: FORMANT_WINDOW }, (_, i) => 0.54 - 0.46 * Math.cos((2 * Math.PI * i) / (FORMANT_WINDOW - 1)));
  private readonly samples = new Float64Array(FORMANT_WINDOW);
  private readonly polynomial = new Float64Array(ORDER + 1);
  private readonly scratch = new Float64Array(2 * ORDER + 2);
  private readonly roots = new Float64Array(2 * ORDER);

  /** @param decimated the newest samples at a quarter of the rate, one more than the window */
  look(decimated: Float32Array): void {
    const { window, samples, polynomial, scratch, roots } = this;
    const from = decimated.length - FORMANT_WINDOW;
    for (let i = 0; i < FORMANT_WINDOW; i++) samples[i] = window[i]! * (decimated[from + i]! - EMPHASIS * decimated[from + i - 1]!);
    if (!predict(samples, ORDER, polynomial, scratch)) return;
    findRoots(polynomial, roots);
    let first = Infinity;
    let second = Infinity;
    for (let i = 0; i < ORDER; i++) {
      const [re, im] = [roots[2 * i]!, roots[2 * i + 1]!];
      if (im <= 0) continue;
      const hz = (Math.atan2(im, re) * RATE_HZ) / (2 * Math.PI);
      const widthHz = (-Math.log(Math.hypot(re, im)) * RATE_HZ) / Math.PI;
      if (hz < LEAST_HZ || widthHz > WIDEST_HZ) continue;
      if (hz < first) [first, second] = [hz, first];
      else if (hz < second) second = hz;
    }
    if (second === Infinity) return;
    this.firstHz = first;
    this.secondHz = second;
    this.open = place(first, FIRST_HZ);
    this.front = place(second, SECOND_HZ);
  }
}

/** Pitch and place of formants are heard by ratios. */
function place(hz: number, [lo, hi]: readonly [number, number]): number {
  return Math.max(0, Math.min(1, Math.log(hz / lo) / Math.log(hi / lo)));
}
