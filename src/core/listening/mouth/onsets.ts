import { HOP_MS, SAMPLE_RATE_HZ } from '../audio';
import { MelBands } from '../spectrum/mel';
import { PowerSpectrum } from '../spectrum/powerSpectrum';

const WINDOW = 256;
/** Looked at so often, in samples. */
export const ONSET_STEP = 64;
const STEP_MS = (1000 * ONSET_STEP) / SAMPLE_RATE_HZ;
const BANDS = 10;
/** The bands together must rise by so much, in dB, above all that was there shortly before. */
const THRESHOLD_DB = 4;
/** Or so many of them by so much: a low sound that begins while a bright one fades. */
const FEW = 3;
const FEW_DB = 9;
const APART_MS = 50;
/** Behind the moment now, the loudest moment of each band in this time; it is longer than a period of the lowest tone. */
const BEFORE_STEPS = 12;
/** Moments that lie in the same window as now say nothing of before. */
const SKIP_STEPS = 2;

/**
 * When something is struck: where the bands of a short spectrum rise together above all that they were in the last moments, so that
 * the single pulses of a low tone are no strikes.
 */
export class Onsets {
  /** When the last one was, in ms of what was taken in; -Infinity before the first. */
  onsetMs = -Infinity;
  private readonly spectrum = new PowerSpectrum(WINDOW);
  private readonly bands = new MelBands(BANDS, 60, 16_000, WINDOW, SAMPLE_RATE_HZ);
  private readonly past = Array.from({ length: BEFORE_STEPS + SKIP_STEPS }, () => new Float64Array(BANDS));
  private readonly rises = new Float64Array(BANDS);
  private steps = 0;
  private place = 0;

  constructor(
    /** What is softer is silence, in dB. */
    public floorDb: number,
  ) {}

  /** One hop, its samples the newest ones. @returns whether an onset was found in it */
  hop(samples: Float32Array, timeMs: number): boolean {
    let found = false;
    for (let step = HOP_MS / STEP_MS - 1; step >= 0; step--) found = this.step(samples, samples.length - step * ONSET_STEP, timeMs - step * STEP_MS) || found;
    return found;
  }

  private step(samples: Float32Array, end: number, timeMs: number): boolean {
    const { past, rises } = this;
    const now = this.bands.look(this.spectrum.look(samples, end), floorPower(this.floorDb));
    let rise = 0;
    rises.fill(0);
    for (let band = 0; band < BANDS; band++) {
      let before = -Infinity;
      for (let i = 0; i < BEFORE_STEPS; i++) {
        const at = past[(this.place + i) % past.length]![band]!;
        if (at > before) before = at;
      }
      if (now[band]! <= before) continue;
      rise += now[band]! - before;
      rises[band] = now[band]! - before;
    }
    rises.sort();
    let few = 0;
    for (let i = 1; i <= FEW; i++) few += rises[BANDS - i]!;
    past[this.place]!.set(now);
    this.place = (this.place + 1) % past.length;
    // Before there was anything nothing rises.
    if (++this.steps <= past.length || (rise / BANDS < THRESHOLD_DB && few / FEW < FEW_DB) || timeMs - this.onsetMs < APART_MS) return false;
    this.onsetMs = timeMs;
    return true;
  }
}

/** What a band of noise of this level has, spread over the bins. */
const floorPower = (db: number) => 10 ** (db / 10) / WINDOW;
