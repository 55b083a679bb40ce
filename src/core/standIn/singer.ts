import { randomFrom } from './noise';
import { VocalTract, type Tract, type Vowel } from './tract';

/** What is sung at one moment. */
export interface SungMoment {
  hz: number;
  vowel: Vowel;
  /** How strong the throat sounds, and how much breath goes beside it, each 0 to 1. */
  voice: number;
  breath: number;
}

export interface SingerSettings {
  tract: Tract;
  /** How long its throat is: its resonances times this. */
  scale?: number;
  rateHz: number;
  seed: number;
}

/** Vowels glide from one to the next in about this long. */
const VOWEL_MS = 15;
/** So often the throat is set anew. */
const CONTROL = 32;
/** The source falls by 6 dB an octave from here on: a throat's 12 less the 6 that lips give back (Fant 1960). */
const TILT_HZ = 200;
const LOUDNESS = 9;

/**
 * A singer of a source and a filter: a train of pulses without a partial beyond half the rate (Stilson and Smith, "Alias-free digital
 * synthesis of classic analog waveforms", ICMC 1996), its tilt, breath, and a throat.
 */
export class Singer {
  private readonly throat: VocalTract;
  private readonly random: () => number;
  private phase = 0;
  private tilted = 0;
  private count = 0;
  private readonly tilt: number;

  constructor(private readonly settings: SingerSettings) {
    this.throat = new VocalTract(settings.tract, settings.rateHz, settings.scale ?? 1);
    this.random = randomFrom(settings.seed);
    this.tilt = Math.exp((-2 * Math.PI * TILT_HZ) / settings.rateHz);
  }

  /** The next sample, about -1 to 1. */
  sing({ hz, vowel, voice, breath }: SungMoment): number {
    const { rateHz } = this.settings;
    if (this.count++ % CONTROL === 0) this.throat.towards(vowel, this.count === 1 ? 1 : 1 - Math.exp((-1000 * CONTROL) / rateHz / VOWEL_MS));
    this.phase += hz / rateHz;
    if (this.phase >= 0.5) this.phase -= 1;
    const pulse = voice > 0 ? voice * pulseAt(this.phase, Math.floor(rateHz / 2 / hz)) : 0;
    const source = pulse + breath * 0.3 * (this.random() - 0.5);
    this.tilted = (1 - this.tilt) * source + this.tilt * this.tilted;
    return LOUDNESS * 0.05 * this.throat.step(this.tilted) * 4;
  }
}

/** Partials 1 to `partials` of equal strength, at a phase of -0.5 to 0.5 of a period. */
function pulseAt(phase: number, partials: number): number {
  const below = Math.sin(Math.PI * phase);
  const all = 2 * partials + 1;
  // The sum of all cosines in closed form (the Dirichlet kernel).
  const sum = Math.abs(below) < 1e-9 ? all : Math.sin(Math.PI * all * phase) / below;
  return (sum - 1) / 2 / Math.sqrt(partials);
}
