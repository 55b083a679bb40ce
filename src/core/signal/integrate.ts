import { onePole } from '../shaping/onePole';
import { clamp } from '../units/unitInterval';

/** Of what leaks less than this in an interval, what comes in during it leaks nothing that could be told. */
const LEAST_LEAK = 1e-7;

/**
 * The integral of a straight line from `from` to `to` over `dtMs`, added to `y`, in units times seconds; within [lo, hi].
 *
 * With a leak, y' = x - leak y: leak times y is a first-order low-pass of the input, which is solved exactly, so that it does not matter
 * into how many intervals a time is cut.
 *
 * @param leakPerS the share that is lost a second, as a rate: after 1/leak seconds 63.2 % are gone; 0 keeps all
 */
export function integrate(y: number, from: number, to: number, dtMs: number, leakPerS: number, lo: number, hi: number): number {
  const dtS = Math.max(dtMs, 0) / 1000;
  if (leakPerS * dtS < LEAST_LEAK) return clamp(y * Math.exp(-leakPerS * dtS) + ((from + to) / 2) * dtS, lo, hi);
  return clamp(onePole(leakPerS * y, from, to, dtMs, 1000 / leakPerS) / leakPerS, lo, hi);
}
