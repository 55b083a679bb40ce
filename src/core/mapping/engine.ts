import type { RigDocument } from '../rig/document';
import { STATUS } from '../midi/message';
import { calibrated, withoutNoise } from '../signal/calibration';
import { derive, freshDerived, type DerivedState } from '../signal/derive';
import { rangeOut } from '../shaping/rangeOut';
import { clampUnit } from '../units/unitInterval';
import { ActiveSet } from './activeSet';
import { channelOf } from './address';
import { carryOver } from './carryOver';
import { merged } from './merge';
import { moveMotion, startMotion } from './motion';
import { NoteBook } from './noteBook';
import { NotePlayer } from './notePlayer';
import { compile, type Plan } from './plan';
import { NONE, PRESS, SMOOTH, type PlannedMapping } from './planMapping';
import { sendRelative } from './relative';
import { enter, leave, SILENCE_MS, smoothOn, smoothSample } from './shape';
import type { MessageSink } from './sink';
import { freshState, SLOT, SLOTS } from './slots';
import { Writer } from './writer';

const CLOCKS_PER_BEAT = 24;
/** A signal that stood still for longer is not what a gate was crossed with. */
const SLOPE_MS = 200;

/**
 * Runs a rig: samples and ticks go in, messages come out of the sink in the same call. It has no clock and no chance of
 * its own: the same rig, seed, samples and ticks give the same messages. Times are in ms of one clock of the caller's; an
 * earlier one than the latest counts as the latest. Nothing here throws on a sample, whatever its value.
 */
export class Engine {
  plan: Plan;
  /** The last value of each signal of the plan, NaN where none arrived. */
  values: Float64Array;
  /** The raw number of each calibrated signal that its noise filter let through last. */
  private letThrough: Float64Array;
  /** The level in [0, 1] that each mapping last computed, NaN where it never did. */
  levels: Float64Array;
  /** Whether each mapping sends: as the document says, until a scene says otherwise. */
  on: Uint8Array;
  private state: Float64Array;
  private derivedState: DerivedState[];
  private writer: Writer;
  private notes: NoteBook;
  private player: NotePlayer;
  /** Mappings that need ticks. */
  private active: ActiveSet;
  /** Mappings whose level and signals whose value were computed since the caller last cleared them, to be shown. */
  movedMappings: ActiveSet;
  movedSignals: ActiveSet;
  /** Signals on their way by themselves, for a scene or a spring: from and to, since when and for how long. */
  private glides = new Map<number, { from: number; to: number; sinceMs: number; overMs: number }>();
  /** By trigger of the plan: whether its gate was on after the last sample of it. */
  private triggered: Uint8Array;
  /** The time of the message that the sink is being given. */
  messageMs = NaN;
  private nowMs = -Infinity;
  private followedBpm: number | null = null;
  private clockMs = NaN;

  constructor(
    rig: RigDocument,
    private readonly sink: MessageSink,
    private readonly seed = 1,
  ) {
    this.plan = compile(rig, seed);
    const { mappings, signalIds, derived } = this.plan;
    this.values = new Float64Array(signalIds.length).fill(NaN);
    this.letThrough = new Float64Array(signalIds.length).fill(NaN);
    this.levels = new Float64Array(mappings.length).fill(NaN);
    this.on = Uint8Array.from(mappings, ({ rig: { on } }) => Number(on));
    this.state = freshState(mappings.length);
    this.derivedState = derived.map(freshDerived);
    this.writer = new Writer(this.plan.addresses.length, this.plan.slowOutput, sink);
    this.notes = this.newBook();
    this.player = new NotePlayer(this.notes, this.state, this.values, this.tempoBpm);
    this.active = new ActiveSet(mappings.length);
    this.movedMappings = new ActiveSet(mappings.length);
    this.movedSignals = new ActiveSet(signalIds.length);
    this.triggered = new Uint8Array(this.plan.triggers.length);
  }

  /** Begins: what needs no sample (constants, oscillators) has its first value and is sent. Nothing is sent before. */
  start(timeMs: number): void {
    this.advanceTo(timeMs);
    this.settleConstants();
  }

