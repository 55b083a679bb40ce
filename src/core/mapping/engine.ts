import { STATUS } from '../midi/message';
import type { RigDocument } from '../rig/document';
import { oneEuro } from '../shaping/oneEuro';
import { onePole } from '../shaping/onePole';
import { rangeIn } from '../shaping/rangeIn';
import { rangeOut } from '../shaping/rangeOut';
import { clamp } from '../units/unitInterval';
import { sameAddress, sameFilter } from './carryOver';
import { compile, type Plan, type PlannedMapping } from './plan';
import { NO_MAPPING, type MessageSink } from './sink';

/** How long a signal may be silent before ticks begin to carry its smoothing on. Longer than one sample at 50 Hz. */
const SILENCE_MS = 25;
/** A smoothed level this near to its target has arrived. A quarter of a 14-bit step. */
const ARRIVED = 1 / 65536;
/** A 7-bit value changes only when the level is this far past the border, in steps (engine.md: 0.3). */
const HYSTERESIS_STEPS = 0.3;
/** A gate is on from here. */
const GATE_ON = 0.5;

/** Slots of a mapping's state. */
const FILTERED = 0;
const SPEED = 1;
const TARGET = 2;
const SAMPLE_TIME = 3;
const FILTER_TIME = 4;
const SENT = 5;
const SOUNDING = 6;
const SLOTS = 7;
const NOTHING = -1;

/**
 * Runs a rig: samples and ticks go in, messages come out of the sink in the same call. It has no clock; times are in
 * ms of one clock of the caller's and must not run backwards (an earlier one counts as the latest seen).
 */
export class Engine {
  plan: Plan;
  /** The last value of each signal of the plan, NaN where none arrived. */
  values: Float64Array;
  /** The level in [0, 1] that each mapping last computed, NaN where it never did. */
  levels: Float64Array;
  private state: Float64Array;
  private moving: Set<number> = new Set();
  private nowMs = 0;

  constructor(
    rig: RigDocument,
    private readonly sink: MessageSink,
  ) {
    this.plan = compile(rig);
    this.values = new Float64Array(this.plan.signalIds.length).fill(NaN);
    this.levels = new Float64Array(this.plan.mappings.length).fill(NaN);
    this.state = freshState(this.plan.mappings.length);
  }

  /**
   * Goes on with another document. What did not change keeps its state; a note whose mapping went, was switched off or
   * was given another address is ended; a changed mapping sends its present value.
   */
  load(rig: RigDocument, timeMs: number): void {
    this.advanceTo(timeMs);
    const old = { plan: this.plan, values: this.values, state: this.state, levels: this.levels };
    const plan = compile(rig);
    const oldSignal = new Map(old.plan.signalIds.map((id, s) => [id, s]));
    const oldMapping = new Map(old.plan.mappings.map((mapping, m) => [mapping.rig.id, m]));
    const values = Float64Array.from(plan.signalIds, (id) => old.values[oldSignal.get(id) ?? NOTHING] ?? NaN);
    const levels = new Float64Array(plan.mappings.length).fill(NaN);
    const state = freshState(plan.mappings.length);
    const kept = new Set<number>();
    const changed: number[] = [];

    plan.mappings.forEach((mapping, m) => {
      const from = oldMapping.get(mapping.rig.id);
      const before = from === undefined ? undefined : old.plan.mappings[from];
      if (from === undefined || !before) return void changed.push(m);
      if (sameFilter(before, mapping)) {
        state.set(old.state.subarray(from * SLOTS, from * SLOTS + SENT), m * SLOTS);
        levels[m] = old.levels[from]!;
      }
      if (sameAddress(before, mapping)) {
        state[m * SLOTS + SENT] = old.state[from * SLOTS + SENT]!;
        if (mapping.rig.on) {
          state[m * SLOTS + SOUNDING] = old.state[from * SLOTS + SOUNDING]!;
          kept.add(from);
        }
      }
      if (JSON.stringify(before.rig) !== JSON.stringify(mapping.rig)) changed.push(m);
    });
    for (let m = 0; m < old.plan.mappings.length; m++) if (!kept.has(m)) this.endNote(m);

    this.plan = plan;
    this.values = values;
    this.levels = levels;
    this.state = state;
    this.moving = new Set([...plan.mappings.keys()].filter((m) => this.isSmoothing(m)));
    for (const m of changed) this.resend(m);
  }

