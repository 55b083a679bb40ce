import type { RigDerived, RigSignal } from '../rig/document';
import { periodicDifference } from '../signal/period';

/** So much of its range a signal must move to be meant; less is noise or a neighbour that shakes along. */
const MEANT = 0.15;
/** What moves first is not always what is meant (a touch comes before the fader it is on): it is waited so long for more. */
const SETTLE_MS = 350;
/** A finger that lies on something and does not move it yet is waited for longer: what is held so long is meant itself. */
const HELD_MS = 1500;

interface Movement {
  first: number;
  share: number;
  gate: boolean;
  on: boolean;
}

/** Finds the signal that somebody moves on purpose, among all that shake. */
export class MovedFinder {
  private readonly movements = new Map<string, Movement>();
  private sinceMs = NaN;

  constructor(private readonly signals: ReadonlyMap<string, RigSignal | RigDerived>) {}

  /** A value of a signal; the first of each is where it lay. */
  value(id: string, value: number, timeMs: number): void {
    const signal = this.signals.get(id);
    if (!signal) return;
    const width = Math.abs(signal.range[1] - signal.range[0]) || 1;
    const known = this.movements.get(id);
    if (!known) return void this.movements.set(id, { first: value, share: 0, gate: signal.kind === 'gate', on: false });
    known.share = Math.max(known.share, known.gate ? Number(value > 0 && known.first <= 0) : Math.abs(periodicDifference(value, known.first, signal.period ?? 0)) / width);
    known.on = known.gate && value > 0;
    if (known.gate && value <= 0) known.first = 0;
    if (known.share >= MEANT && Number.isNaN(this.sinceMs)) this.sinceMs = timeMs;
  }

  /** The signal that is meant, once it is clear; of several that move the one that moves most, before any gate. */
  found(timeMs: number): string | null {
    if (Number.isNaN(this.sinceMs) || timeMs - this.sinceMs < SETTLE_MS) return null;
    const moved = [...this.movements].filter(([, { share }]) => share >= MEANT);
    if (timeMs - this.sinceMs < HELD_MS && moved.every(([, { gate }]) => gate) && moved.some(([, { on }]) => on)) return null;
    moved.sort(([, a], [, b]) => Number(a.gate) - Number(b.gate) || b.share - a.share);
    return moved[0]?.[0] ?? null;
  }
}
