import type { RigDerived, RigDocument, RigSignal } from '../rig/document';
import type { PlannedCalibration } from '../signal/calibration';
import { planDerived, type PlannedDerived } from '../signal/derive';
import { sourcesOf } from '../rig/links';
import { derivedOrder } from '../signal/order';
import { clamp } from '../units/unitInterval';
import { NONE } from './planMapping';

/** Any signal of a rig, of an input or derived. */
export type AnySignal = Omit<RigSignal, 'input'>;

/** A signal that springs back when its touch ends. */
export interface PlannedSpring {
  signal: number;
  gate: number;
  to: number;
  overMs: number;
}

/** The signals of a plan by index: those of inputs, then the derived ones in an order in which each follows its sources. */
export interface SignalPlan {
  signals: readonly AnySignal[];
  signalIds: string[];
  signalIndex: Map<string, number>;
  signalRest: Float64Array;
  /** By signal of an input; null where its numbers are taken as they come. */
  calibrations: (PlannedCalibration | null)[];
  derived: PlannedDerived[];
  /** Derived signals that ticks may move, by themselves or because they follow from such, as indices into `derived`, in order. */
  onTicks: Uint32Array;
  springs: PlannedSpring[];
  /** The derived signals that follow from signal s are `follows[followStart[s]]` up to, not including, `follows[followStart[s + 1]]`, in order, as indices into `derived`. */
  followStart: Uint32Array;
  follows: Uint32Array;
}

/** Throws on a circle of derived signals and on a source that is not there: those are a programmer's mistakes here. */
export function planSignals(rig: RigDocument, seed: number): SignalPlan {
  const order = derivedOrder(rig);
  if (!order.ok) throw new Error(`compile needs a checked rig, found a circle ${order.circle.join(' -> ')}`);
  const derivedById = new Map(rig.derived.map((signal) => [signal.id, signal]));
  const ordered = order.order.map((id): RigDerived => derivedById.get(id)!);
  const signals: AnySignal[] = [...rig.signals, ...ordered];
  const signalIndex = new Map(signals.map(({ id }, i) => [id, i]));
  const find = (id: string) => known(signalIndex, id);
  // What is derived lies at 0 before anything moved, where its range holds it: a speed, a sum, a wave.
  const signalRest = Float64Array.from(signals, (signal, i) => signal.rest ?? (i < rig.signals.length ? signal.range[0] : clamp(0, Math.min(...signal.range), Math.max(...signal.range))));
  const derived = ordered.map((signal, i): PlannedDerived => {
    const sources = sourcesOf(signal.formula).map(find);
    return planDerived(signal, rig.signals.length + i, sources, signals[sources[0] ?? NONE], signalRest, (seed * 1013 + i) | 0);
  });
  const follow = followers(signals.length, derived);
  return {
    signals,
    signalIds: signals.map(({ id }) => id),
    signalIndex,
    signalRest,
    calibrations: rig.signals.map(calibrationOf),
    derived,
    onTicks: movedByTicks(derived),
    springs: rig.signals.flatMap(({ id, returns }) => (returns ? [{ signal: find(id), gate: find(returns.released), to: returns.to, overMs: returns.overMs }] : [])),
    followStart: follow.start,
    follows: follow.items,
  };
}

function calibrationOf({ calibration, range: [lo, hi], rest, period }: AnySignal): PlannedCalibration | null {
  return calibration ? { ...calibration, lo, hi, rest: rest ?? null, period: period ?? null } : null;
}

function movedByTicks(derived: readonly PlannedDerived[]): Uint32Array {
  const moved = new Set<number>();
  derived.forEach(({ kind, sources, index }) => (kind.movesByItself || sources.some((source) => moved.has(source))) && moved.add(index));
  return Uint32Array.from(derived.flatMap(({ index }, d) => (moved.has(index) ? [d] : [])));
}

/** For each signal the derived signals that change with it, directly or through others, in their order. */
function followers(signals: number, derived: PlannedDerived[]): { start: Uint32Array; items: Uint32Array } {
  const lists: number[][] = Array.from({ length: signals }, () => []);
  const reached: Set<number>[] = Array.from({ length: signals }, (_, s) => new Set([s]));
  derived.forEach(({ sources, index }, d) => {
    for (let s = 0; s < signals; s++) {
      if (!sources.some((source) => reached[s]!.has(source))) continue;
      reached[s]!.add(index);
      lists[s]!.push(d);
    }
  });
  const start = new Uint32Array(signals + 1);
  lists.forEach((list, s) => (start[s + 1] = start[s]! + list.length));
  return { start, items: Uint32Array.from(lists.flat()) };
}

export function known(index: ReadonlyMap<string, number>, id: string): number {
  const found = index.get(id);
  if (found === undefined) throw new Error(`compile needs a checked rig, "${id}" points nowhere`);
  return found;
}