  /** One sample of a signal, by its index in the plan. A value that is not finite is left out. */
  sample(signal: number, timeMs: number, value: number): void {
    if (!(signal >= 0 && signal < this.values.length) || !Number.isFinite(value)) return;
    this.advanceTo(timeMs);
    this.values[signal] = value;
    const { driveStart, drives } = this.plan;
    for (let i = driveStart[signal]!; i < driveStart[signal + 1]!; i++) this.step(drives[i]!, value);
  }

  /** Whether ticks are needed: some smoothing has not arrived yet. */
  get pending(): boolean {
    return this.moving.size > 0;
  }

  /** Carries on what moves without samples. */
  tick(timeMs: number): void {
    this.advanceTo(timeMs);
    for (const m of this.moving) {
      const at = m * SLOTS;
      if (this.nowMs - this.state[at + SAMPLE_TIME]! < SILENCE_MS) continue;
      const target = this.state[at + TARGET]!;
      this.filter(this.plan.mappings[m]!, at, target, target);
      if (Math.abs(this.state[at + FILTERED]! - target) < ARRIVED) {
        this.state[at + FILTERED] = target;
        this.state[at + SPEED] = 0;
        this.moving.delete(m);
      }
      this.write(m, this.state[at + FILTERED]!);
    }
  }

  /** Ends every note that sounds. */
  release(timeMs: number): void {
    this.advanceTo(timeMs);
    for (let m = 0; m < this.plan.mappings.length; m++) this.endNote(m);
  }

  /**
   * Note offs for what sounds, then on every channel that a mapping uses: sustain off, all sound off, all notes off,
   * bend centred (engine.md, note hygiene).
   */
  panic(timeMs: number): void {
    this.release(timeMs);
    const channels = new Set(this.plan.mappings.map(({ output, rig }) => output * 16 + rig.message.channel - 1));
    for (const key of [...channels].sort((a, b) => a - b)) {
      const output = key >> 4;
      const channel = key & 15;
      for (const controller of [64, 120, 123]) {
        this.sink.message(output, NO_MAPPING, this.nowMs, STATUS.controlChange | channel, controller, 0, 3);
      }
      this.sink.message(output, NO_MAPPING, this.nowMs, STATUS.pitchBend | channel, 0, 64, 3);
    }
  }

  /** Whether a mapping's filter has begun and may still be on its way. */
  private isSmoothing(m: number): boolean {
    const { rig } = this.plan.mappings[m]!;
    return rig.on && rig.shaping.smoothing !== undefined && !Number.isNaN(this.state[m * SLOTS + FILTERED]!);
  }

  private advanceTo(timeMs: number): void {
    if (timeMs > this.nowMs) this.nowMs = timeMs;
  }

  private step(m: number, value: number): void {
    const mapping = this.plan.mappings[m]!;
    if (!mapping.rig.on) return;
    const at = m * SLOTS;
    const target = rangeIn(value, mapping.inLo, mapping.inHi);
    const level = mapping.rig.shaping.smoothing ? this.smooth(m, mapping, at, target) : target;
    this.state[at + TARGET] = target;
    this.state[at + SAMPLE_TIME] = this.nowMs;
    this.write(m, level);
  }

