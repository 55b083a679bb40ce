import { randomFrom } from './noise';

/** A mouth sound: a thump of falling pitch, a burst of noise around a frequency, or both. */
interface Sound {
  thumpHz: number;
  thump: number;
  noiseHz: number;
  noiseWidthHz: number;
  noise: number;
  /** How fast it falls off. */
  decayMs: number;
}

/** Sounds that people make for drums: what they are spelled as, and about how they sound. Common practice, not measured. */
export const MOUTH_SOUNDS = {
  b: { thumpHz: 95, thump: 1, noiseHz: 500, noiseWidthHz: 400, noise: 0.15, decayMs: 45 },
  k: { thumpHz: 0, thump: 0, noiseHz: 1800, noiseWidthHz: 900, noise: 1, decayMs: 35 },
  ts: { thumpHz: 0, thump: 0, noiseHz: 8500, noiseWidthHz: 3500, noise: 0.8, decayMs: 40 },
  pf: { thumpHz: 140, thump: 0.4, noiseHz: 3500, noiseWidthHz: 4000, noise: 0.7, decayMs: 90 },
  d: { thumpHz: 210, thump: 0.8, noiseHz: 3200, noiseWidthHz: 1200, noise: 0.4, decayMs: 30 },
} as const satisfies Record<string, Sound>;
export type MouthSound = keyof typeof MOUTH_SOUNDS;

const RISE_MS = 1.5;

/** A mouth that drums: each strike is a little different, as mouths are. */
export class MouthDrummer {
  private readonly random: () => number;
  private readonly sounding: { sound: Sound; strength: number; age: number; phase: number; low: number; band: number }[] = [];

  constructor(
    private readonly rateHz: number,
    seed: number,
  ) {
    this.random = randomFrom(seed);
  }

  /** @param strength 0 to 1 */
  strike(name: MouthSound, strength: number): void {
    const vary = (value: number, by: number) => value * (1 + by * (2 * this.random() - 1));
    const its = MOUTH_SOUNDS[name];
    const sound = { thumpHz: vary(its.thumpHz, 0.1), thump: vary(its.thump, 0.2), noiseHz: vary(its.noiseHz, 0.1), noiseWidthHz: vary(its.noiseWidthHz, 0.15), noise: vary(its.noise, 0.2), decayMs: vary(its.decayMs, 0.2) };
    this.sounding.push({ sound, strength, age: 0, phase: 0, low: 0, band: 0 });
  }

  /** The next sample. */
  sample(): number {
    let sum = 0;
    for (let i = this.sounding.length - 1; i >= 0; i--) {
      const voice = this.sounding[i]!;
      const { sound, strength } = voice;
      const ms = (1000 * voice.age++) / this.rateHz;
      const loud = strength * Math.min(1, ms / RISE_MS) * Math.exp(-ms / sound.decayMs);
      if (ms > 8 * sound.decayMs) {
        this.sounding.splice(i, 1);
        continue;
      }
      voice.phase += (sound.thumpHz * (1 + 0.8 * Math.exp(-ms / 12))) / this.rateHz;
      // A resonance of two integrators over white noise (Chamberlin 1985).
      const f = 2 * Math.sin((Math.PI * Math.min(sound.noiseHz, this.rateHz / 6)) / this.rateHz);
      const q = Math.min(1.4, sound.noiseWidthHz / sound.noiseHz);
      voice.low += f * voice.band;
      voice.band += f * ((2 * this.random() - 1) - voice.low - q * voice.band);
      sum += loud * (sound.thump * Math.sin(2 * Math.PI * voice.phase) + sound.noise * voice.band);
    }
    return 0.5 * sum;
  }
}
