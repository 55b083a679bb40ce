/** Ends of the columns of a histogram of delays, in ms; the last has none. */
export const BIN_ENDS_MS: readonly number[] = [0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 15, 20, 30, 50, Infinity];

/** From a finger to its bytes, over the last minute; null where nothing left. */
export interface DelayReport {
  count: number;
  p50Ms: number | null;
  p99Ms: number | null;
  worstMs: number | null;
  /** How many, by `BIN_ENDS_MS`. */
  bins: number[];
  /** Medians of where the time went: at the page until it was sent, on the line, in the hub until it was handed to its way out. */
  page: number | null;
  line: number | null;
  hub: number | null;
}
