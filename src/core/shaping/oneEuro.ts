/**
 * The One Euro filter: a low-pass whose cutoff rises with speed, calm at rest and quick in motion.
 * Source: Casiez, Roussel, Vogel, "1 Euro Filter", CHI 2012:
 * alpha = 1 / (1 + tau / Te), tau = 1 / (2 pi fc), fc = fcMin + beta * |smoothed speed|.
 *
 * Its memory is two numbers in an array of the caller's: `state[at]` the output, `state[at + 1]` the smoothed
 * speed in input units per second.
 */

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
  // Te as the source has it. With k = Te / tau, alpha is k / (1 + k): divisions wait for one another, and so there are two.
  const dtS = dtMs * 0.001;
  const k = 2 * Math.PI * derivativeCutoffHz * dtS;
  // speed + alpha * ((x - previousX) / Te - speed)
  const speed = (state[at + 1]! + 2 * Math.PI * derivativeCutoffHz * (x - previousX)) / (1 + k);
  state[at + 1] = speed;
  const kNow = 2 * Math.PI * (minCutoffHz + beta * Math.abs(speed)) * dtS;
  return (state[at] = y + (kNow / (1 + kNow)) * (x - y));
}
