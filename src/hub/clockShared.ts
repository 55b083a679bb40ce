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
/** Counts up when something is wanted sooner than the worker sleeps. */
export const CLOCK_SOONER = 2;
/** 1 while those of the grid are wanted, too. */
export const CLOCK_EVENLY = 3;
/** Counts the sleeps of the worker. */
export const CLOCK_SLEEPS = 4;

/** When a tick is wanted besides those of the grid; Infinity for never. */
export const TIME_DUE = 0;
/** Until when the worker sleeps. */
export const TIME_ASLEEP = 1;

export const freshFlags = () => new Int32Array(new SharedArrayBuffer(5 * Int32Array.BYTES_PER_ELEMENT));
export const freshTimes = () => new Float64Array(new SharedArrayBuffer(2 * Float64Array.BYTES_PER_ELEMENT)).fill(Infinity);

export const monotonicMs = (): number => Number(process.hrtime.bigint()) / 1e6;
