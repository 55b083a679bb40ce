import { writeFileSync } from 'node:fs';
import wavefile from 'wavefile';
import { SAMPLE_RATE_HZ } from '../../src/core/listening/audio';

/** Writes audio as a wav file of 16 bits, as browsers take for a microphone. */
export function writeWav(file: string, samples: Float32Array, rateHz = SAMPLE_RATE_HZ): void {
  const wav = new wavefile.WaveFile();
  wav.fromScratch(1, rateHz, '16', Int16Array.from(samples, (sample) => Math.round(32767 * Math.max(-1, Math.min(1, sample)))));
  writeFileSync(file, wav.toBuffer());
}
