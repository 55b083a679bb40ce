/**
 * Moves towards the input no faster than `perS` levels a second. The input goes in a straight line from `from` to `to`, and
 * is followed exactly: where the output meets it, it stays on it, or falls behind at the limit where the line is steeper.
 * @param dtMs length of the interval in ms; zero or less leaves `y` as it is
 */
export function slew(y: number, from: number, to: number, dtMs: number, perS: number): number {
  if (!(dtMs > 0)) return y;
  const perMs = perS / 1000;
  const slope = (to - from) / dtMs;
  const away = from - y;
  const direction = away > 0 ? 1 : -1;
  // How long until they meet; never where the input runs away at least as fast as the output follows.
  const closing = perMs - slope * direction;
  const meetMs = away === 0 ? 0 : closing > 0 ? Math.abs(away) / closing : Infinity;
  if (meetMs >= dtMs) return y + direction * perMs * dtMs;
  if (Math.abs(slope) <= perMs) return to;
  return from + slope * meetMs + Math.sign(slope) * perMs * (dtMs - meetMs);
}
