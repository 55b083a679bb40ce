import { clampUnit, type UnitInterval } from '../units/unitInterval';

/**
 * Dead zone around the middle of one axis: within `inner` of the middle nothing moves, from `outer` on it is full.
 * Both are shares of the way from the middle (0) to an end (1).
 */
export function centreDeadZone(level: UnitInterval, inner: number, outer: number): UnitInterval {
  const away = 2 * level - 1;
  const length = deadLength(Math.abs(away), inner, outer);
  return 0.5 + (away < 0 ? -length : length) / 2;
}

/**
 * The same for one axis of a pair, round: the distance of both from the middle counts, the direction stays
 * (r < inner gives 0, then (r - inner) / (outer - inner), never above 1).
 * @param level this axis
 * @param other the other one; each is taken over its own range
 */
export function roundDeadZone(level: UnitInterval, other: UnitInterval, inner: number, outer: number): UnitInterval {
  const away = 2 * level - 1;
  const r = Math.hypot(away, 2 * other - 1);
  return r === 0 ? 0.5 : 0.5 + ((away / r) * deadLength(r, inner, outer)) / 2;
}

/** Dead zone at the ends of one axis: the first `low` and the last `high` of the way do nothing. */
export function endsDeadZone(level: UnitInterval, low: number, high: number): UnitInterval {
  const width = 1 - low - high;
  return width > 0 ? clampUnit((level - low) / width) : level > low ? 1 : 0;
}

function deadLength(r: number, inner: number, outer: number): UnitInterval {
  if (r <= inner) return 0;
  return outer > inner ? clampUnit((r - inner) / (outer - inner)) : 1;
}
