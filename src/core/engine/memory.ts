import { freshDerived, type DerivedState } from '../signal/derive';
import type { RigDerived, RigMapping } from '../rig/document';
import { sourcesOf } from '../rig/links';
import { SignalTimes } from '../signal/signalTimes';
import type { Plan, PlannedTrigger } from './plan';
import { placesBy } from './places';
import { NONE, PRESS, type PlannedMapping } from './planMapping';
import { freshState, SLOT, SLOTS } from './slots';
import { freshEnsemble, type EnsembleMemory } from './ensemble/memory';
import { freshVoices, type VoiceMemory } from './voices/memory';

/** A signal on its way by itself, for a scene or a spring: from and to, since when and for how long. */
export interface Glide {
  from: number;
  to: number;
  sinceMs: number;
  overMs: number;
}

/** Everything an engine remembers from one sample to the next, laid out for one plan. */
export interface Memory {
  /** The last value of each signal of the plan, NaN where none arrived. */
  values: Float64Array;
  /** The raw number of each calibrated signal that its noise filter let through last. */
  letThrough: Float64Array;
  times: SignalTimes;
  /** By signal. */
  glides: Map<number, Glide>;
  /** By trigger of the plan: whether its signal was there when it was looked at last. */
  triggered: Uint8Array;
  derived: DerivedState[];
  /** The level in [0, 1] that each mapping last computed, NaN where it never did. */
  levels: Float64Array;
  state: Float64Array;
  /** By mapping: until then ticks have nothing to do for it, because its samples move it. */
  quietMs: Float64Array;
  /** Whether each mapping sends: as the document says, until a scene says otherwise. */
  on: Uint8Array;
  /** By mapping: the velocity of the note that it struck last, 0 before any. */
  struck: Uint8Array;
  /** By address: the mapping whose value changed last, or NONE. */
  speakers: Int32Array;
  /** The scene that was recalled last, whose notes sound until the next. */
  scene: string | null;
  /** By mapping of a round dead zone: its filter before the samples of the latest time. */
  joined: Map<number, { timeMs: number; filter: Float64Array }>;
  voices: VoiceMemory;
  ensemble: EnsembleMemory;
}

export function freshMemory(plan: Plan): Memory {
  const { signalIds, mappings, addresses, derived, triggers } = plan;
  return {
    values: new Float64Array(signalIds.length).fill(NaN),
    letThrough: new Float64Array(signalIds.length).fill(NaN),
    times: new SignalTimes(signalIds.length),
    glides: new Map(),
    triggered: new Uint8Array(triggers.length),
    derived: derived.map(freshDerived),
    levels: new Float64Array(mappings.length).fill(NaN),
    state: freshState(mappings.length),
    quietMs: new Float64Array(mappings.length).fill(-Infinity),
    on: Uint8Array.from(mappings, ({ rig: { on } }) => Number(on)),
    struck: new Uint8Array(mappings.length),
    speakers: new Int32Array(addresses.length).fill(NONE),
    scene: null,
    joined: new Map(),
    voices: freshVoices(plan),
    ensemble: freshEnsemble(plan),
  };
}

export interface CarriedOver {
  memory: Memory;
  /** The derived signals of the new plan that are new or made otherwise. */
  derived: number[];
  /** By mapping of the old plan: the mapping of the new one that keeps its notes, or NONE. */
  noteKeeper: Int32Array;
  /** The mappings that are new or were changed and must send what they stand at. */
  changed: number[];
  /** Those of them that listen anew: what is held at that moment counts as not pressed. */
  comeOn: number[];
  /** Those that are on or off at other levels than before. */
  regated: number[];
  /** Those whose address has lost another that shared it, so that their common value may be another. */
  bereft: number[];
}

/** What of an engine's memory still holds for another plan: all that belongs to things that did not change. */
export function carryOver(old: Memory, oldPlan: Plan, plan: Plan): CarriedOver {
  const memory = freshMemory(plan);
  memory.scene = old.scene;
  const oldMapping = placesBy(oldPlan.mappings, ({ rig }) => rig.id);
  const newMapping = placesBy(plan.mappings, ({ rig }) => rig.id);
  const derived = carrySignals(old, oldPlan, memory, plan);

  const oldAddress = placesBy(oldPlan.addresses, ({ key }) => key);
  plan.addresses.forEach(({ key }, a) => {
    const speaker = oldPlan.mappings[old.speakers[oldAddress(key, a)] ?? NONE];
    if (speaker) memory.speakers[a] = newMapping(speaker.rig.id, old.speakers[a]!);
  });

  const noteKeeper = new Int32Array(oldPlan.mappings.length).fill(NONE);
  const changed: number[] = [];
  const comeOn: number[] = [];
  const regated: number[] = [];
  plan.mappings.forEach((mapping, m) => {
    const from = oldMapping(mapping.rig.id, m);
    const before = oldPlan.mappings[from];
    const at = m * SLOTS;
    if (!before) {
      changed.push(m);
      comeOn.push(m);
      return;
    }
    memory.struck[m] = old.struck[from]!;
    // A scene may have switched it since: that stays until the document itself says something new.
    if (before.rig.on === mapping.rig.on) memory.on[m] = old.on[from]!;
    const wasOn = old.on[from]! > 0;
    const same = sameFilter(before, mapping);
    if (same) {
      for (let slot = 0; slot < SLOTS; slot++) memory.state[at + slot] = old.state[from * SLOTS + slot]!;
      memory.levels[m] = old.levels[from]!;
    } else if (before.gated && mapping.gated && before.rig.signal === mapping.rig.signal) {
      // What a press has made of a mapping is not undone by another range or smoothing, nor gone anew; what it began ends or comes again as it would have.
      for (const slot of [SLOT.gate, SLOT.gateMs, SLOT.held, SLOT.offMs, SLOT.repeatMs, ...(mapping.relative ? [SLOT.levelBefore, SLOT.rest] : [])]) memory.state[at + slot] = old.state[from * SLOTS + slot]!;
    } else comeOn.push(m);
    if (before.gated && mapping.gated && !sameGate(before, mapping)) regated.push(m);
    if (before.relative !== mapping.relative) memory.state[at + SLOT.levelBefore] = NaN;
    if (sameNotes(before, mapping) && memory.on[m]) noteKeeper[from] = m;
    else for (const slot of [SLOT.offMs, SLOT.repeatMs]) memory.state[at + slot] = NaN;
    if (!memory.on[m]) goOff(mapping, memory.state, at);
    else if (!wasOn) comeOn.push(m);
    if (before.rig !== mapping.rig && playedAs(before) !== playedAs(mapping)) changed.push(m);
  });
  return { memory, derived, noteKeeper, changed, comeOn, regated, bereft: bereftOf(oldPlan, plan, newMapping) };
}

