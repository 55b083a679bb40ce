import { clampUnit, type UnitInterval } from '../units/unitInterval';

/**
 * Where `x` lies between `lo` and `hi`, both in the signal's own unit; outside it stays at the end.
 * `lo > hi` turns the range round. A range of zero width is a threshold: 0 below it, 1 on and above it.
 */
export function rangeIn(x: number, lo: number, hi: number): UnitInterval {
  if (hi === lo) return x >= lo ? 1 : 0;
  return clampUnit((x - lo) / (hi - lo));
}
