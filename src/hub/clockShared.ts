/** What the clock and its worker share. */
export interface ClockShared {
  flags: Int32Array;
  /** In their places below, hub time in ms. */
  times: Float64Array;
  periodMs: number;
  /** Hub time less the time of `process.hrtime`, which all threads have in common. */
  offsetMs: number;
}

/** 1 while ticks are wanted. */
export const CLOCK_RUN = 0;
/** 1 from the posting of a tick until it was handled, so that ticks never pile up behind a busy hub. */
export const CLOCK_TAKEN = 1;
/** Counts up when something is due sooner than the worker sleeps. */
export const CLOCK_SOONER = 2;

/** When a tick is wanted besides those of the grid; Infinity for never. */
export const TIME_DUE = 0;
/** Until when the worker sleeps. */
export const TIME_ASLEEP = 1;

export const monotonicMs = (): number => Number(process.hrtime.bigint()) / 1e6;