  /**
   * Goes on with another document. What did not change keeps its state; a note whose mapping went, was switched off or
   * was given another address is ended; a changed mapping sends its present value.
   */
  load(rig: RigDocument, timeMs: number): void {
    this.advanceTo(timeMs);
    const old = { plan: this.plan, values: this.values, levels: this.levels, state: this.state, derived: this.derivedState, sent: this.writer.sent, on: this.on };
    const plan = compile(rig, this.seed);
    const next = carryOver(old, plan);
    for (let m = 0; m < old.plan.mappings.length; m++) if (next.noteKeeper[m] === NONE) this.notes.endAll(m);
    const sounding: [output: number, mapping: number, channel: number, note: number][] = [];
    this.notes.each((output, m, channel, note) => {
      const to = next.noteKeeper[m]!;
      const place = plan.outputIds.indexOf(old.plan.outputIds[output]!);
      if (to !== NONE && place >= 0) sounding.push([place, to, channel, note]);
    });

    this.plan = plan;
    this.values = next.values;
    this.letThrough = Float64Array.from(plan.signalIds, (id) => this.letThrough[old.plan.signalIndex.get(id) ?? NONE] ?? NaN);
    this.levels = next.levels;
    this.state = next.state;
    this.derivedState = next.derived;
    this.on = next.on;
    this.writer = new Writer(plan.addresses.length, plan.slowOutput, this.sink);
    this.writer.sent.set(next.sent);
    this.notes = this.newBook();
    for (const note of sounding) this.notes.adopt(...note);
    this.player = new NotePlayer(this.notes, this.state, this.values, this.tempoBpm);
    this.active = new ActiveSet(plan.mappings.length);
    this.movedMappings = new ActiveSet(plan.mappings.length);
    this.movedSignals = new ActiveSet(plan.signalIds.length);
    for (let m = 0; m < plan.mappings.length; m++) if (this.on[m] && !Number.isNaN(this.state[m * SLOTS + SLOT.filtered]!)) this.active.add(m);
    this.glides.clear();
    this.triggered = Uint8Array.from(plan.triggers, ({ signal }) => Number(this.values[signal]! > 0));
    this.settleConstants();
    for (const m of next.changed) this.resend(m);
    for (const m of next.changed) this.mergeAgain(m);
  }

  /** One sample of a signal, by its index in the plan. A value that is not a number is left out, infinity is the end. */
  sample(signal: number, timeMs: number, value: number): void {
    const known = this.plan.rig.signals[signal];
    if (!known || Number.isNaN(value)) return;
    this.advanceTo(timeMs);
    if (this.glides.size > 0) this.glides.delete(signal);
    const [lo, hi] = known.range;
    const calibration = this.plan.calibrations[signal];
    if (!Number.isFinite(value)) this.set(signal, value > 0 ? Math.max(lo, hi) : Math.min(lo, hi));
    else if (!calibration) this.set(signal, value);
    else {
      this.letThrough[signal] = withoutNoise(calibration, value, this.letThrough[signal]!);
      this.set(signal, calibrated(calibration, this.letThrough[signal]!));
    }
    if (this.plan.hasConsequences) this.follow(signal, value);
  }

  /** Follows another clock, in beats a minute; null goes back to the tempo of the rig. */
  setTempo(bpm: number | null): void {
    this.followedBpm = bpm;
    this.player.tempoBpm = this.tempoBpm;
  }

  private get tempoBpm(): number {
    return this.followedBpm ?? this.plan.rig.tempoBpm;
  }

  /** Gives a signal the nominal value that it had in an earlier run; nothing is calibrated. */
  restore(signal: number, timeMs: number, value: number): void {
    this.advanceTo(timeMs);
    this.set(signal, value);
  }

  /** Sends a level of one mapping as if its shaping had given it; a message that happens at once is pressed or let go of. */
  show(m: number, level: number, timeMs: number): void {
    this.advanceTo(timeMs);
    const mapping = this.plan.mappings[m]!;
    const at = m * SLOTS;
    if (!mapping.gateMessage) {
      this.state[at + SLOT.level] = level;
      this.send(m, mapping, at);
    } else if (level > 0 !== this.state[at + SLOT.held]! > 0) {
      this.state[at + SLOT.held] = Number(level > 0);
      this.act(m, mapping, level > 0, level);
    }
  }

