import { moveMotion, startMotion } from './motion';
import { NONE, PRESS, type PlannedMapping } from './planMapping';
import { goOff } from './memory';
import { levelStanding } from './rest';
import { keepActive, wanted, type Running } from './running';
import { send } from './send';
import { freshState, SLOT, SLOTS } from './slots';

/**
 * In `SLOT.gate`: off, and smoothing is on its way to where it goes on without a press. It was held all along while a line was lost, so
 * that what sounds as long as it is held does so again; or it was held when its mapping came on, and sounds only once it was let go.
 */
const [COMES_BACK, UNPRESSED] = [-1, -2];

/** On and off from the level in `SLOT.level`, with thresholds and the shortest times, then what a press means. */
export function gate(r: Running, m: number, mapping: PlannedMapping, at: number): void {
  const { nowMs } = r;
  const { state } = r.memory;
  const level = state[at + SLOT.level]!;
  if (mapping.gateMessage) noteSlope(r, mapping, at, level);
  const was = state[at + SLOT.gate]! > 0;
  const wants = was ? level >= mapping.gateOff && level > 0 : level >= mapping.gateOn;
  const waitMs = was ? mapping.minOnMs : mapping.minGapMs;
  if (r.heldOn && !was && !wants) state[at + SLOT.gate] = COMES_BACK;
  else if (state[at + SLOT.gate]! < 0 && !isHeld(r, mapping)) state[at + SLOT.gate] = 0;
  if (wants !== was) {
    const isOld = r.heldOn || state[at + SLOT.gate] === COMES_BACK;
    const isPress = state[at + SLOT.gate] !== UNPRESSED && (!isOld || soundsOn(mapping));
    // What is no press need not wait, and must not: it would be one once its time has come. Nor does the next one wait for it.
    if (isPress && nowMs - state[at + SLOT.gateMs]! < waitMs) keepActive(r, m);
    else {
      state[at + SLOT.gate] = Number(wants);
      state[at + SLOT.gateMs] = isPress ? nowMs : -Infinity;
      if (isPress) pressed(r, m, mapping, at, wants, level);
    }
  }
  gateLevel(r, m, mapping, at, level);
  if (mapping.gateMessage) r.player.keep(m, mapping, nowMs);
}

/**
 * A gated mapping begins to listen, at the level in `SLOT.level`: nothing presses by itself, so a key that is held counts as
 * not pressed until it is let go; what toggles and radio groups stand at is said.
 */
export function listenAnew(r: Running, m: number, mapping: PlannedMapping, at: number): void {
  const { state } = r.memory;
  const level = state[at + SLOT.level]!;
  if (mapping.gateMessage) noteSlope(r, mapping, at, level);
  state[at + SLOT.gate] = level >= mapping.gateOn ? 1 : isHeld(r, mapping) ? UNPRESSED : 0;
  state[at + SLOT.gateMs] = -Infinity;
  gateLevel(r, m, mapping, at, level);
  const { message } = mapping.rig;
  if (state[at + SLOT.held]! > 0 && message.kind === 'note' && r.player.comeBack(m, mapping, message, r.nowMs)) keepActive(r, m);
}

/**
 * Another shaping or gate was set. What stands over the threshold by that alone was not pressed and counts as held already: no note, no
 * program, no other place of a toggle. A controller that is on as long as it is held says only where it stands, and is on.
 */
export function gateAfterEdit(r: Running, m: number, mapping: PlannedMapping, at: number): void {
  const { state } = r.memory;
  const saysWhereItStands = mapping.press === PRESS.momentary && !mapping.gateMessage;
  if (!saysWhereItStands && !(state[at + SLOT.gate]! > 0) && state[at + SLOT.level]! >= mapping.gateOn) {
    state[at + SLOT.gate] = 1;
    state[at + SLOT.gateMs] = -Infinity;
  }
  // What a press has left on is held by nobody where it now goes on only as long as it is held.
  if (mapping.press === PRESS.momentary && state[at + SLOT.held]! > 0 && !(state[at + SLOT.gate]! > 0)) pressed(r, m, mapping, at, false, state[at + SLOT.level]!);
  gate(r, m, mapping, at);
}

/** There is nothing any more that could let go of what is held. */
export function letGo(r: Running, m: number, mapping: PlannedMapping, at: number): void {
  const { state } = r.memory;
  r.player.silence(m);
  goOff(mapping, state, at);
  const held = state[at + SLOT.held]!;
  state.set(freshState(1), at);
  state[at + SLOT.held] = held;
  r.active.delete(m);
  if (!mapping.gateMessage) return;
  r.memory.levels[m] = held;
  r.movedMappings.add(m);
}

/** Whether the signal itself stands where its mapping is on, whatever smoothing has made of that by now. */
const isHeld = ({ memory, plan }: Running, mapping: PlannedMapping): boolean => levelStanding(mapping, memory.values, plan.curves) >= mapping.gateOn;

