import { periodicDifference } from '../signal/period';
import { clamp } from '../units/unitInterval';
import type { PlannedMapping } from './planMapping';
import { SLOT } from './slots';
import type { Writer } from './writer';

/** From here a relative step is whole: levels are seldom numbers that binary can hold exactly. */
const WHOLE_STEP = 1 - 1e-6;

/**
 * Sends the way since the last level in whole steps, as many messages as it takes; what is left over counts next time.
 * @param fine whether the fine modifier is held
 * @param moved whether something moved it, rather than that it is looked at because of an edit
 */
export function sendRelative(mapping: PlannedMapping, m: number, state: Float64Array, at: number, fine: boolean, moved: boolean, writer: Writer): void {
  const { message } = mapping.rig;
  if (message.kind !== 'relative') return;
  const level = state[at + SLOT.level]!;
  let before = state[at + SLOT.levelBefore]!;
  state[at + SLOT.levelBefore] = level;
  if (Number.isNaN(before)) {
    if (Number.isNaN(mapping.levelUnpressed) || !moved) return;
    before = mapping.levelUnpressed;
  }
  const way = periodicDifference(level, before, mapping.period);
  let rest = state[at + SLOT.rest]! + (way * message.steps) / (fine ? message.fine!.divideBy : 1);
  while (Math.abs(rest) >= WHOLE_STEP) {
    const n = clamp(Math.sign(rest) * Math.max(1, Math.floor(Math.abs(rest) + 1 - WHOLE_STEP)), -message.most, message.most);
    writer.relative(mapping, m, n);
    rest -= n;
  }
  state[at + SLOT.rest] = rest;
}