  /** Sends the present values of mappings once more, whatever the receiver was sent before. */
  sayAgain(mappings: Iterable<number>, timeMs: number): void {
    this.advanceTo(timeMs);
    for (const m of mappings) {
      const { address } = this.plan.mappings[m]!;
      if (address !== NONE) this.writer.forget(address);
      this.resend(m);
      this.mergeAgain(m);
    }
  }

  /** Whether ticks are needed. */
  get pending(): boolean {
    const { selfMoving, clockOutputs } = this.plan;
    return this.active.size > 0 || this.glides.size > 0 || selfMoving.length > 0 || clockOutputs.length > 0;
  }

  /** Carries on what moves without samples. */
  tick(timeMs: number): void {
    this.advanceTo(timeMs);
    this.tickClock();
    for (const [signal, glide] of this.glides) this.moveGlide(signal, glide);
    for (const d of this.plan.selfMoving) this.updateDerived(d);
    for (let i = this.active.size - 1; i >= 0; i--) this.carryOn(this.active.at(i));
  }

  /** Ends every note that sounds. */
  release(timeMs: number): void {
    this.advanceTo(timeMs);
    for (let m = 0; m < this.plan.mappings.length; m++) this.player.silence(m);
  }

  /**
   * Note offs for what sounds, then on every channel that a mapping uses: sustain off, all sound off, all notes off,
   * bend centred (engine.md, note hygiene).
   */
  panic(timeMs: number): void {
    this.release(timeMs);
    const channels = new Set(this.plan.mappings.flatMap(({ output, rig }) => (channelOf(rig.message) > 0 ? [output * 16 + channelOf(rig.message) - 1] : [])));
    for (const key of [...channels].sort((a, b) => a - b)) {
      const channel = key & 15;
      const status = STATUS.controlChange | channel;
      for (const controller of [64, 120, 123]) this.writer.raw(key >> 4, [status, controller, 0]);
      this.writer.raw(key >> 4, [STATUS.pitchBend | channel, 0, 64]);
    }
  }

  /** Recalls a scene by its id; false where there is none. Surfaces turn their pages themselves. */
  recall(sceneId: string, timeMs: number): boolean {
    const scene = this.plan.rig.scenes.find(({ id }) => id === sceneId);
    if (!scene) return false;
    this.advanceTo(timeMs);
    this.plan.mappings.forEach(({ rig }, m) => {
      const on = scene.mappings[rig.id];
      if (on !== undefined) this.switch(m, on);
    });
    for (const { output, bytes } of scene.messages) this.writer.raw(this.plan.outputIds.indexOf(output), bytes);
    for (const [id, to] of Object.entries(scene.values)) {
      const signal = this.plan.signalIndex.get(id)!;
      const from = this.values[signal]!;
      if (scene.glideMs > 0 && !Number.isNaN(from)) this.glides.set(signal, { from, to, sinceMs: this.nowMs, overMs: scene.glideMs });
      else this.set(signal, to);
    }
    this.sink.recalled?.(sceneId);
    return true;
  }

  /** Recalls the scenes that wait for what this sample brought. What a scene itself moves recalls no other. */
  private recallBy(signal: number): void {
    const value = this.values[signal]!;
    this.plan.triggers.forEach((trigger, t) => {
      if (trigger.signal !== signal) return;
      const wasOn = this.triggered[t]! > 0;
      this.triggered[t] = Number(value > 0);
      if (Number.isNaN(trigger.at) ? value > 0 && !wasOn : value === trigger.at) this.recall(trigger.scene, this.nowMs);
    });
  }

  /** Switches a mapping on or off while playing. Off ends its notes; on sends its present value. */
  private switch(m: number, on: boolean): void {
    if (Boolean(this.on[m]) === on) return;
    this.on[m] = Number(on);
    if (on) this.resend(m);
    else {
      this.player.silence(m);
      this.active.delete(m);
    }
    this.mergeAgain(m);
  }