/** What is said of a mapping and seen of it, and not heard. */
const UNHEARD = { name: undefined, group: undefined, remark: undefined, onStage: undefined, shownOn: undefined } satisfies { [Field in keyof RigMapping]?: undefined };
const playedAs = ({ rig }: PlannedMapping): string => JSON.stringify({ ...rig, ...UNHEARD });

function bereftOf(oldPlan: Plan, plan: Plan, newMapping: (id: string, expected: number) => number): number[] {
  return oldPlan.addresses.flatMap(({ key, merge, mappings }) => {
    if (merge === 'latest') return [];
    const stay = mappings.map((m) => newMapping(oldPlan.mappings[m]!.rig.id, m)).filter((m) => plan.addresses[plan.mappings[m]?.address ?? NONE]?.key === key);
    return stay.length < mappings.length ? stay : [];
  });
}

/** A mapping goes off: a momentary press ends with it, what toggles and radio groups stand at stays. */
export function goOff(mapping: PlannedMapping, state: Float64Array, at: number): void {
  if (mapping.press === PRESS.momentary) state[at + SLOT.held] = 0;
  state[at + SLOT.waits] = 0;
}

/** Gives the derived signals that are new or made otherwise. */
function carrySignals(old: Memory, oldPlan: Plan, memory: Memory, plan: Plan): number[] {
  if (plan.signalIds === oldPlan.signalIds) {
    // The signals were not touched: what is known of them goes on as it is.
    Object.assign(memory, { values: old.values, letThrough: old.letThrough, times: old.times, glides: old.glides, derived: old.derived });
    carryTriggers(memory, plan);
    return [];
  }
  memory.times.tickMs = old.times.tickMs;
  plan.signalIds.forEach((id, s) => {
    const was = oldPlan.signalIndex.get(id);
    if (was === undefined) return;
    memory.values[s] = old.values[was]!;
    memory.letThrough[s] = old.letThrough[was]!;
    memory.times.carry(s, old.times, was);
    const glide = old.glides.get(was);
    if (glide) memory.glides.set(s, glide);
  });
  const oldDerived = placesBy(oldPlan.derived, ({ rig }) => rig.id);
  const others: number[] = [];
  plan.derived.forEach(({ rig }, d) => {
    const from = oldDerived(rig.id, d);
    const before = oldPlan.derived[from]?.rig;
    if (before && before.formula.op === rig.formula.op && sameSources(before, rig)) memory.derived[d] = old.derived[from]!;
    if (before?.period !== rig.period || JSON.stringify(before?.formula) !== JSON.stringify(rig.formula)) others.push(d);
  });
  carryTriggers(memory, plan);
  return others;
}

/** What a speed or a sum over time remembers is of its source. */
const sameSources = (before: RigDerived, after: RigDerived): boolean => sourcesOf(before.formula).join() === sourcesOf(after.formula).join();

/** What an edit finds on recalls nothing by that; of derived signals see `lookAtDerivedTriggers`. */
function carryTriggers(memory: Memory, plan: Plan): void {
  plan.triggers.forEach((trigger, t) => (memory.triggered[t] = Number(isThere(trigger, memory.values[trigger.signal]!))));
}

/** Whether a signal stands where it recalls the scene. */
export const isThere = ({ at }: PlannedTrigger, value: number): boolean => (Number.isNaN(at) ? value > 0 : value === at);

/** Whether an edit left a mapping's filter in the same terms, so that its memory still means the same. */
function sameFilter(before: PlannedMapping, after: PlannedMapping): boolean {
  if (before === after) return true;
  return (
    before.rig.signal === after.rig.signal &&
    before.inLo === after.inLo &&
    before.inHi === after.inHi &&
    before.outside === after.outside &&
    before.smooth === after.smooth &&
    before.median === after.median &&
    before.gated === after.gated &&
    before.rig.motion?.kind === after.rig.motion?.kind
  );
}

/** Whether a mapping is on at the levels at which it was, and comes to them as it did. */
function sameGate(before: PlannedMapping, after: PlannedMapping): boolean {
  const terms = ({ rig: { shaping, gate }, inLo, inHi }: PlannedMapping) => JSON.stringify([shaping, gate, inLo, inHi]);
  return before === after || terms(before) === terms(after);
}

/** Whether the notes of a mapping are still its own after an edit. */
function sameNotes(before: PlannedMapping, after: PlannedMapping): boolean {
  return (
    before.rig.signal === after.rig.signal &&
    before.rig.output === after.rig.output &&
    before.rig.message.kind === 'note' &&
    (before.rig.message === after.rig.message || JSON.stringify(before.rig.message) === JSON.stringify(after.rig.message))
  );
}
