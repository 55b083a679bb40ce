import type { RigDocument, RigMapping } from '../rig/document';
import { SEGMENT } from '../shaping/curve';
import { originOf, settleRest } from './rest';
import { NONE, planMapping, type PlannedMapping } from './planMapping';
import { planVoices, shapesOf, type VoicePlan } from './voices/planVoices';
import { planEnsemble, type EnsemblePlan } from './ensemble/planEnsemble';
import { known, planSignals, type AnySignal, type SignalPlan } from './signalPlan';
import { addressKey, isGateMessage } from '../messages';

/** One address that values are sent to, with the mappings that share it. */
export interface PlannedAddress {
  key: string;
  mappings: number[];
  /** How several mappings on it become one value; `latest` where there is one or nothing was chosen. */
  merge: 'latest' | 'highest' | 'lowest' | 'sum' | 'average';
  /** What a sum counts from, in the numbers of the wire: the first mapping's. */
  origin: number;
}

/** A scene that a signal recalls; `at` is NaN for a gate that goes on. */
export interface PlannedTrigger {
  scene: string;
  signal: number;
  at: number;
  isDerived: boolean;
}

/** A rig compiled for the engine: everything by index, and per signal the flat list of what it drives. */
export interface Plan extends SignalPlan, VoicePlan {
  rig: RigDocument;
  mappings: PlannedMapping[];
  /** An address that went keeps its place, without mappings, so that those after it keep theirs. */
  addresses: PlannedAddress[];
  /** By address: whether several mappings become one value there. */
  isMerged: Uint8Array;
  /** By the mapping that sounds notes: those that give them their pressure. */
  pressures: ReadonlyMap<number, readonly number[]>;
  triggers: PlannedTrigger[];
  ensemble: EnsemblePlan;
  /** Whether a derived signal recalls a scene. */
  hasDerivedTriggers: boolean;
  /** Whether a sample may have consequences besides what it drives: springs or triggers. */
  hasConsequences: boolean;
  outputIds: string[];
  /** Whether an output is slow, so that what waits may be left out and each unit must stand for itself. */
  slowOutput: boolean[];
  /** By output: the bend range of its receiver. */
  bendRanges: number[];
  /** Whether MIDI can leave by it. */
  midiOutput: boolean[];
  clockOutputs: number[];
  /** By output: whether its receiver is to hear one voice alone. */
  aloneOutput: boolean[];
  /** The mappings of signal s are `drives[driveStart[s]]` up to, not including, `drives[driveStart[s + 1]]`. */
  driveStart: Uint32Array;
  drives: Uint32Array;
  /** Coefficients and points of all curves, one after another. */
  curves: Float64Array;
  seed: number;
}

function pressuresOf(mappings: readonly PlannedMapping[]): Plan['pressures'] {
  const pressures = new Map<number, number[]>();
  mappings.forEach(({ follows }, m) => {
    if (follows !== NONE) pressures.set(follows, [...(pressures.get(follows) ?? []), m]);
  });
  return pressures;
}

/** Of so many places of addresses, or numbers of curves, that are not used any more everything is laid out anew. */
const WASTE = 1024;

/**
 * Compiles a document that `protocol/rig` has accepted. Throws on a dangling reference or a circle: those are a
 * programmer's mistakes here.
 * @param seed of everything random, so that a rig can be played again the same
 * @param before the plan of the document before an edit: what the edit left alone is taken over, so that it costs little
 * @param keys of addresses that have a place already, where there is no plan before
 */