  /** The mappings that share this one's address count differently now. */
  private mergeAgain(m: number): void {
    const address = this.plan.addresses[this.plan.mappings[m]!.address];
    if (!address || address.merge === 'latest') return;
    const speaker = address.mappings.find((other) => this.on[other] && !Number.isNaN(this.state[other * SLOTS + SLOT.exact]!));
    if (speaker !== undefined) this.writer.value(this.plan.mappings[speaker]!, speaker, merged(address, this.state, this.on));
  }

  private newBook(): NoteBook {
    return new NoteBook(this.plan.outputIds.length, this.plan.mappings.length, (output, m, on, channel, note, velocity) =>
      this.writer.note(output, m, on, channel, note, velocity),
    );
  }

  private advanceTo(timeMs: number): void {
    if (timeMs > this.nowMs) this.nowMs = timeMs;
    this.messageMs = this.nowMs;
  }

  private settleConstants(): void {
    this.plan.derived.forEach(({ sources }, d) => {
      if (sources.length === 0) this.updateDerived(d);
    });
  }

  /** A signal of an input has a new value: everything it drives moves, then everything that is derived from it. */
  private set(signal: number, value: number): void {
    this.values[signal] = value;
    this.movedSignals.add(signal);
    this.drive(signal);
    const { followStart, follows } = this.plan;
    for (let i = followStart[signal]!; i < followStart[signal + 1]!; i++) this.updateDerived(follows[i]!);
  }

  private drive(signal: number): void {
    const { driveStart, drives } = this.plan;
    for (let i = driveStart[signal]!; i < driveStart[signal + 1]!; i++) this.step(drives[i]!);
  }

  private updateDerived(d: number): void {
    const planned = this.plan.derived[d]!;
    const value = derive(planned, this.derivedState[d]!, this.values, this.nowMs);
    if (Number.isNaN(value) || value === this.values[planned.index]) return;
    this.values[planned.index] = value;
    this.movedSignals.add(planned.index);
    this.drive(planned.index);
  }

  private step(m: number): void {
    if (!this.on[m]) return;
    const mapping = this.plan.mappings[m]!;
    const { state } = this;
    const at = m * SLOTS;
    state[at + SLOT.nowMs] = this.nowMs;
    enter(mapping, state, at, this.values);
    if (mapping.smooth === SMOOTH.none) state[at + SLOT.filtered] = state[at + SLOT.entered]!;
    else smoothSample(mapping, state, at);
    if (mapping.smooth !== SMOOTH.none || mapping.median > 0 || mapping.jumpPerS > 0) this.active.add(m);
    state[at + SLOT.target] = state[at + SLOT.entered]!;
    state[at + SLOT.sampleMs] = this.nowMs;
    this.leave(m, mapping, at);
  }

  /** On a tick: smoothing that has not arrived, gates that wait, motions, notes that end or come again. */
  private carryOn(m: number): void {
    const mapping = this.plan.mappings[m]!;
    const { state } = this;
    const at = m * SLOTS;
    let busy = false;
    state[at + SLOT.nowMs] = this.nowMs;
    const silentMs = this.nowMs - state[at + SLOT.sampleMs]!;
    if (silentMs < SILENCE_MS) busy = mapping.smooth !== SMOOTH.none || mapping.median > 0 || mapping.jumpPerS > 0;
    else {
      busy = this.settleGlitches(mapping, at, silentMs);
      if (mapping.smooth !== SMOOTH.none && !smoothOn(mapping, state, at)) busy = true;
    }
    this.leave(m, mapping, at);
    if (!busy && !this.waits(mapping, at)) this.active.delete(m);
  }

  /**
   * A signal that has come to rest says its value again and again, so that de-glitching lets the last value of a movement
   * through. True while the jump gate may still hold it back.
   */
  private settleGlitches(mapping: PlannedMapping, at: number, silentMs: number): boolean {
    if (mapping.median === 0 && mapping.jumpPerS === 0) return false;
    const { state } = this;
    for (let i = 0; i < Math.max(1, mapping.median); i++) enter(mapping, state, at, this.values);
    state[at + SLOT.target] = state[at + SLOT.entered]!;
    if (mapping.smooth === SMOOTH.none) state[at + SLOT.filtered] = state[at + SLOT.entered]!;
    return mapping.jumpPerS > 0 && silentMs <= 2 * SILENCE_MS + mapping.jumpForMs;
  }

