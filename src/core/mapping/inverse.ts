import type { RigDerived, RigMapping, RigSignal } from '../rig/document';
import type { UnitInterval } from '../units/unitInterval';
import { transferOf } from './transfer';

/** So many places of the range are looked at. */
const PLACES = 1024;

/**
 * The value of its signal, in the signal's range, at which a mapping comes nearest to a level; of several such values that next
 * to `near`, the one where the signal is now. Shapings that go up and down again have no one inverse, flat ones none at all.
 */
export function inverseOf(mapping: RigMapping, signal: RigSignal | RigDerived): (level: UnitInterval, near: number) => number {
  const transfer = transferOf(mapping, signal);
  const [lo, hi] = signal.range;
  const valueAt = (place: number) => lo + (place / PLACES) * (hi - lo);
  const levels = Float64Array.from({ length: PLACES + 1 }, (_, place) => transfer(valueAt(place)));
  return (level, near) => {
    let best = valueAt(0);
    let least = Infinity;
    levels.forEach((there, place) => {
      const away = Math.abs(there - level);
      const value = valueAt(place);
      if (away < least - 1e-9 || (away < least + 1e-9 && Math.abs(value - near) < Math.abs(best - near))) {
        best = value;
        least = Math.min(least, away);
      }
    });
    return best;
  };
}