/** Whether a press lasts as long as it is held, and so comes again where it was broken off; all else a press did once. */
const soundsOn = ({ press, gateMessage, rig }: PlannedMapping): boolean => press === PRESS.momentary && (!gateMessage || rig.message.kind === 'note');

/** A note, program, transport or machine message begins or ends. */
export function act(r: Running, m: number, mapping: PlannedMapping, on: boolean, level: number): void {
  const { message } = mapping.rig;
  if (message.kind !== 'note') {
    if (on) r.writer.press(mapping, m);
    return;
  }
  if (r.player.press(m, mapping, message, on, level, r.nowMs)) keepActive(r, m);
}

/** Whether something of a gated mapping is still to come by itself. */
export function waits(r: Running, m: number, mapping: PlannedMapping, at: number): boolean {
  const { state } = r.memory;
  if (!mapping.gated) return false;
  if (r.player.waits(m, mapping)) return true;
  const guardMs = Math.max(mapping.minOnMs, mapping.minGapMs);
  if (guardMs > 0 && r.nowMs - state[at + SLOT.gateMs]! < guardMs) {
    const overMs = state[at + SLOT.gateMs]! + (state[at + SLOT.gate]! > 0 ? mapping.minOnMs : mapping.minGapMs);
    if (overMs > r.nowMs) wanted(r, overMs);
    return true;
  }
  return mapping.rig.motion !== undefined && moveMotion(mapping.rig.motion, state, at, r.nowMs, state[at + SLOT.held]! > 0);
}

/** The speed of the level, for the notes that it strikes: over the straight way to it, which begins no sooner than it moved last. */
function noteSlope({ memory: { state, times }, nowMs }: Running, { signal, pair }: PlannedMapping, at: number, level: number): void {
  const before = state[at + SLOT.levelBefore]!;
  if (level === before) return;
  let sinceMs = state[at + SLOT.levelMs]!;
  // Equal samples, and the silence of what says only what is new, are no part of the way. Two levels at one time have no speed.
  if (state[at + SLOT.sampleMs] === nowMs && sinceMs < nowMs) sinceMs = Math.max(sinceMs, times.wayBeganMs(signal), pair === NONE ? -Infinity : times.wayBeganMs(pair));
  state[at + SLOT.slope] = Number.isNaN(before) || sinceMs >= nowMs ? 0 : ((level - before) / (nowMs - sinceMs)) * 1000;
  state[at + SLOT.levelBefore] = level;
  state[at + SLOT.levelMs] = nowMs;
}

function pressed(r: Running, m: number, mapping: PlannedMapping, at: number, down: boolean, level: number): void {
  const { state } = r.memory;
  const before = state[at + SLOT.held]! > 0;
  let held = down;
  if (mapping.press === PRESS.toggle) held = down ? !before : before;
  else if (mapping.press === PRESS.radio) {
    held = down || before;
    if (down) releaseRadio(r, m, mapping);
  }
  state[at + SLOT.held] = Number(held);
  if (mapping.gateMessage && held !== before) act(r, m, mapping, held, level);
  if (mapping.rig.motion && held !== before) {
    startMotion(mapping.rig.motion, state, at, r.nowMs, held);
    keepActive(r, m);
  }
}

/** The others of a radio group go off; those that do not send now, without a message. */
function releaseRadio(r: Running, m: number, { radio }: PlannedMapping): void {
  const { state, on } = r.memory;
  r.plan.mappings.forEach((other, o) => {
    const at = o * SLOTS;
    if (o === m || other.press !== PRESS.radio || other.radio !== radio || !(state[at + SLOT.held]! > 0)) return;
    state[at + SLOT.held] = 0;
    if (!on[o]) return;
    if (other.gateMessage) return act(r, o, other, false, 0);
    if (other.rig.motion) {
      startMotion(other.rig.motion, state, at, r.nowMs, false);
      keepActive(r, o);
    }
    gateLevel(r, o, other, at, 0);
  });
}

/** For messages that follow a level although they come from a gate: a button that sends a controller. */
function gateLevel(r: Running, m: number, mapping: PlannedMapping, at: number, level: number): void {
  const { state, levels } = r.memory;
  const held = state[at + SLOT.held]! > 0;
  if (mapping.gateMessage) {
    levels[m] = Number(held);
    r.movedMappings.add(m);
    return;
  }
  const { motion } = mapping.rig;
  if (motion) {
    if (moveMotion(motion, state, at, r.nowMs, held)) keepActive(r, m);
    const moved = state[at + SLOT.motion]!;
    state[at + SLOT.level] = Number.isNaN(moved) ? (motion.kind === 'ramp' ? motion.offLevel : 0) : moved;
    return send(r, m, mapping, at);
  }
  // The strength of a gate counts while the finger holds it; a toggle that stays on is fully on.
  const strength = mapping.fromGate && mapping.press === PRESS.momentary ? level : 1;
  state[at + SLOT.level] = held ? strength : 0;
  send(r, m, mapping, at);
}
