import { rangeOut } from '../shaping/rangeOut';
import type { UnitInterval } from '../units/unitInterval';
import { BEND_CENTRE } from '../midi/message';
import { kindOf } from '../messages';
import type { PlannedMapping } from './planMapping';
import { enter, leave } from './shape';
import { freshState, SLOT } from './slots';

/** A rest whose level lies so near to the middle is the middle. */
const NEAR_MIDDLE = 0.02;

/**
 * Finds where a mapping's signal rests, and whether that is to be sent as exactly the middle (engine.md, Settled: rest). Left in
 * `rests` and `restLevel`, and what it sends there in `atRest`.
 * @param rests by signal of the plan where it rests, NaN where it has no rest
 */
export function settleRest(mapping: PlannedMapping, rests: Float64Array, curves: Float64Array): void {
  if (mapping.relative) mapping.levelUnpressed = levelUnpressed(mapping, curves);
  if (Number.isNaN(rests[mapping.signal]!)) return;
  const levelAtRest = () => levelStanding(mapping, rests, curves);
  if (hasMiddle(mapping)) {
    const level = beforeSteps(mapping, levelAtRest);
    if (Math.abs(level - 0.5) <= NEAR_MIDDLE) {
      mapping.rests = true;
      mapping.restLevel = level;
    }
  }
  const level = levelAtRest();
  mapping.atRest = exactOf(mapping, mapping.gated ? Number(level >= mapping.gateOn) : level);
}

/** The level of a signal that has stood where `values` have it. */
export function levelStanding(mapping: PlannedMapping, values: Float64Array, curves: Float64Array): UnitInterval {
  const state = freshState(1);
  enter(mapping, state, 0, values);
  state[SLOT.filtered] = state[SLOT.entered]!;
  leave(mapping, state, 0, curves);
  return state[SLOT.level]!;
}

/** Where the level of what is on or off stands before the first press, NaN for what is neither. */
function levelUnpressed(mapping: PlannedMapping, curves: Float64Array): number {
  const { rig, gated, fromGate } = mapping;
  if (rig.motion?.kind === 'ramp') return rig.motion.offLevel;
  if (gated) return 0;
  return fromGate ? levelStanding({ ...mapping, signal: 0 }, Float64Array.of(0), curves) : NaN;
}

/** A level in the numbers of the wire; where there is a middle at rest, it is that of the level 0.5. */
export function exactOf({ rests, outLo, outMid, outHi }: PlannedMapping, level: UnitInterval): number {
  if (!rests) return rangeOut(level, outLo, outHi);
  return level < 0.5 ? rangeOut(2 * level, outLo, outMid) : rangeOut(2 * level - 1, outMid, outHi);
}

/** What a sum on the address of this mapping counts from. */
export function originOf({ rig, atRest }: PlannedMapping): number {
  if (rig.message.kind === 'pitchBend') return BEND_CENTRE;
  return Number.isNaN(atRest) ? 0 : atRest;
}

/** Of what is on or off there is no middle. */
function hasMiddle({ rig: { message }, gated, fromGate }: PlannedMapping): boolean {
  return !gated && !fromGate && kindOf(message).hasMiddle;
}

/** The level of the rest after its curve alone. */
function beforeSteps(mapping: PlannedMapping, levelAtRest: () => number): number {
  const { steps, hasWindow } = mapping;
  Object.assign(mapping, { steps: 0, hasWindow: false });
  const level = levelAtRest();
  Object.assign(mapping, { steps, hasWindow });
  return level;
}
