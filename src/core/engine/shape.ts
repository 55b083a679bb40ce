import { powerCurve, pointsCurve, sCurve, steppedCurve } from '../shaping/curve';
import { attackRelease } from '../shaping/attackRelease';
import { centreDeadZone, endsDeadZone, roundDeadZone } from '../shaping/deadZone';
import { jumpGate } from '../shaping/jumpGate';
import { median } from '../shaping/median';
import { oneEuro } from '../shaping/oneEuro';
import { onePole } from '../shaping/onePole';
import { rangeIn } from '../shaping/rangeIn';
import { rangeOut } from '../shaping/rangeOut';
import { slew } from '../shaping/slew';
import { step } from '../shaping/steps';
import { windowed } from '../shaping/window';
import { clampUnit, type UnitInterval } from '../units/unitInterval';
import type { PlannedMapping } from './planMapping';
import { CURVE, DEAD, SMOOTH } from './planShaping';
import { SLOT } from './slots';

/** A smoothed level this near to its target has arrived. A quarter of a 14-bit step. */
const ARRIVED = 1 / 65536;

/**
 * From the value of the signal to the level that the smoothing heads for: dead zone of a pair, range in, other dead zones,
 * de-glitch. Left in `SLOT.entered`.
 */
export function enter(mapping: PlannedMapping, state: Float64Array, at: number, values: Float64Array): void {
  let value = values[mapping.signal]!;
  if (mapping.dead === DEAD.round) value = outsideRound(mapping, value, values[mapping.pair]!);
  if (mapping.turn > 0) value = nearestTurn(value, mapping.inLo, mapping.inHi, mapping.turn);
  let level = rangeIn(value, mapping.inLo, mapping.inHi, mapping.outside);
  switch (mapping.dead) {
    case DEAD.centre:
      level = centreDeadZone(level, mapping.deadA, mapping.deadB);
      break;
    case DEAD.ends:
      level = endsDeadZone(level, mapping.deadA, mapping.deadB);
      break;
  }
  state[at + SLOT.entered] = level;
  if (mapping.median > 0 || mapping.jumpPerS > 0) deglitch(mapping, state, at);
}

/** What de-glitching makes of the level in `SLOT.entered`. */
function deglitch(mapping: PlannedMapping, state: Float64Array, at: number): void {
  const timeMs = state[at + SLOT.nowMs]!;
  let level = state[at + SLOT.entered]!;
  if (mapping.median > 0) level = median(state, at + SLOT.median, level, mapping.median);
  if (mapping.jumpPerS > 0) {
    const jump = at + SLOT.jump;
    if (Number.isNaN(state[jump]!)) {
      state[jump] = level;
      state[jump + 1] = timeMs;
    } else level = jumpGate(state, jump, level, timeMs, mapping.jumpPerS, mapping.jumpForMs, state[at + SLOT.stillMs]!, mapping.period);
  }
  state[at + SLOT.entered] = level;
}

/**
 * What a round dead zone leaves of one axis of a pair, in its unit. Each axis is laid onto -1..1 by its own nominal range;
 * one that was not heard yet lies in the middle.
 */
function outsideRound(mapping: PlannedMapping, value: number, other: number): number {
  const { nominalLo, nominalHi, pairLo, pairHi } = mapping;
  const beside = Number.isNaN(other) ? 0.5 : rangeIn(other, pairLo, pairHi);
  return rangeOut(roundDeadZone(rangeIn(value, nominalLo, nominalHi), beside, mapping.deadA, mapping.deadB), nominalLo, nominalHi);
}

/** An angle inside the range as it is, any other as its representative nearest to the middle of the range. */
function nearestTurn(value: number, lo: number, hi: number, period: number): number {
  if (value >= Math.min(lo, hi) && value <= Math.max(lo, hi)) return value;
  return value - period * Math.round((value - (lo + hi) / 2) / period);
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
  if (mapping.period > 0) goShortWay(mapping, state, at);
  state[at + SLOT.from] = state[at + SLOT.target]!;
  // After a silence the way to the new value took the last moments only: until then the input stood still.
  const stillMs = state[at + SLOT.stillMs]!;
  if (state[at + SLOT.filterMs]! < stillMs) {
    state[at + SLOT.to] = state[at + SLOT.from]!;
    state[at + SLOT.untilMs] = stillMs;
    moveFilter(mapping, state, at);
  }
  state[at + SLOT.to] = target;
  state[at + SLOT.untilMs] = timeMs;
  moveFilter(mapping, state, at);
}

/** An angle goes the short way: what was is counted from the turn that is nearest to what entered. */
function goShortWay({ period }: PlannedMapping, state: Float64Array, at: number): void {
  const shift = period * Math.round((state[at + SLOT.entered]! - state[at + SLOT.target]!) / period);
  state[at + SLOT.target]! += shift;
  state[at + SLOT.filtered]! += shift;
}

/** Carries the smoothing on without a sample. True when it has arrived. */
export function smoothOn(mapping: PlannedMapping, state: Float64Array, at: number): boolean {
  const target = state[at + SLOT.target]!;
  state[at + SLOT.from] = state[at + SLOT.to] = target;
  state[at + SLOT.untilMs] = state[at + SLOT.nowMs]!;
  moveFilter(mapping, state, at);
  if (!hasArrived(state, at)) return false;
  state[at + SLOT.filtered] = target;
  state[at + SLOT.speed] = 0;
  return true;
}

/** Whether the smoothed level lies where the smoothing was heading for. */
export function hasArrived(state: Float64Array, at: number): boolean {
  return Math.abs(state[at + SLOT.filtered]! - state[at + SLOT.target]!) < ARRIVED;
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
      state[at + SLOT.filtered] = attackRelease(y, from, to, dtMs, mapping.smoothA, mapping.smoothB);
      return;
    case SMOOTH.oneEuro:
      oneEuro(state, at + SLOT.filtered, to, from, dtMs, mapping.smoothA, mapping.smoothB, mapping.smoothC);
      return;
    case SMOOTH.slew:
      state[at + SLOT.filtered] = slew(y, from, to, dtMs, mapping.smoothA);
      return;
    default:
      state[at + SLOT.filtered] = to;
  }
}

/** From the smoothed level to the level that leaves: curve, rest, steps, window. Left in `SLOT.level`. */
export function leave(mapping: PlannedMapping, state: Float64Array, at: number, curves: Float64Array): void {
  const smoothed = state[at + SLOT.filtered]!;
  const { period } = mapping;
  // On its circle, an angle that left the range is read nearest to the middle of it.
  let level = clampUnit(period > 0 && (smoothed < 0 || smoothed > 1) ? smoothed - period * Math.round((smoothed - 0.5) / period) : smoothed);
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
  if (mapping.rests) level = laidApart(level, mapping.restLevel);
  if (mapping.steps > 0) {
    const now = step(level, mapping.steps, mapping.hysteresis, state[at + SLOT.step]!);
    state[at + SLOT.step] = now;
    level = mapping.steps > 1 ? now / (mapping.steps - 1) : 0.5;
  }
  state[at + SLOT.level] = mapping.hasWindow ? windowed(level, mapping.windowLo, mapping.windowHi, mapping.fade) : level;
}

/** Levels below and above that of the rest, laid apart onto the two halves: the rest itself is exactly 0.5. */
function laidApart(level: UnitInterval, rest: UnitInterval): UnitInterval {
  return level < rest ? (0.5 * level) / rest : 0.5 + (0.5 * (level - rest)) / (1 - rest);
}
