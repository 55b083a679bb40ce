import { SAMPLE_RATE_HZ } from '../audio';
import { Cosines, MelBands } from '../spectrum/mel';
import { PowerSpectrum } from '../spectrum/powerSpectrum';

const WINDOW = 512;
const BANDS = 24;
const COSINES = 12;
/** The moments that are looked at, as the ends of their windows behind the onset. */
const MOMENTS_MS = [6, 10, 14] as const;
/** A sound is known once this has passed. */
export const KNOWN_MS = MOMENTS_MS.at(-1)!;
export const SOUND_FEATURES = COSINES * MOMENTS_MS.length + MOMENTS_MS.length - 1;
/** So far below its loudest band nothing is heard of a sound. */
const DEPTH_DB = 32;
/** How much a change of loudness within it weighs beside its colour. */
const DECAY_WEIGHT = 0.5;

/** What tells mouth sounds apart: the colour of three moments after the onset, and how they fall off; not how loud they are. */
export class SoundFeatures {
  private readonly spectrum = new PowerSpectrum(WINDOW);
  private readonly bands = new MelBands(BANDS, 80, 16_000, WINDOW, SAMPLE_RATE_HZ);
  private readonly cosines = new Cosines(BANDS, COSINES);

  /** @param sinceMs how long the newest sample is after the onset, at least KNOWN_MS */
  look(samples: Float32Array, sinceMs: number, into: Float64Array): void {
    let firstDb = 0;
    MOMENTS_MS.forEach((momentMs, m) => {
      const end = samples.length - Math.round(((sinceMs - momentMs) * SAMPLE_RATE_HZ) / 1000);
      const db = this.bands.look(this.spectrum.look(samples, end), 1e-14);
      let loudest = -Infinity;
      for (const level of db) if (level > loudest) loudest = level;
      for (let band = 0; band < BANDS; band++) db[band] = Math.max(db[band]!, loudest - DEPTH_DB);
      this.cosines.look(db, into, m * COSINES);
      if (m === 0) firstDb = loudest;
      else into[MOMENTS_MS.length * COSINES + m - 1] = DECAY_WEIGHT * (loudest - firstDb);
    });
  }
}
