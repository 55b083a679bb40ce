import type { SignalUnit } from '../../rig/document';
import type { Fields } from '../../messages/shapes';
import type { SignalTimes } from '../signalTimes';

export type Interval = readonly [lo: number, hi: number];

/** A fixed number or the id of the signal that gives it. */
export type Amount = number | { signal: string };

/** What a formula is computed from: its sources by their place in `values`, in the order in which its fields name them. */
export interface Sources {
  sources: readonly number[];
  /** Where each source lies before it was ever heard. */
  rests: readonly number[];
  /** The full turn of the first source, 0 where it is no angle. */
  period: number;
  /** Whether the first source is on or off, so that there is no way between two of its samples. */
  isGate: boolean;
  /** The full turn of what comes out, 0 where it is no angle. */
  turn: number;
  seed: number;
}

/** Where the piece is, in beats, and how many a bar has. */
export interface PieceTime {
  beat: number;
  barBeats: number;
}

/** The memory of one derived signal; which of it is used depends on the formula. */
export interface DerivedState {
  y: number;
  x: number;
  timeMs: number;
  /** When its source had been heard last. */
  heardMs: number;
  /** Of a formula that remembers more. */
  memory?: unknown;
}

/** What a new formula may begin with. */
export interface FirstSources {
  /** So many signals, one again where there are not enough. */
  take(count: number): string[];
  /** A gate, where there is one. */
  gate: string | undefined;
}

/** All that is known of a kind of formula: one of these is one file, and a row in `index`. */
export interface FormulaKind<F> {
  /** As people call it. */
  name: string;
  /** The fields of its document besides `op`; those that hold ids of signals are its sources. */
  fields: Fields;
  /** Whether what comes out is on or off. */
  gate?: true;
  /** Whether it moves on without samples. */
  movesByItself: boolean;
  /** Of one that moves by itself: whether it has come to rest, so that no tick would find it elsewhere; absent: it never does. */
  rests?(formula: F, of: Sources, state: DerivedState, values: Float64Array): boolean;
  /** Whether a source that was never heard counts as lying at its rest; otherwise there is no value before all were heard. */
  restsCount: boolean;
  /** The unit of what comes out; absent: that of its sources where they share one. */
  unit?(of: SignalUnit | undefined): SignalUnit;
  /** The full turn of what comes out, from those of its sources (0 for one that is no angle); 0 and absent: it is no angle. */
  turn?(formula: F, turns: readonly number[]): number;
  /**
   * The range in which it can lie where its sources keep to theirs, by interval arithmetic.
   * @param turn what `turn` says
   */
  range(formula: F, rangeOf: (signal: string) => Interval, turn: number): [lo: number, hi: number];
  /** In words; `nameOf` gives the name of a signal by its id. */
  words(formula: F, nameOf: (signal: string) => string): string;
  fresh(first: FirstSources): F;
  /**
   * @param values the value of every signal
   * @param time where the piece is; used again after the call
   * @param times when signals were heard, the sample that this is called for included
   * @returns for an angle any number that says it, as 361 for 1
   */
  value(formula: F, of: Sources, state: DerivedState, values: Float64Array, timeMs: number, time: PieceTime, times: SignalTimes): number;
}

export function listed(names: readonly string[]): string {
  return names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}
