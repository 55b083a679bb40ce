import { FORMULAS, formulaRange, formulaTurn, formulaUnit, type Formula, type FormulaOp } from './formulas';
import type { RigDerived, RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';
import { findSignal } from '../rig/find';
import { sourcesOf } from '../rig/links';
import { freeId, freeName } from '../rig/naming';

/** A formula to begin with: of the signals that are given, or of the first ones of the rig where it needs more. */
export function freshFormula(op: FormulaOp, given: readonly string[], rig: RigDocument): Formula {
  const known = [...new Set([...given, ...rig.signals.filter(({ kind }) => kind === 'continuous').map(({ id }) => id), ...rig.signals.map(({ id }) => id)])];
  return FORMULAS[op].fresh({ take: (count) => Array.from({ length: count }, (_, i) => known[i] ?? known[0] ?? ''), gate: rig.signals.find(({ kind }) => kind === 'gate')?.id });
}

/** A derived signal with what follows from its formula: the unit of its sources where they share one, its full turn where it is an angle, and its range. */
export function withFormula({ id, name, kind, rest }: Omit<RigDerived, 'unit' | 'range' | 'period' | 'formula'>, formula: Formula, rig: RigDocument): RigDerived {
  const signalOf = (id: string) => findSignal(rig, id)?.signal;
  const sources = sourcesOf(formula).map(signalOf);
  const turn = formulaTurn(formula, sources.map((signal) => signal?.period ?? 0));
  const [lo, hi] = formulaRange(formula, (id) => signalOf(id)?.range ?? [0, 1], turn).map((end) => Number(end.toPrecision(4))) as [number, number];
  return {
    id,
    name,
    kind,
    ...(rest === undefined ? {} : { rest }),
    formula,
    unit: formulaUnit(formula, sources.map((signal) => signal?.unit ?? 'unit')),
    range: lo === hi ? [lo, lo + 1] : [lo, hi],
    ...(turn > 0 ? { period: turn } : {}),
  };
}

/** A new derived signal, under a name that is free. */
export function addDerived(rig: RigDocument, name: string, formula: Formula): { change: Change; id: string } {
  const id = freeId(name, new Set([...rig.signals, ...rig.derived].map((signal) => signal.id)));
  const to = withFormula({ id, name: freeName(name, rig.derived.map((other) => other.name)), kind: FORMULAS[formula.op].gate ? 'gate' : 'continuous' }, formula, rig);
  return { change: { list: 'derived', id, to }, id };
}

/** The signals that a formula of this derived signal may read: all but itself and what follows from it. */
export function possibleSources(rig: RigDocument, id: string): string[] {
  const following = new Set([id]);
  for (let before = -1; before !== following.size; ) {
    before = following.size;
    for (const other of rig.derived) if (sourcesOf(other.formula).some((source) => following.has(source))) following.add(other.id);
  }
  return [...rig.signals, ...rig.derived].map((signal) => signal.id).filter((candidate) => !following.has(candidate));
}
