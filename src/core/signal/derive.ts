import type { RigDerived } from '../rig/document';
import { formulaKind } from './formulas';
import { turnNearest } from './period';
import type { SignalTimes } from './signalTimes';
import type { DerivedState, FormulaKind, PieceTime, Sources } from './formulas/kind';
import type { Formula } from './formulas';

export type { DerivedState } from './formulas/kind';

/** A derived signal ready to run. */
export interface PlannedDerived extends Sources {
  index: number;
  rig: RigDerived;
  kind: FormulaKind<Formula>;
  /** The middle of its range, about which an angle is said. */
  middle: number;
}

export const freshDerived = (): DerivedState => ({ y: NaN, x: NaN, timeMs: NaN, heardMs: -Infinity });

/**
 * @param sources their places in the plan
 * @param first the first of them, if there is one
 * @param rests by signal of the plan
 */
export function planDerived(rig: RigDerived, index: number, sources: number[], first: Pick<RigDerived, 'kind' | 'period'> | undefined, rests: Float64Array, seed: number): PlannedDerived {
  const [lo, hi] = rig.range;
  return {
    index,
    rig,
    kind: formulaKind(rig.formula),
    sources,
    rests: sources.map((source) => rests[source]!),
    period: first?.period ?? 0,
    isGate: first?.kind === 'gate',
    turn: rig.period ?? 0,
    middle: (lo + hi) / 2,
    seed,
  };
}

/**
 * The value of a derived signal now, NaN while there is none. Called when a source got a sample, and on ticks for those that
 * move by themselves.
 * @param values the value of every signal by index
 * @param times when signals were heard, the sample that this is called for included
 */
export function derive(planned: PlannedDerived, state: DerivedState, values: Float64Array, timeMs: number, time: PieceTime, times: SignalTimes): number {
  const { kind, sources } = planned;
  if (!kind.restsCount) for (let i = 0; i < sources.length; i++) if (Number.isNaN(values[sources[i]!]!)) return NaN;
  return turnNearest(kind.value(planned.rig.formula, planned, state, values, timeMs, time, times), planned.middle, planned.turn);
}

/** Whether no tick would find it elsewhere until a source of it moves. */
export function isAtRest(planned: PlannedDerived, state: DerivedState, values: Float64Array): boolean {
  // Without a value it waits for its sources.
  return Number.isNaN(values[planned.index]!) || planned.kind.rests?.(planned.rig.formula, planned, state, values) === true;
}
