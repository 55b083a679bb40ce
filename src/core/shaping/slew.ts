/** Follows `to` no faster than `perS` levels a second. */
export function slew(y: number, to: number, dtMs: number, perS: number): number {
  if (!(dtMs > 0)) return y;
  const most = (perS * dtMs) / 1000;
  return Math.abs(to - y) <= most ? to : y + Math.sign(to - y) * most;
}
