import { SAMPLE_RATE_HZ } from '../audio';
import { Cosines, MelBands } from '../spectrum/mel';
import { PowerSpectrum } from '../spectrum/powerSpectrum';

export const VOWEL_WINDOW = 2048;
export const VOWEL_FEATURES = 12;
const BANDS = 24;
/** The window falls within this share of it, and is narrower than Hann's: what is sung now counts most. */
const LEANS = 0.1;
const STEEPNESS = 2;
const FLOOR = 1e-11;

/** What tells vowels apart: cosine coefficients 1 to 12 of 24 mel bands from 100 to 6000 Hz. */
export class VowelFeatures {
  readonly features = new Float64Array(VOWEL_FEATURES);
  private readonly spectrum = new PowerSpectrum(VOWEL_WINDOW, LEANS, STEEPNESS);
  private readonly bands = new MelBands(BANDS, 100, 6000, VOWEL_WINDOW, SAMPLE_RATE_HZ);
  private readonly cosines = new Cosines(BANDS, VOWEL_FEATURES);

  look(samples: Float32Array): Float64Array {
    this.cosines.look(this.bands.look(this.spectrum.look(samples), FLOOR), this.features);
    return this.features;
  }
}