  private smooth(m: number, mapping: PlannedMapping, at: number, target: number): number {
    const { state } = this;
    if (Number.isNaN(state[at + FILTERED]!)) {
      state[at + FILTERED] = target;
      state[at + FILTER_TIME] = this.nowMs;
      return target;
    }
    const before = state[at + TARGET]!;
    const quietUntilMs = this.nowMs - SILENCE_MS;
    // After a rest the way to the new value took the last moment only, not the whole rest.
    if (state[at + FILTER_TIME]! < quietUntilMs) this.filter(mapping, at, before, before, quietUntilMs);
    this.filter(mapping, at, before, target);
    this.moving.add(m);
    return state[at + FILTERED]!;
  }

  /** Moves the filter of a mapping from the time it stands at to `untilMs`, its input going from `from` to `to`. */
  private filter(mapping: PlannedMapping, at: number, from: number, to: number, untilMs = this.nowMs): void {
    const { state } = this;
    const dtMs = untilMs - state[at + FILTER_TIME]!;
    const smoothing = mapping.rig.shaping.smoothing;
    state[at + FILTER_TIME] = untilMs;
    switch (smoothing?.kind) {
      case 'onePole':
        state[at + FILTERED] = onePole(state[at + FILTERED]!, from, to, dtMs, smoothing.timeConstantMs);
        return;
      case 'oneEuro':
        oneEuro(state, at, to, from, dtMs, smoothing.minCutoffHz, smoothing.beta, smoothing.derivativeCutoffHz);
        return;
      case undefined:
        state[at + FILTERED] = to;
        return;
      default:
        return smoothing satisfies never;
    }
  }

  private write(m: number, level: number): void {
    this.levels[m] = level;
    const { output, rig } = this.plan.mappings[m]!;
    const { message } = rig;
    switch (message.kind) {
      case 'controlChange': {
        const exact = clamp(rangeOut(level, message.range[0], message.range[1]), 0, 127);
        const sent = this.state[m * SLOTS + SENT]!;
        const value = Math.round(exact);
        if (value === sent || (sent !== NOTHING && Math.abs(exact - sent) < 0.5 + HYSTERESIS_STEPS && !atEnd(level))) return;
        this.state[m * SLOTS + SENT] = value;
        const status = STATUS.controlChange | (message.channel - 1);
        return this.sink.message(output, m, this.nowMs, status, message.controller, value, 3);
      }
      case 'note': {
        const sounding = this.state[m * SLOTS + SOUNDING]! !== NOTHING;
        if (level >= GATE_ON === sounding) return;
        if (sounding) return this.endNote(m);
        this.state[m * SLOTS + SOUNDING] = message.note;
        const status = STATUS.noteOn | (message.channel - 1);
        return this.sink.message(output, m, this.nowMs, status, message.note, message.velocity, 3);
      }
      default:
        return message satisfies never;
    }
  }

  private endNote(m: number): void {
    const note = this.state[m * SLOTS + SOUNDING]!;
    if (note === NOTHING) return;
    const { output, rig } = this.plan.mappings[m]!;
    this.state[m * SLOTS + SOUNDING] = NOTHING;
    this.sink.message(output, m, this.nowMs, STATUS.noteOff | (rig.message.channel - 1), note, 64, 3);
  }

  /** Sends the present value of a mapping after an edit. A note is not struck again by an edit. */
  private resend(m: number): void {
    const mapping = this.plan.mappings[m]!;
    const value = this.values[mapping.signal]!;
    if (!Number.isNaN(value) && mapping.rig.message.kind !== 'note') this.step(m, value);
  }
}

/** The ends of a range are always reached, whatever the hysteresis says. */
const atEnd = (level: number) => level === 0 || level === 1;

function freshState(mappings: number): Float64Array {
  const state = new Float64Array(mappings * SLOTS);
  for (let m = 0; m < mappings; m++) {
    state[m * SLOTS + FILTERED] = NaN;
    state[m * SLOTS + SENT] = NOTHING;
    state[m * SLOTS + SOUNDING] = NOTHING;
  }
  return state;
}
