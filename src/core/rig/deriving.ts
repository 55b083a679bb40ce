import { formulaRange } from '../signal/formulaRange';
import type { Formula, RigDerived, RigDocument, SignalUnit } from './document';
import type { Change } from './edit';
import { findSignal } from './find';
import { sourcesOf } from './links';
import { freeId, freeName } from './naming';

export type FormulaOp = Formula['op'];

/** A formula to begin with: of the signals that are given, or of the first ones of the rig where it needs more. */
export function freshFormula(op: FormulaOp, given: readonly string[], rig: RigDocument): Formula {
  const known = [...given, ...rig.signals.filter(({ kind }) => kind === 'continuous').map(({ id }) => id), ...rig.signals.map(({ id }) => id)];
  const take = (count: number) => Array.from({ length: count }, (_, i) => [...new Set(known)][i] ?? known[0] ?? '');
  const [first] = take(1) as [string];
  switch (op) {
    case 'distance': {
      const [a, b, c, d] = take(4) as [string, string, string, string];
      return { op, from: [a, b], to: [c, d] };
    }
    case 'tilt':
      return { op, axis: 'pitch', of: take(3) as [string, string, string] };
    case 'speed':
      return { op, of: first };
    case 'accumulate':
      return { op, of: first, lo: 0, hi: 1 };
    case 'envelope':
      return { op, of: first, attackMs: 20, releaseMs: 300 };
    case 'hold':
      return { op, of: first, gate: rig.signals.find(({ kind }) => kind === 'gate')?.id ?? first };
    case 'oscillator':
      return { op, shape: 'sine', rateHz: 1, depth: 1 };
    case 'constant':
      return { op, value: 0.5 };
    default:
      return { op, of: take(2) };
  }
}

/** A derived signal with what follows from its formula: the unit of its sources where they share one, and its range. */
export function withFormula(derived: Omit<RigDerived, 'unit' | 'range' | 'formula'>, formula: Formula, rig: RigDocument): RigDerived {
  const rangeOf = (id: string) => findSignal(rig, id)?.signal.range ?? ([0, 1] as const);
  const [lo, hi] = formulaRange(formula, rangeOf).map((end) => Number(end.toPrecision(4))) as [number, number];
  return { ...derived, formula, unit: unitOf(formula, rig), range: lo === hi ? [lo, lo + 1] : [lo, hi] };
}

/** A new derived signal, under a name that is free. */
export function addDerived(rig: RigDocument, name: string, formula: Formula): { change: Change; id: string } {
  const id = freeId(name, new Set([...rig.signals, ...rig.derived].map((signal) => signal.id)));
  const to = withFormula({ id, name: freeName(name, rig.derived.map((other) => other.name)), kind: 'continuous' }, formula, rig);
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

function unitOf(formula: Formula, rig: RigDocument): SignalUnit {
  if (formula.op === 'tilt') return 'deg';
  const units = new Set(sourcesOf(formula).map((id) => findSignal(rig, id)?.signal.unit ?? 'unit'));
  const [unit] = units;
  // A product of lengths is no length, a speed in mm is not in mm.
  const keeps = formula.op !== 'product' && formula.op !== 'speed' && formula.op !== 'oscillator' && formula.op !== 'accumulate';
  if (formula.op === 'speed' && unit === 'deg') return 'deg/s';
  return keeps && units.size === 1 && unit ? unit : 'unit';
}
