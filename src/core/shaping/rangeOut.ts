/** `level` in [0, 1] laid onto [lo, hi] in the message's unit; `lo > hi` inverts. */
export function rangeOut(level: number, lo: number, hi: number): number {
  return lo + level * (hi - lo);
}
