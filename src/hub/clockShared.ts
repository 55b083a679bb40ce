/** What the clock and its worker share. */
export interface ClockShared {
  flags: Int32Array;
  periodMs: number;
}

/** 1 while ticks are wanted. */
export const CLOCK_RUN = 0;
/** 1 from the posting of a tick until it was handled, so that ticks never pile up behind a busy hub. */
export const CLOCK_TAKEN = 1;
