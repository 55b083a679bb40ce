import { HOP, SAMPLE_RATE_HZ } from './audio';

/** Nothing is softer. */
export const SILENCE_DB = -120;
const WINDOW_HOPS = Math.round((0.0107 * SAMPLE_RATE_HZ) / HOP);

/** How loud the last 10 ms were, in dB of the root mean square: a sine of full scale is at -3.01. */
export class Level {
  db = SILENCE_DB;
  /** Whether a sample of the last hop reached full scale. */
  clips = false;
  private readonly energies = new Float64Array(WINDOW_HOPS);
  private place = 0;

  push(block: Float32Array): void {
    let energy = 0;
    let peak = 0;
    for (let i = 0; i < block.length; i++) {
      const sample = block[i]!;
      energy += sample * sample;
      const size = Math.abs(sample);
      if (size > peak) peak = size;
    }
    this.clips = peak >= 0.999;
    this.energies[this.place] = energy;
    this.place = (this.place + 1) % WINDOW_HOPS;
    let sum = 0;
    for (let i = 0; i < WINDOW_HOPS; i++) sum += this.energies[i]!;
    this.db = sum > 0 ? Math.max(SILENCE_DB, 10 * Math.log10(sum / (WINDOW_HOPS * HOP))) : SILENCE_DB;
  }
}

/** A level that rises and falls no faster than its times say: each is what 63 % of a step takes. */
export class LevelFollower {
  db = SILENCE_DB;

  constructor(
    public attackMs: number,
    public releaseMs: number,
  ) {}

  step(levelDb: number, dtMs: number): number {
    const timeMs = levelDb > this.db ? this.attackMs : this.releaseMs;
    this.db = timeMs > 0 ? levelDb + (this.db - levelDb) * Math.exp(-dtMs / timeMs) : levelDb;
    return this.db;
  }
}
