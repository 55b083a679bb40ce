import { powerCurve, pointsCurve, sCurve, steppedCurve } from '../shaping/curve';
import { centreDeadZone, endsDeadZone, roundDeadZone } from '../shaping/deadZone';
import { jumpGate } from '../shaping/jumpGate';
import { median } from '../shaping/median';
import { oneEuro } from '../shaping/oneEuro';
import { onePole } from '../shaping/onePole';
import { rangeIn } from '../shaping/rangeIn';
import { slew } from '../shaping/slew';
import { step } from '../shaping/steps';
import { windowed } from '../shaping/window';
import { clampUnit, type UnitInterval } from '../units/unitInterval';
import { CURVE, DEAD, SMOOTH, type PlannedMapping } from './planMapping';
import { SLOT } from './slots';

/** How long a signal may be silent before ticks begin to carry its smoothing on. Longer than one sample at 50 Hz. */
export const SILENCE_MS = 25;
/** A smoothed level this near to its target has arrived. A quarter of a 14-bit step. */
const ARRIVED = 1 / 65536;

/**
 * From the value of the signal to the level that the smoothing heads for: range in, dead zone, de-glitch. Left in
 * `SLOT.entered`.
 */
export function enter(mapping: PlannedMapping, state: Float64Array, at: number, values: Float64Array): void {
  const timeMs = state[at + SLOT.nowMs]!;
  let level = rangeIn(values[mapping.signal]!, mapping.inLo, mapping.inHi, mapping.outside);
  switch (mapping.dead) {
    case DEAD.centre:
      level = centreDeadZone(level, mapping.deadA, mapping.deadB);
      break;
    case DEAD.round:
      level = roundDeadZone(level, pairLevel(mapping, values), mapping.deadA, mapping.deadB);
      break;
    case DEAD.ends:
      level = endsDeadZone(level, mapping.deadA, mapping.deadB);
      break;
  }
  if (mapping.median > 0) level = median(state, at + SLOT.median, level, mapping.median);
  if (mapping.jumpPerS > 0) {
    const jump = at + SLOT.jump;
    if (Number.isNaN(state[jump]!)) {
      state[jump] = level;
      state[jump + 1] = timeMs;
    } else level = jumpGate(state, jump, level, timeMs, mapping.jumpPerS, mapping.jumpForMs);
  }
  state[at + SLOT.entered] = level;
}

/** Where the other axis of a pair lies, taken over the same range as this one. */
function pairLevel(mapping: PlannedMapping, values: Float64Array): UnitInterval {
  const value = values[mapping.pair]!;
  return Number.isNaN(value) ? 0.5 : rangeIn(value, mapping.inLo, mapping.inHi, mapping.outside);
}

/** Moves the smoothing towards what entered; leaves the smoothed level in its slot. */
export function smoothSample(mapping: PlannedMapping, state: Float64Array, at: number): void {
  const target = state[at + SLOT.entered]!;
  const timeMs = state[at + SLOT.nowMs]!;
  if (Number.isNaN(state[at + SLOT.filtered]!)) {
    state[at + SLOT.filtered] = target;
    state[at + SLOT.filterMs] = timeMs;
    return;
  }
  if (mapping.period > 0) {
    // An angle goes the short way: what was is counted from the turn that is nearest.
    const shift = mapping.period * Math.round((target - state[at + SLOT.target]!) / mapping.period);
    state[at + SLOT.target]! += shift;
    state[at + SLOT.filtered]! += shift;
  }
  state[at + SLOT.from] = state[at + SLOT.target]!;
  const quietUntilMs = timeMs - SILENCE_MS;
  // After a rest the way to the new value took the last moment only, not the whole rest.
  if (state[at + SLOT.filterMs]! < quietUntilMs) {
    state[at + SLOT.to] = state[at + SLOT.from]!;
    state[at + SLOT.untilMs] = quietUntilMs;
    moveFilter(mapping, state, at);
  }
  state[at + SLOT.to] = target;
  state[at + SLOT.untilMs] = timeMs;
  moveFilter(mapping, state, at);
}

/** Carries the smoothing on without a sample. True when it has arrived. */
export function smoothOn(mapping: PlannedMapping, state: Float64Array, at: number): boolean {
  const target = state[at + SLOT.target]!;
  state[at + SLOT.from] = state[at + SLOT.to] = target;
  state[at + SLOT.untilMs] = state[at + SLOT.nowMs]!;
  moveFilter(mapping, state, at);
  if (Math.abs(state[at + SLOT.filtered]! - target) >= ARRIVED) return false;
  state[at + SLOT.filtered] = target;
  state[at + SLOT.speed] = 0;
  return true;
}

/** Moves the filter from the time it stands at to `SLOT.untilMs`, its input going from `SLOT.from` to `SLOT.to`. */
function moveFilter(mapping: PlannedMapping, state: Float64Array, at: number): void {
  const from = state[at + SLOT.from]!;
  const to = state[at + SLOT.to]!;
  const untilMs = state[at + SLOT.untilMs]!;
  const dtMs = untilMs - state[at + SLOT.filterMs]!;
  const y = state[at + SLOT.filtered]!;
  if (dtMs > 0) state[at + SLOT.filterMs] = untilMs;
  switch (mapping.smooth) {
    case SMOOTH.onePole:
      state[at + SLOT.filtered] = onePole(y, from, to, dtMs, mapping.smoothA);
      return;
    case SMOOTH.attackRelease:
      state[at + SLOT.filtered] = onePole(y, from, to, dtMs, to > y ? mapping.smoothA : mapping.smoothB);
      return;
    case SMOOTH.oneEuro:
      oneEuro(state, at + SLOT.filtered, to, from, dtMs, mapping.smoothA, mapping.smoothB, mapping.smoothC);
      return;
    case SMOOTH.slew:
      state[at + SLOT.filtered] = slew(y, to, dtMs, mapping.smoothA);
      return;
    default:
      state[at + SLOT.filtered] = to;
  }
}

/** From the smoothed level to the level that leaves: curve, steps, window. Left in `SLOT.level`. */
export function leave(mapping: PlannedMapping, state: Float64Array, at: number, curves: Float64Array): void {
  const smoothed = state[at + SLOT.filtered]!;
  let level = mapping.period > 0 && (smoothed < 0 || smoothed > 1) ? smoothed - Math.floor(smoothed) : clampUnit(smoothed);
  switch (mapping.curve) {
    case CURVE.power:
      level = powerCurve(level, mapping.curveA);
      break;
    case CURVE.s:
      level = sCurve(level, mapping.curveA);
      break;
    case CURVE.points:
      level = pointsCurve(curves, mapping.curveAt, mapping.curveCount, level);
      break;
    case CURVE.stepped:
      level = steppedCurve(curves, mapping.curveAt, mapping.curveCount, level);
      break;
  }
  if (mapping.steps > 0) {
    const now = step(level, mapping.steps, mapping.hysteresis, state[at + SLOT.step]!);
    state[at + SLOT.step] = now;
    level = mapping.steps > 1 ? now / (mapping.steps - 1) : 0;
  }
  state[at + SLOT.level] = mapping.hasWindow ? windowed(level, mapping.windowLo, mapping.windowHi, mapping.fade) : level;
}
