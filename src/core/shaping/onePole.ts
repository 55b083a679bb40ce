/**
 * A first-order low-pass: after one time constant it has covered 63.2 % of a step.
 *
 * The input between two samples is taken as a straight line and the filter is solved exactly for it, so the
 * result depends on the motion and not on how often it was sampled. With `from === to` this is the step response
 * `to + (y - to) * exp(-dt / tau)`.
 *
 * @param y output at the start of the interval
 * @param from input at the start
 * @param to input at the end
 * @param dtMs length of the interval in ms; zero or less leaves `y` as it is
 * @param timeConstantMs tau in ms; zero or less passes the input through
 * @returns output at the end of the interval
 */
export function onePole(y: number, from: number, to: number, dtMs: number, timeConstantMs: number): number {
  if (!(timeConstantMs > 0)) return to;
  if (!(dtMs > 0)) return y;
  const lag = ((to - from) / dtMs) * timeConstantMs;
  return to - lag + (y - from + lag) * Math.exp(-dtMs / timeConstantMs);
}
