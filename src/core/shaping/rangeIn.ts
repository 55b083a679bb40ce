import { clampUnit, type UnitInterval } from '../units/unitInterval';

/** What happens to a value outside the range: stays at the end, starts again (angles), or comes back. */
export const OUTSIDE = { clamp: 0, wrap: 1, fold: 2 } as const;

/**
 * Where `x` lies between `lo` and `hi`, both in the signal's own unit. `lo > hi` turns the range round. A range of zero
 * width is a threshold: 0 below it, 1 on and above it. NaN gives 0.
 * @param outside one of OUTSIDE; a value exactly at `hi` is 1 in all three
 */
export function rangeIn(x: number, lo: number, hi: number, outside: number = OUTSIDE.clamp): UnitInterval {
  if (hi === lo) return x >= lo ? 1 : 0;
  const part = (x - lo) / (hi - lo);
  if ((part >= 0 && part <= 1) || outside === OUTSIDE.clamp || !Number.isFinite(part)) return clampUnit(part);
  if (outside === OUTSIDE.wrap) return clampUnit(part - Math.floor(part));
  const turned = Math.abs(part) % 2;
  return turned > 1 ? 2 - turned : turned;
}
