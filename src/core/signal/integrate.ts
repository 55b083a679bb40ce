import { clamp } from '../units/unitInterval';

/**
 * The integral of a straight line from `from` to `to` over `dtMs`, added to `y`, in units times seconds; within [lo, hi].
 * @param leakPerS the share that is lost a second, as a rate: after 1/leak seconds 63.2 % are gone; 0 keeps all
 */
export function accumulate(y: number, from: number, to: number, dtMs: number, leakPerS: number, lo: number, hi: number): number {
  const dtS = Math.max(dtMs, 0) / 1000;
  const kept = leakPerS > 0 ? y * Math.exp(-leakPerS * dtS) : y;
  return clamp(kept + ((from + to) / 2) * dtS, lo, hi);
}
