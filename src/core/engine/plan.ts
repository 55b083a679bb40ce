import type { Formula, RigDocument, RigMapping, RigSignal } from '../rig/document';
import { derivedOrder, movesByItself, sourcesOf } from '../signal/order';
import type { PlannedCalibration } from '../signal/calibration';
import type { PlannedDerived } from '../signal/derive';
import { clamp } from '../units/unitInterval';
import { addressKey, isGateMessage } from '../mapping/address';
import { originOf, settleRest } from './rest';
import { NONE, planMapping, type PlannedMapping } from './planMapping';

/** One address that values are sent to, with the mappings that share it. */
export interface PlannedAddress {
  key: string;
  mappings: number[];
  /** How several mappings on it become one value; `latest` where there is one or nothing was chosen. */
  merge: 'latest' | 'highest' | 'lowest' | 'sum' | 'average';
  /** What a sum counts from, in the numbers of the wire: the first mapping's. */
  origin: number;
}

/** A signal that springs back when its touch ends. */
export interface PlannedSpring {
  signal: number;
  gate: number;
  to: number;
  overMs: number;
}

/** A scene that a signal of an input recalls; `at` is NaN for a gate that goes on. */
export interface PlannedTrigger {
  scene: string;
  signal: number;
  at: number;
}

/** A rig compiled for the engine: everything by index, and per signal the flat list of what it drives. */
export interface Plan {
  rig: RigDocument;
  signalIds: string[];
  signalIndex: Map<string, number>;
  signalRest: Float64Array;
  /** By signal; null where its numbers are taken as they come. */
  calibrations: (PlannedCalibration | null)[];
  derived: PlannedDerived[];
  /** Derived signals that move on without samples, as indices into `derived`. */
  selfMoving: number[];
  mappings: PlannedMapping[];
  addresses: PlannedAddress[];
  springs: PlannedSpring[];
  triggers: PlannedTrigger[];
  /** Whether a sample may have consequences besides what it drives: springs or triggers. */
  hasConsequences: boolean;
  outputIds: string[];
  /** Whether an output is slow, so that what waits may be left out and each unit must stand for itself. */
  slowOutput: boolean[];
  /** Whether MIDI can leave by it. */
  midiOutput: boolean[];
  clockOutputs: number[];
  /** The mappings of signal s are `drives[driveStart[s]]` up to, not including, `drives[driveStart[s + 1]]`. */
  driveStart: Uint32Array;
  drives: Uint32Array;
  /** The derived signals that follow from signal s, in order, as indices into `derived`; laid out as the mappings are. */
  followStart: Uint32Array;
  follows: Uint32Array;
  /** Coefficients and points of all curves, one after another. */
  curves: Float64Array;
  seed: number;
}

/**
 * Compiles a document that `protocol/rig` has accepted. Throws on a dangling reference or a circle: those are a
 * programmer's mistakes here.
 * @param seed of everything random, so that a rig can be played again the same
 */
