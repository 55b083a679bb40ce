import type { RigDerived } from '../rig/document';
import { formulaKind } from './formulas';
import type { DerivedState, FormulaKind, PieceTime, Sources } from './formulas/kind';
import type { Formula } from './formulas';

export type { DerivedState } from './formulas/kind';

/** A derived signal ready to run. */
export interface PlannedDerived extends Sources {
  index: number;
  rig: RigDerived;
  kind: FormulaKind<Formula>;
}

export const freshDerived = (): DerivedState => ({ y: NaN, x: NaN, timeMs: NaN });

/** `rests` by signal, `period` of the first source. */
export function planDerived(rig: RigDerived, index: number, sources: number[], rests: Float64Array, period: number, seed: number): PlannedDerived {
  return { index, rig, kind: formulaKind(rig.formula), sources, rests: sources.map((source) => rests[source]!), period, seed };
}

const NO_PIECE: PieceTime = { beat: 0, barBeats: 4 };

/**
 * The value of a derived signal now, NaN while there is none. Called when a source got a sample, and on ticks for those that
 * move by themselves.
 * @param values the value of every signal by index
 */
export function derive(planned: PlannedDerived, state: DerivedState, values: Float64Array, timeMs: number, time: PieceTime = NO_PIECE): number {
  const { kind, sources } = planned;
  if (!kind.restsCount) for (let i = 0; i < sources.length; i++) if (Number.isNaN(values[sources[i]!]!)) return NaN;
  return kind.value(planned.rig.formula, planned, state, values, timeMs, time);
}
