import { derive, isAtRest, type PlannedDerived } from '../signal/derive';
import { SHORTEST_SILENCE_MS } from '../signal/signalTimes';
import { gate, gateAfterEdit, letGo, listenAnew, waits } from './gates';
import { NONE, type PlannedMapping } from './planMapping';
import { SMOOTH } from './planShaping';
import type { Plan } from './plan';
import type { Running } from './running';
import { send, settleValue } from './send';
import { enter, leave, smoothOn, smoothSample } from './shape';
import { FILTER_SLOTS, SLOT, SLOTS } from './slots';

/** Times are compared no closer than this. */
const LEAST_MS = 0.01;

/** What needs no sample (constants, oscillators, what is made of such alone) has its first value and is sent. */
export function settleConstants(r: Running): void {
  const { plan, memory } = r;
  const first = firstDerived(plan);
  plan.derived.forEach(({ sources }, d) => {
    if (sources.every((source) => source >= first && !Number.isNaN(memory.values[source]!))) updateDerived(r, d);
  });
}

/** The signals of a plan are those of inputs and then, from this number on, the derived ones. */
const firstDerived = ({ signals, derived }: Plan): number => signals.length - derived.length;

/** A signal of an input has a new value: everything it drives moves, then everything that is derived from it. */
export function setSignal(r: Running, signal: number, value: number): void {
  const { plan, memory } = r;
  memory.values[signal] = value;
  r.movedSignals.add(signal);
  drive(r, signal);
  const { followStart, follows } = plan;
  for (let i = followStart[signal]!; i < followStart[signal + 1]!; i++) updateDerived(r, follows[i]!);
}

/** Computes a derived signal again; what it drives moves where its value is another, which is given back. */
function updateDerived(r: Running, d: number): boolean {
  const { index } = r.plan.derived[d]!;
  const value = derivedNow(r, d);
  if (Number.isNaN(value) || value === r.memory.values[index]) return false;
  hearDerived(r, index, value);
  drive(r, index);
  return true;
}

/** NaN while a source of it was not heard yet. */
function derivedNow({ plan, memory, moving, nowMs, transport }: Running, d: number): number {
  const planned = plan.derived[d]!;
  if (planned.kind.movesByItself) moving.add(d);
  return derive(planned, memory.derived[d]!, memory.values, nowMs, transport.pieceTime, memory.times);
}

function hearDerived({ memory, movedSignals, nowMs }: Running, index: number, value: number): void {
  memory.values[index] = value;
  memory.times.heard(index, nowMs, true);
  movedSignals.add(index);
}

/**
 * After an edit: derived signals that are made otherwise now, and what follows from them, are computed from what their sources stand at; one
 * whose sources were not heard yet has no value any more.
 * @param others the derived signals that the edit changed or brought
 * @returns the mappings that have another value to send
 */
export function deriveAnew(r: Running, others: readonly number[]): number[] {
  const { plan, memory } = r;
  const moved = new Set<number>();
  plan.derived.forEach(({ index, sources }, d) => {
    if (!others.includes(d) && !sources.some((source) => moved.has(source))) return;
    const value = derivedNow(r, d);
    if (Object.is(value, memory.values[index])) return;
    hearDerived(r, index, value);
    moved.add(index);
  });
  for (const signal of moved) if (plan.ensemble.isFollowed[signal]! > 0) r.ensemble.followEdit(signal);
  return [...moved].flatMap((signal) => [...plan.drives.subarray(plan.driveStart[signal], plan.driveStart[signal + 1])]);
}

/** On a tick: the derived signals that move by themselves and those that follow from them, each once and after its sources. */
export function moveDerived(r: Running): void {
  const { plan, memory, moving, tickMoved } = r;
  const { onTicks, derived } = plan;
  for (let i = 0; i < onTicks.length; i++) {
    const d = onTicks[i]!;
    tickMoved[d] = moving.has(d) || followsMoved(r, derived[d]!) ? Number(updateDerived(r, d)) : 0;
    if (moving.has(d) && isAtRest(derived[d]!, memory.derived[d]!, memory.values)) moving.delete(d);
  }
}

function followsMoved({ plan, tickMoved }: Running, { sources }: PlannedDerived): boolean {
  const first = firstDerived(plan);
  for (let i = 0; i < sources.length; i++) if (sources[i]! >= first && tickMoved[sources[i]! - first]! > 0) return true;
  return false;
}

function drive(r: Running, signal: number): void {
  const { driveStart, drives } = r.plan;
  for (let i = driveStart[signal]!; i < driveStart[signal + 1]!; i++) step(r, drives[i]!, signal);
  if (r.plan.ensemble.isFollowed[signal]! > 0) r.ensemble.follow(signal);
}

/** One mapping takes what its signal, or the other axis of its pair, has come to. */
function step(r: Running, m: number, signal: number): void {
  if (!r.memory.on[m]) return;
  const mapping = r.plan.mappings[m]!;
  // The other axis alone says nothing of one that was not heard yet.
  if (mapping.pair !== NONE && Number.isNaN(r.memory.values[mapping.signal]!)) return;
  const at = m * SLOTS;
  shape(r, m, mapping, at, signal);
  if (mapping.gated) gate(r, m, mapping, at);
  else send(r, m, mapping, at);
}