  /** Whether something of a gated mapping is still to come by itself. */
  private waits(mapping: PlannedMapping, at: number): boolean {
    const { state } = this;
    if (!mapping.gated) return false;
    if (!Number.isNaN(state[at + SLOT.offMs]!) || !Number.isNaN(state[at + SLOT.repeatMs]!)) return true;
    const guardMs = Math.max(mapping.minOnMs, mapping.minGapMs);
    if (guardMs > 0 && this.nowMs - state[at + SLOT.gateMs]! < guardMs) return true;
    return mapping.rig.motion !== undefined && moveMotion(mapping.rig.motion, state, at, this.nowMs, state[at + SLOT.held]! > 0);
  }

  private leave(m: number, mapping: PlannedMapping, at: number): void {
    leave(mapping, this.state, at, this.plan.curves);
    if (mapping.gated) this.gate(m, mapping, at, this.state[at + SLOT.level]!);
    else this.send(m, mapping, at);
  }

  /** Sends what stands in `SLOT.level`. */
  private send(m: number, mapping: PlannedMapping, at: number): void {
    const level = this.state[at + SLOT.level]!;
    this.levels[m] = level;
    this.movedMappings.add(m);
    if (mapping.relative) return sendRelative(mapping, m, this.state, at, mapping.fine !== NONE && this.values[mapping.fine]! > 0, this.writer);
    const exact = rangeOut(level, mapping.outLo, mapping.outHi);
    this.state[at + SLOT.exact] = exact;
    if (mapping.follows !== NONE) {
      const note = this.notes.soundingOf(mapping.follows);
      if (note >= 0) this.writer.polyPressure(mapping, m, note, exact);
      return;
    }
    const address = this.plan.addresses[mapping.address]!;
    const value = address.merge === 'latest' ? exact : merged(address, this.state, this.on);
    this.writer.value(mapping, m, value);
  }

  /** On and off from a level, with thresholds and the shortest times, then what a press means. */
  private gate(m: number, mapping: PlannedMapping, at: number, level: number): void {
    const { state, nowMs } = this;
    this.noteSlope(at, level);
    const was = state[at + SLOT.gate]! > 0;
    const wants = was ? level >= mapping.gateOff && level > 0 : level >= mapping.gateOn;
    const waitMs = was ? mapping.minOnMs : mapping.minGapMs;
    if (wants !== was) {
      if (nowMs - state[at + SLOT.gateMs]! < waitMs) this.active.add(m);
      else {
        state[at + SLOT.gate] = Number(wants);
        state[at + SLOT.gateMs] = nowMs;
        this.pressed(m, mapping, at, wants, level);
      }
    }
    this.gateLevel(m, mapping, at, level);
    if (mapping.gateMessage) this.player.keep(m, mapping, this.nowMs);
  }

  private noteSlope(at: number, level: number): void {
    const { state, nowMs } = this;
    const before = state[at + SLOT.levelBefore]!;
    const dtMs = nowMs - state[at + SLOT.levelMs]!;
    if (level === before) return;
    state[at + SLOT.slope] = Number.isNaN(before) || dtMs > SLOPE_MS ? 0 : dtMs > 0 ? ((level - before) / dtMs) * 1000 : Infinity;
    state[at + SLOT.levelBefore] = level;
    state[at + SLOT.levelMs] = nowMs;
  }

  private pressed(m: number, mapping: PlannedMapping, at: number, down: boolean, level: number): void {
    const { state } = this;
    const before = state[at + SLOT.held]! > 0;
    let held = down;
    if (mapping.press === PRESS.toggle) held = down ? !before : before;
    else if (mapping.press === PRESS.radio) {
      held = down || before;
      if (down) this.releaseRadio(m, mapping);
    }
    state[at + SLOT.held] = Number(held);
    if (mapping.gateMessage && held !== before) this.act(m, mapping, held, level);
    if (mapping.rig.motion && held !== before) {
      startMotion(mapping.rig.motion, state, at, this.nowMs, held);
      this.active.add(m);
    }
  }