export function compile(rig: RigDocument, seed = 1): Plan {
  const order = derivedOrder(rig);
  if (!order.ok) throw new Error(`compile needs a checked rig, found a circle ${order.circle.join(' -> ')}`);
  const derivedById = new Map(rig.derived.map((signal) => [signal.id, signal]));
  const all: Omit<RigSignal, 'input'>[] = [...rig.signals, ...order.order.map((id) => derivedById.get(id)!)];
  const signalIndex = new Map(all.map(({ id }, i) => [id, i]));
  const outputIndex = new Map(rig.outputs.map(({ id }, i) => [id, i]));
  const find = (id: string) => known(signalIndex, id);

  // What is derived lies at 0 before anything moved, where its range holds it: a speed, a sum, a wave.
  const signalRest = Float64Array.from(all, (signal, i) => signal.rest ?? (i < rig.signals.length ? signal.range[0] : clamp(0, Math.min(...signal.range), Math.max(...signal.range))));

  const derived = order.order.map((id, i): PlannedDerived => {
    const signal = derivedById.get(id)!;
    const { formula } = signal;
    return {
      index: rig.signals.length + i,
      rig: signal,
      sources: sourcesOf(formula).map(find),
      rests: sourcesOf(formula).map((source) => signalRest[find(source)]!),
      ...amounts(formula, find),
      period: formula.op === 'speed' ? (all[find(formula.of)]!.period ?? 0) : 0,
      seed: (seed * 1013 + i) | 0,
    };
  });

  const curves: number[] = [];
  const keys = new Map<string, number>();
  const addresses: PlannedAddress[] = [];
  const mappings = rig.mappings.map((mapping, m): PlannedMapping => {
    const signal = all[find(mapping.signal)]!;
    const output = known(outputIndex, mapping.output);
    const key = isGateMessage(mapping.message, signal.kind) ? null : addressKey(mapping.output, mapping.message);
    let address = NONE;
    if (key !== null) {
      address = keys.get(key) ?? addresses.push({ key, mappings: [], merge: 'latest', origin: 0 }) - 1;
      keys.set(key, address);
      addresses[address]!.mappings.push(m);
    }
    const bendRangeSemitones = rig.receivers.find(({ id }) => id === rig.outputs[output]!.receiver)!.bendRangeSemitones;
    return planMapping(mapping, signal, { find, rangeOf: (id) => all[find(id)]!.range, output, address, curves, bendRangeSemitones, mappingIndex: (id) => rig.mappings.findIndex((other) => other.id === id) });
  });
  const coefficients = Float64Array.from(curves);
  const rests = Float64Array.from(all, ({ rest }) => rest ?? NaN);
  const atRest = mappings.map((mapping) => settleRest(mapping, rests, coefficients));
  for (const address of addresses) {
    address.merge = mergeOf(address.mappings.map((m) => rig.mappings[m]!));
    const [first] = address.mappings;
    address.origin = originOf(mappings[first!]!.rig.message, atRest[first!]!);
  }

  // A mapping with a round dead zone is moved by both axes.
  const drive = flatten(all.length, mappings.map(({ signal, pair }) => (pair === NONE || pair === signal ? [signal] : [signal, pair])));
  const follow = followers(all.length, derived);
  return {
    rig,
    signalIds: all.map(({ id }) => id),
    signalIndex,
    signalRest,
    calibrations: all.map((signal) => calibrationOf(signal)),
    derived,
    selfMoving: derived.flatMap(({ rig: signal }, i) => (movesByItself(signal.formula) ? [i] : [])),
    mappings,
    addresses,
    hasConsequences: rig.signals.some(({ returns }) => returns) || rig.scenes.some(({ recalledBy }) => recalledBy),
    springs: rig.signals.flatMap(({ id, returns }) =>
      returns ? [{ signal: find(id), gate: find(returns.released), to: returns.to, overMs: returns.overMs }] : [],
    ),
    triggers: rig.scenes.flatMap(({ id, recalledBy }) => (recalledBy ? [{ scene: id, signal: find(recalledBy.signal), at: recalledBy.at ?? NaN }] : [])),
    outputIds: rig.outputs.map(({ id }) => id),
    slowOutput: rig.outputs.map(({ bytesPerS }) => bytesPerS !== undefined),
    midiOutput: rig.outputs.map(({ kind }) => kind !== 'osc'),
    clockOutputs: rig.outputs.flatMap(({ sendsClock }, i) => (sendsClock ? [i] : [])),
    driveStart: drive.start,
    drives: drive.items,
    followStart: follow.start,
    follows: follow.items,
    curves: coefficients,
    seed,
  };
}

function calibrationOf({ calibration, range: [lo, hi], rest, period }: Omit<RigSignal, 'input'>): PlannedCalibration | null {
  return calibration ? { ...calibration, lo, hi, rest: rest ?? null, period: period ?? null } : null;
}

function amounts(formula: Formula, find: (id: string) => number): { rate: number; depth: number } {
  if (formula.op !== 'oscillator') return { rate: NONE, depth: NONE };
  const index = (amount: typeof formula.rateHz) => (typeof amount === 'number' ? NONE : find(amount.signal));
  return { rate: index(formula.rateHz), depth: index(formula.depth) };
}

function mergeOf(sharing: RigMapping[]): PlannedAddress['merge'] {
  if (sharing.length < 2) return 'latest';
  const chosen = sharing.find(({ merge }) => merge !== undefined && merge !== 'none')?.merge;
  return chosen === undefined || chosen === 'none' ? 'latest' : chosen;
}

/** Lists of items by key as one flat list with starts. */
function flatten(keys: number, keysOf: number[][]): { start: Uint32Array; items: Uint32Array } {
  const start = new Uint32Array(keys + 1);
  for (const of of keysOf) for (const key of of) start[key + 1]!++;
  for (let key = 0; key < keys; key++) start[key + 1]! += start[key]!;
  const next = start.slice();
  const items = new Uint32Array(start[keys]!);
  keysOf.forEach((of, item) => of.forEach((key) => (items[next[key]!++] = item)));
  return { start, items };
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