/** All of the shaping, from the value of the signal to `SLOT.level`. */
function shape(r: Running, m: number, mapping: PlannedMapping, at: number, signal: number): void {
  const { memory, nowMs } = r;
  const { state } = memory;
  if (mapping.pair !== NONE) joinSamples(r, m, at);
  state[at + SLOT.nowMs] = nowMs;
  // Here and below, not once for all: that cost a thirtieth of a whole sample.
  if (mapping.jumpPerS > 0) state[at + SLOT.stillMs] = memory.times.stillUntilMs(signal);
  enter(mapping, state, at, memory.values);
  if (mapping.smooth === SMOOTH.none) state[at + SLOT.filtered] = state[at + SLOT.entered]!;
  else {
    state[at + SLOT.stillMs] = memory.times.stillUntilMs(signal);
    smoothSample(mapping, state, at);
  }
  if (mapping.settles) {
    r.active.add(m);
    // A little less than the silence, so that the exact question is always asked where it matters.
    if (mapping.bySamplesAlone) memory.quietMs[m] = nowMs + memory.times.silenceMs(mapping.signal) - LEAST_MS;
    else r.quietUntilMs[0] = -Infinity;
  }
  state[at + SLOT.target] = state[at + SLOT.entered]!;
  state[at + SLOT.sampleMs] = nowMs;
  leave(mapping, state, at, r.plan.curves);
}

/** The two axes of a pair come one after the other at one time: the second takes the place of the first. */
function joinSamples({ memory: { state, joined }, nowMs }: Running, m: number, at: number): void {
  let before = joined.get(m);
  if (!before) joined.set(m, (before = { timeMs: NaN, filter: new Float64Array(FILTER_SLOTS.length) }));
  const { filter } = before;
  if (before.timeMs === nowMs) {
    for (let i = 0; i < filter.length; i++) state[at + FILTER_SLOTS[i]!] = filter[i]!;
    return;
  }
  before.timeMs = nowMs;
  for (let i = 0; i < filter.length; i++) filter[i] = state[at + FILTER_SLOTS[i]!]!;
}

/** Why a mapping says what it stands at: once more, after another shaping or gate was set, or because it came on or is new. */
type Occasion = 'again' | 'edit' | 'comeOn';

/** A mapping says what it stands at. A press is not made by that. */
export function sayPresent(r: Running, m: number, occasion: Occasion): void {
  const { memory, plan } = r;
  const mapping = plan.mappings[m]!;
  if (!memory.on[m] || (mapping.gateMessage && occasion === 'again')) return;
  const at = m * SLOTS;
  if (Number.isNaN(memory.values[mapping.signal]!)) return occasion === 'edit' ? letGo(r, m, mapping, at) : undefined;
  r.saysAnyway = true;
  shape(r, m, mapping, at, mapping.signal);
  if (!mapping.gated) send(r, m, mapping, at);
  else if (occasion === 'comeOn') listenAnew(r, m, mapping, at);
  else if (occasion === 'edit') gateAfterEdit(r, m, mapping, at);
  else gate(r, m, mapping, at);
  r.saysAnyway = false;
}

/** On a tick: every mapping that needs more than its samples. Most ticks find all of them quiet, at a look. */
export function carryMappingsOn(r: Running): void {
  const { active, nowMs, quietUntilMs } = r;
  if (nowMs < quietUntilMs[0]!) return;
  const { quietMs } = r.memory;
  // Samples to come make none quiet for less than this; what is carried on may say otherwise.
  let leastMs = nowMs + SHORTEST_SILENCE_MS - LEAST_MS;
  quietUntilMs[0] = leastMs;
  for (let i = active.size - 1; i >= 0; i--) {
    const m = active.at(i);
    const quiet = quietMs[m]!;
    if (quiet < leastMs) leastMs = quiet;
    if (nowMs >= quiet) carryOn(r, m);
  }
  if (leastMs < quietUntilMs[0]) quietUntilMs[0] = leastMs;
}

/** Smoothing that has not arrived, gates that wait, motions, notes that end or come again. */
function carryOn(r: Running, m: number): void {
  const { memory, nowMs } = r;
  const mapping = r.plan.mappings[m]!;
  const { state } = memory;
  const at = m * SLOTS;
  let busy = false;
  state[at + SLOT.nowMs] = nowMs;
  if (!memory.times.isSilent(mapping.signal, state[at + SLOT.sampleMs]!, nowMs)) {
    busy = mapping.settles;
    // Its samples move it; between them there is nothing to say.
    if (busy && mapping.bySamplesAlone) return;
  } else {
    busy = settleGlitches(r, mapping, at);
    if (mapping.smooth !== SMOOTH.none && !smoothOn(mapping, state, at)) busy = true;
  }
  leave(mapping, state, at, r.plan.curves);
  if (mapping.gated) gate(r, m, mapping, at);
  else send(r, m, mapping, at);
  if (waits(r, m, mapping, at)) busy = true;
  if (!busy && !settleValue(r, m, mapping, at)) r.active.delete(m);
}

/**
 * A signal that has come to rest says its value again and again, so that de-glitching lets the last value of a movement
 * through. True while the jump gate still holds it back.
 */
function settleGlitches({ memory }: Running, mapping: PlannedMapping, at: number): boolean {
  if (mapping.median === 0 && mapping.jumpPerS === 0) return false;
  const { state } = memory;
  for (let i = 0; i < Math.max(1, mapping.median); i++) enter(mapping, state, at, memory.values);
  state[at + SLOT.target] = state[at + SLOT.entered]!;
  if (mapping.smooth === SMOOTH.none) state[at + SLOT.filtered] = state[at + SLOT.entered]!;
  return mapping.jumpPerS > 0 && !Number.isNaN(state[at + SLOT.jump + 2]!);
}