  /** The others of a radio group go off. */
  private releaseRadio(m: number, { radio }: PlannedMapping): void {
    this.plan.mappings.forEach((other, o) => {
      const at = o * SLOTS;
      if (o === m || other.press !== PRESS.radio || other.radio !== radio || !(this.state[at + SLOT.held]! > 0)) return;
      this.state[at + SLOT.held] = 0;
      if (other.gateMessage) return this.act(o, other, false, 0);
      if (other.rig.motion) {
        startMotion(other.rig.motion, this.state, at, this.nowMs, false);
        this.active.add(o);
      }
      this.gateLevel(o, other, at, 0);
    });
  }

  /** For messages that follow a level although they come from a gate: a button that sends a controller. */
  private gateLevel(m: number, mapping: PlannedMapping, at: number, level: number): void {
    const { state } = this;
    const held = state[at + SLOT.held]! > 0;
    if (mapping.gateMessage) {
      this.levels[m] = Number(held);
      this.movedMappings.add(m);
      return;
    }
    const { motion } = mapping.rig;
    if (motion) {
      if (moveMotion(motion, state, at, this.nowMs, held)) this.active.add(m);
      const moved = state[at + SLOT.motion]!;
      state[at + SLOT.level] = Number.isNaN(moved) ? (motion.kind === 'ramp' ? motion.offLevel : 0) : moved;
      return this.send(m, mapping, at);
    }
    // The strength of a gate counts while the finger holds it; a toggle that stays on is fully on.
    const strength = mapping.fromGate && mapping.press === PRESS.momentary ? level : 1;
    state[at + SLOT.level] = held ? strength : 0;
    this.send(m, mapping, at);
  }

  /** A note, program, transport or machine message begins or ends. */
  private act(m: number, mapping: PlannedMapping, on: boolean, level: number): void {
    const { message } = mapping.rig;
    if (message.kind !== 'note') {
      if (on) this.writer.press(mapping, m);
      return;
    }
    if (this.player.press(m, mapping, message, on, level, this.nowMs)) this.active.add(m);
  }

  /** Sends the present value of a mapping after an edit. A press is not made again by an edit. */
  private resend(m: number): void {
    const mapping = this.plan.mappings[m]!;
    const value = this.values[mapping.signal]!;
    if (!Number.isNaN(value) && !mapping.gateMessage) this.step(m);
  }

  /** What a sample has for consequences besides what it drives; apart from `sample`, which must stay short to be quick. */
  private follow(signal: number, value: number): void {
    this.touchSprings(signal, value);
    this.recallBy(signal);
  }

  /** A touch that ends sends the signals that spring back on their way. A new one is itself a sample, which stops them. */
  private touchSprings(gate: number, value: number): void {
    if (value > 0) return;
    for (const { gate: touch, signal, to, overMs } of this.plan.springs) {
      const from = this.values[signal]!;
      if (touch !== gate || Number.isNaN(from) || from === to) continue;
      if (overMs > 0) this.glides.set(signal, { from, to, sinceMs: this.nowMs, overMs });
      else this.set(signal, to);
    }
  }

  private moveGlide(signal: number, { from, to, sinceMs, overMs }: { from: number; to: number; sinceMs: number; overMs: number }): void {
    const part = clampUnit((this.nowMs - sinceMs) / overMs);
    if (part >= 1) this.glides.delete(signal);
    this.set(signal, part >= 1 ? to : from + part * (to - from));
  }

  private tickClock(): void {
    const { clockOutputs } = this.plan;
    if (clockOutputs.length === 0) return;
    const everyMs = 60_000 / this.tempoBpm / CLOCKS_PER_BEAT;
    // After a pause the clock goes on from now instead of making up for it.
    if (!(this.nowMs - this.clockMs < 1000)) this.clockMs = this.nowMs;
    while (this.clockMs <= this.nowMs) {
      this.messageMs = this.clockMs;
      for (const output of clockOutputs) this.writer.clock(output);
      this.clockMs += everyMs;
    }
    this.messageMs = this.nowMs;
  }
}
