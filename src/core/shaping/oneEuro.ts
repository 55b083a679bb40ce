/**
 * The One Euro filter: a low-pass whose cutoff rises with speed, calm at rest and quick in motion.
 * Source: Casiez, Roussel, Vogel, "1 Euro Filter", CHI 2012:
 * alpha = 1 / (1 + tau / Te), tau = 1 / (2 pi fc), fc = fcMin + beta * |smoothed speed|.
 *
 * Its memory is two numbers in an array of the caller's: `state[at]` the output, `state[at + 1]` the smoothed
 * speed in input units per second.
 */
export function oneEuroAlpha(cutoffHz: number, dtS: number): number {
  // With k = Te / tau the formula is k / (1 + k), one division less.
  const k = 2 * Math.PI * cutoffHz * dtS;
  return k / (1 + k);
}

/**
 * One step. `dtMs` is the time since the last step, in ms; zero or less leaves the filter as it is.
 * @returns the new output, also left in `state[at]`
 */
export function oneEuro(
  state: Float64Array,
  at: number,
  x: number,
  previousX: number,
  dtMs: number,
  minCutoffHz: number,
  beta: number,
  derivativeCutoffHz: number,
): number {
  const y = state[at]!;
  if (!(dtMs > 0)) return y;
  const dtS = dtMs / 1000;
  const speed = state[at + 1]! + oneEuroAlpha(derivativeCutoffHz, dtS) * ((x - previousX) / dtS - state[at + 1]!);
  state[at + 1] = speed;
  return (state[at] = y + oneEuroAlpha(minCutoffHz + beta * Math.abs(speed), dtS) * (x - y));
}
