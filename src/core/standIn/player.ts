import { randomFrom, seededNoise } from './noise';
import type { Reading, StandIn, StandInSettings } from './standIn';

/** Drift wanders to its full width within about this long. */
const DRIFT_MS = 20_000;

/** One running stand-in: knobs moved by a hand or by itself, with drift and noise, read at even times. */
export class StandInPlayer {
  settings: StandInSettings;
  private readonly hand: number[];
  private readonly drift: number[];
  private readonly specimen: ReturnType<StandIn['specimen']>;
  private readonly noise: () => number;
  private readonly random: () => number;
  private lastMs = NaN;
  private startMs = NaN;

  constructor(
    readonly standIn: StandIn,
    seed: number,
  ) {
    this.settings = { ...standIn.defaults };
    this.hand = standIn.knobs.map(({ rest }) => rest);
    this.drift = standIn.knobs.map(() => 0);
    this.specimen = standIn.specimen();
    this.noise = seededNoise(seed);
    this.random = randomFrom(seed + 1);
  }

  /** A hand on one knob; false where it has none of this key. */
  move(key: string, value: number): boolean {
    const k = this.standIn.knobs.findIndex((knob) => knob.key === key);
    if (k < 0) return false;
    const [lo, hi] = this.standIn.knobs[k]!.range;
    this.hand[k] = Math.min(Math.max(lo, hi), Math.max(Math.min(lo, hi), value));
    return true;
  }

  read(timeMs: number): Reading[] {
    if (Number.isNaN(this.startMs)) this.startMs = timeMs;
    const dtMs = Number.isNaN(this.lastMs) ? 1000 / this.settings.rateHz : Math.max(0, timeMs - this.lastMs);
    this.lastMs = timeMs;
    const { settings, random } = this;
    const still = settings.byItself ? this.standIn.play((timeMs - this.startMs) / 1000) : this.hand;
    const knobs = this.standIn.knobs.map(({ kind, range: [lo, hi] }, k) => {
      const at = still[k] ?? 0;
      if (kind === 'gate') return at;
      // A walk that is pulled back, so that its width stays about 1 (Ornstein-Uhlenbeck process).
      const pull = Math.min(1, dtMs / DRIFT_MS);
      this.drift[k] = this.drift[k]! * (1 - pull) + Math.sqrt(2 * pull) * this.noise();
      return Math.min(hi, Math.max(lo, at + (hi - lo) * (settings.drift * this.drift[k] + settings.noise * this.noise())));
    });
    return this.specimen.read({ timeMs, dtMs, knobs, settings, random });
  }
}
