import { JUMP_SLOTS } from '../shaping/jumpGate';
import { MEDIAN_SLOTS } from '../shaping/median';

/** The memory of one mapping: where each part lies in its stretch of one Float64Array. Times are in ms. */
export const SLOT = {
  /** The smoothed level, NaN before the first sample; the speed of One Euro stands beside it. */
  filtered: 0,
  speed: 1,
  /** The level that the smoothing is on its way to. */
  target: 2,
  sampleMs: 3,
  filterMs: 4,
  /** The step of quantising it is in, -1 before the first. */
  step: 5,
  /** The raw gate: 1 or 0 (or one of two below 0, see `gates`), since when, and when it may change at the earliest. */
  gate: 6,
  gateMs: 7,
  /** Toggle, or the place in a radio group: what presses have made of the gate. */
  held: 8,
  /**
   * The shaped level before, its time, and the speed between, in levels a second: for notes. For relative steps the first is the level
   * up to which they went.
   */
  levelBefore: 9,
  levelMs: 10,
  slope: 11,
  /** A moving level (ramp or climb), when it was moved last, and since when it climbs. */
  motion: 12,
  motionMs: 13,
  climbMs: 14,
  /** When a note of fixed length ends, and when one that repeats had its last place; NaN: not. */
  offMs: 15,
  repeatMs: 16,
  /** Steps of a relative controller that were not whole yet. */
  rest: 17,
  /** What the mapping would send on its own, in the numbers of the wire; NaN before the first. For merging. */
  exact: 18,
  /** The time of the step, the level that entered it and the one that left it: parameters and results of the functions in
   * `shape`, kept here because a number with a fraction that is passed or returned may be allocated. */
  nowMs: 19,
  entered: 20,
  level: 21,
  /** For the filter: what its input goes from and to, until when; and, for the jump gate too, until when it stood still before this sample. */
  from: 22,
  to: 23,
  untilMs: 24,
  stillMs: 25,
  /** 1 while a rounded value waits for the signal to stand still. */
  waits: 26,
  jump: 27,
  median: 27 + JUMP_SLOTS,
} as const;

/** What of the memory a sample changes before the curve: put back where another sample of the same time comes. */
export const FILTER_SLOTS: readonly number[] = [
  SLOT.filtered,
  SLOT.speed,
  SLOT.target,
  SLOT.filterMs,
  ...Array.from({ length: JUMP_SLOTS + MEDIAN_SLOTS }, (_, i) => SLOT.jump + i),
];

export const SLOTS = SLOT.median + MEDIAN_SLOTS;

/** The memory of `mappings` mappings, empty. */
export function freshState(mappings: number): Float64Array {
  const state = new Float64Array(mappings * SLOTS);
  for (let m = 0; m < mappings; m++) {
    const at = m * SLOTS;
    for (const slot of [SLOT.filtered, SLOT.levelBefore, SLOT.motion, SLOT.offMs, SLOT.repeatMs, SLOT.exact, SLOT.jump, SLOT.jump + 2]) state[at + slot] = NaN;
    state[at + SLOT.step] = -1;
    state[at + SLOT.gateMs] = -Infinity;
  }
  return state;
}
