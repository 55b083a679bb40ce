/** A number in [0, 1]. What leaves the shaping of a mapping is a level of this kind. */
export type UnitInterval = number;

/** Limits `x` to [0, 1]. NaN gives 0, so that a broken number can never reach a message. */
export function clampUnit(x: number): UnitInterval {
  return x > 0 ? (x < 1 ? x : 1) : 0;
}

/** Limits `x` to [lo, hi]; needs `lo <= hi`. NaN gives `lo`. */
export function clamp(x: number, lo: number, hi: number): number {
  return x > lo ? (x < hi ? x : hi) : lo;
}