export function compile(rig: RigDocument, seed = 1, before: Plan | null = null, keys: readonly string[] = []): Plan {
  const signalPlan = before && before.rig.signals === rig.signals && before.rig.derived === rig.derived ? signalsOf(before) : planSignals(rig, seed);
  const { signals, signalIndex } = signalPlan;
  const outputIndex = new Map(rig.outputs.map(({ id }, i) => [id, i]));
  const bendRanges = rig.outputs.map(({ receiver }) => rig.receivers.find(({ id }) => id === receiver)!.bendRangeSemitones);
  const find = (id: string) => known(signalIndex, id);
  const taken = before && isSparse(before) ? before : null;
  const reusable = taken ? reusableOf(taken, rig, signalPlan, bendRanges) : () => null;

  const addresses: PlannedAddress[] = (taken ? taken.addresses.map(({ key }) => key) : keys).map((key) => ({ key, mappings: [], merge: 'latest', origin: 0 }));
  const places = new Map(addresses.map(({ key }, a) => [key, a]));
  const addressOf = (mapping: RigMapping, signal: AnySignal, m: number): number => {
    if (isGateMessage(mapping.message, signal.kind)) return NONE;
    const key = addressKey(mapping.output, mapping.message);
    const place = places.get(key) ?? addresses.push({ key, mappings: [], merge: 'latest', origin: 0 }) - 1;
    places.set(key, place);
    addresses[place]!.mappings.push(m);
    return place;
  };

  const curves: number[] = [];
  const curvesFrom = taken?.curves.length ?? 0;
  const fresh: PlannedMapping[] = [];
  const mappings = rig.mappings.map((mapping, m): PlannedMapping => {
    const kept = reusable(mapping);
    if (kept) {
      if (kept.address !== NONE) addresses[kept.address]!.mappings.push(m);
      return kept;
    }
    const signal = signals[find(mapping.signal)]!;
    const output = known(outputIndex, mapping.output);
    const planned = planMapping(mapping, signal, {
      find,
      rangeOf: (id) => signals[find(id)]!.range,
      output,
      address: addressOf(mapping, signal, m),
      curves,
      curvesFrom,
      bendRangeSemitones: bendRanges[output]!,
      mappingIndex: (id) => rig.mappings.findIndex((other) => other.id === id),
    });
    fresh.push(planned);
    return planned;
  });

  const voicePlan = planVoices(rig, { outputIndex, bendRanges, curves, curvesFrom, before: taken });
  const coefficients = withMore(taken?.curves ?? null, curves);
  const rests = Float64Array.from(signals, ({ rest }) => rest ?? NaN);
  for (const mapping of fresh) settleRest(mapping, rests, coefficients);
  for (const address of addresses) {
    address.merge = mergeOf(address.mappings.map((m) => rig.mappings[m]!));
    const first = mappings[address.mappings[0] ?? NONE];
    if (first) address.origin = originOf(first);
  }

  // A mapping with a round dead zone is moved by both axes.
  const drive = flatten(signals.length, mappings.map(({ signal, pair }) => (pair === NONE || pair === signal ? [signal] : [signal, pair])));
  return {
    ...signalPlan,
    ...voicePlan,
    rig,
    mappings,
    addresses,
    isMerged: Uint8Array.from(addresses, ({ merge }) => Number(merge !== 'latest')),
    pressures: pressuresOf(mappings),
    ensemble: planEnsemble(rig, voicePlan.streamIndex, signalIndex),
    hasDerivedTriggers: rig.scenes.some(({ recalledBy }) => recalledBy && find(recalledBy.signal) >= rig.signals.length),
    hasConsequences: signalPlan.springs.length > 0 || rig.scenes.some(({ recalledBy }) => recalledBy),
    triggers: rig.scenes.flatMap(({ id, recalledBy }) => (recalledBy ? [{ scene: id, signal: find(recalledBy.signal), at: recalledBy.at ?? NaN, isDerived: find(recalledBy.signal) >= rig.signals.length }] : [])),
    outputIds: rig.outputs.map(({ id }) => id),
    bendRanges,
    slowOutput: rig.outputs.map(({ bytesPerS }) => bytesPerS !== undefined),
    midiOutput: rig.outputs.map(({ kind }) => kind !== 'osc'),
    aloneOutput: rig.outputs.map(({ receiver }) => rig.receivers.find(({ id }) => id === receiver)!.alone === true),
    clockOutputs: rig.outputs.flatMap(({ sendsClock }, i) => (sendsClock ? [i] : [])),
    driveStart: drive.start,
    drives: drive.items,
    curves: coefficients,
    seed,
  };
}

/** What of a plan tells of its signals. */
function signalsOf({ signals, signalIds, signalIndex, signalRest, calibrations, derived, onTicks, springs, followStart, follows }: Plan): SignalPlan {
  return { signals, signalIds, signalIndex, signalRest, calibrations, derived, onTicks, springs, followStart, follows };
}

/** Whether so little of a plan is unused that more can be added to it. */
function isSparse({ addresses, mappings, voices, curves }: Plan): boolean {
  const shapes = [...mappings, ...voices.flatMap(shapesOf)];
  const used = shapes.reduce((sum, { curveCount }) => sum + curveCount, 0);
  return addresses.length < mappings.length + WASTE && curves.length < SEGMENT * used + WASTE * SEGMENT;
}

/**
 * Gives for a mapping of the document what was planned of it before, where it is the same object and everything that it
 * refers to is the same and in the same place.
 */
function reusableOf(before: Plan, rig: RigDocument, { signals, signalIds }: SignalPlan, bendRanges: readonly number[]): (mapping: RigMapping) => PlannedMapping | null {
  const sameOutputs = before.outputIds.length === rig.outputs.length && rig.outputs.every(({ id }, o) => id === before.outputIds[o] && bendRanges[o] === before.bendRanges[o]);
  const samePlaces = before.signalIds.length === signalIds.length && signalIds.every((id, s) => id === before.signalIds[s]);
  if (!sameOutputs || !samePlaces) return () => null;
  const planned = new Map(before.mappings.map((mapping) => [mapping.rig, mapping]));
  const means = (s: number) => s === NONE || sameMeaning(before.signals[s]!, signals[s]!);
  return (mapping) => {
    const known = planned.get(mapping);
    // The place of the mapping whose note is followed may be another.
    return known && known.follows === NONE && means(known.signal) && means(known.pair) ? known : null;
  };
}

/** Whether two signals are the same to what they drive; their names do not matter. */
function sameMeaning(a: AnySignal, b: AnySignal): boolean {
  return a === b || (a.kind === b.kind && a.range[0] === b.range[0] && a.range[1] === b.range[1] && a.rest === b.rest && a.period === b.period && a.pair === b.pair);
}

function withMore(before: Float64Array | null, more: readonly number[]): Float64Array {
  if (before && more.length === 0) return before;
  const all = new Float64Array((before?.length ?? 0) + more.length);
  if (before) all.set(before);
  all.set(more, before?.length ?? 0);
  return all;
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
