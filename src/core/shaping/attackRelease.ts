import { onePole } from './onePole';

/**
 * A first-order low-pass with one time constant for rising and another for falling: at each moment that of the direction
 * in which the output has to go. The input goes in a straight line, so it can cross the output once; the crossing is found
 * in closed form and each piece is solved exactly.
 *
 * With e = x - y and the slope s of the input, e' = s - e / tau, so e is 0 after tau ln(1 - e0 / (s tau)).
 *
 * @param y output at the start of the interval
 * @param from input at the start
 * @param to input at the end
 * @param dtMs length of the interval in ms; zero or less leaves `y` as it is
 * @param attackMs time constant in ms while the output rises; zero or less follows at once
 * @param releaseMs the same while it falls
 * @returns output at the end of the interval
 */
export function attackRelease(y: number, from: number, to: number, dtMs: number, attackMs: number, releaseMs: number): number {
  if (!(dtMs > 0)) return y;
  const away = from - y;
  if (away === 0) return onePole(y, from, to, dtMs, to > from ? attackMs : releaseMs);
  const tauMs = away > 0 ? attackMs : releaseMs;
  const otherMs = away > 0 ? releaseMs : attackMs;
  const perMs = (to - from) / dtMs;
  // An output that follows at once lies on the input until that turns away from it.
  if (!(tauMs > 0)) return perMs * away < 0 ? onePole(from, from, to, dtMs, otherMs) : to;
  if (perMs * away >= 0) return onePole(y, from, to, dtMs, tauMs);
  const crossMs = tauMs * Math.log(1 - away / (perMs * tauMs));
  if (crossMs >= dtMs) return onePole(y, from, to, dtMs, tauMs);
  const met = from + perMs * crossMs;
  return onePole(met, met, to, dtMs - crossMs, otherMs);
}
