import { freshDerived, type DerivedState } from '../signal/derive';
import type { Plan } from './plan';
import { NONE, type PlannedMapping } from './planMapping';
import { freshState, SLOT, SLOTS } from './slots';

/** Everything an engine remembers, laid out for one plan. */
export interface Memory {
  plan: Plan;
  values: Float64Array;
  levels: Float64Array;
  state: Float64Array;
  derived: DerivedState[];
  sent: Float64Array;
  on: Uint8Array;
}

export interface CarriedOver extends Omit<Memory, 'plan'> {
  /** By mapping of the old plan: the mapping of the new one that keeps its notes, or NONE. */
  noteKeeper: Int32Array;
  /** The mappings that are new or were changed and must send what they stand at. */
  changed: number[];
}

/** What of an engine's memory still holds for another plan: all that belongs to things that did not change. */
export function carryOver(old: Memory, plan: Plan): CarriedOver {
  const oldSignal = old.plan.signalIndex;
  const oldMapping = new Map(old.plan.mappings.map(({ rig }, m) => [rig.id, m]));
  const oldDerived = new Map(old.plan.derived.map(({ rig }, d) => [rig.id, d]));
  const oldAddress = new Map(old.plan.addresses.map(({ key }, a) => [key, a]));

  const next: CarriedOver = {
    values: Float64Array.from(plan.signalIds, (id) => old.values[oldSignal.get(id) ?? NONE] ?? NaN),
    levels: new Float64Array(plan.mappings.length).fill(NaN),
    state: freshState(plan.mappings.length),
    derived: plan.derived.map(({ rig }) => {
      const from = oldDerived.get(rig.id) ?? NONE;
      return old.plan.derived[from]?.rig.formula.op === rig.formula.op ? old.derived[from]! : freshDerived();
    }),
    sent: Float64Array.from(plan.addresses, ({ key }) => old.sent[oldAddress.get(key) ?? NONE] ?? -1),
    on: new Uint8Array(plan.mappings.length),
    noteKeeper: new Int32Array(old.plan.mappings.length).fill(NONE),
    changed: [],
  };

  plan.mappings.forEach((mapping, m) => {
    const from = oldMapping.get(mapping.rig.id) ?? NONE;
    const before = old.plan.mappings[from];
    next.on[m] = Number(mapping.rig.on);
    if (!before) return void next.changed.push(m);
    // A scene may have switched it since: that stays until the document itself says something new.
    if (before.rig.on === mapping.rig.on) next.on[m] = old.on[from]!;
    if (sameFilter(before, mapping)) {
      next.state.set(old.state.subarray(from * SLOTS, (from + 1) * SLOTS), m * SLOTS);
      next.levels[m] = old.levels[from]!;
    }
    if (sameNotes(before, mapping) && next.on[m]) next.noteKeeper[from] = m;
    else for (const slot of [SLOT.offMs, SLOT.repeatMs]) next.state[m * SLOTS + slot] = NaN;
    if (!next.on[m]) for (const slot of [SLOT.gate, SLOT.held]) next.state[m * SLOTS + slot] = 0;
    if (before.rig !== mapping.rig && JSON.stringify(before.rig) !== JSON.stringify(mapping.rig)) next.changed.push(m);
  });
  return next;
}

/** Whether an edit left a mapping's filter in the same terms, so that its memory still means the same. */
function sameFilter(before: PlannedMapping, after: PlannedMapping): boolean {
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

/** Whether the notes of a mapping are still its own after an edit. */
function sameNotes(before: PlannedMapping, after: PlannedMapping): boolean {
  return (
    before.rig.signal === after.rig.signal &&
    before.rig.output === after.rig.output &&
    before.rig.message.kind === 'note' &&
    JSON.stringify(before.rig.message) === JSON.stringify(after.rig.message)
  );
}
