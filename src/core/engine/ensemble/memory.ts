import type { Held, Lasts } from '../../ensemble/kind';
import type { Plan } from '../plan';

/** Something that a member lets sound: until a beat, a time, or until it is ended. */
export interface Sounding {
  voice: number;
  key: number;
  pitch: number;
  endBeat: number;
  endMs: number;
}

/** Something that comes by itself; with a strike below 0 the end of what has this key. */
export interface Later {
  beat: number;
  pitch: number;
  strike: number;
  lasts: Lasts;
  key: number;
}

export interface MemberState {
  sounding: Sounding[];
  later: Later[];
  /** From where steps are counted, NaN while there are none; the next one; and how long they were. */
  anchorBeat: number;
  step: number;
  everyBeats: number;
  /** Since when there is nothing to go on with; NaN while there is. */
  restsMs: number;
  /** Silenced by Panic while something held it on: that does not let it go on. */
  isSilenced: boolean;
  /** When it wanted to be woken; NaN for not. */
  wakeBeat: number;
  /** Counts its voices. */
  voices: number;
  /** By signal that it follows: where it was last. */
  levels: Record<string, number>;
  /** What its kind remembers. */
  more: object;
}

export interface EnsembleMemory {
  members: MemberState[];
  on: Uint8Array;
  /** By stream that somebody listens to: what is held. */
  held: Heard[][];
  /** By stream: 1 while its sustain pedal is down. */
  sustained: Uint8Array;
}

/** A voice that is held, by a finger or, once that has lifted, by the pedal alone. */
export interface Heard extends Held {
  lifted: boolean;
}

export function freshMember(more: object): MemberState {
  return { sounding: [], later: [], anchorBeat: NaN, step: 0, everyBeats: NaN, restsMs: NaN, isSilenced: false, wakeBeat: NaN, voices: 0, levels: {}, more };
}

export function freshEnsemble({ ensemble: { members }, streamIds }: Pick<Plan, 'ensemble' | 'streamIds'>): EnsembleMemory {
  return { members: members.map(({ kind }) => freshMember(kind.remember())), on: Uint8Array.from(members, ({ rig }) => Number(rig.on)), held: streamIds.map(() => []), sustained: new Uint8Array(streamIds.length) };
}

/** Whether what a member remembers still holds where an edit made it another. */
export function goesOn(before: Plan['ensemble']['members'][number], after: Plan['ensemble']['members'][number] | undefined, oldPlan: Plan, plan: Plan): boolean {
  if (!after || before.rig.part.kind !== after.rig.part.kind) return false;
  if (before.kind.holdsBy?.(before.rig.part) !== before.kind.holdsBy?.(after.rig.part)) return false;
  const listens = (member: typeof before, of: Plan) => member.listens.map((stream) => of.streamIds[stream]).join();
  return listens(before, oldPlan) === listens(after, plan);
}

/** What of an ensemble still holds for another plan. */
export function carryEnsemble(old: EnsembleMemory, oldPlan: Plan, plan: Plan): EnsembleMemory {
  const memory = freshEnsemble(plan);
  plan.ensemble.members.forEach((member, i) => {
    const was = oldPlan.ensemble.members.findIndex(({ rig }) => rig.id === member.rig.id);
    const before = oldPlan.ensemble.members[was];
    if (!before) return;
    // A scene may have switched it since: that stays until the document itself says something new.
    if (before.rig.on === member.rig.on) memory.on[i] = old.on[was]!;
    if (goesOn(before, member, oldPlan, plan)) memory.members[i] = old.members[was]!;
    else memory.members[i]!.voices = old.members[was]!.voices;
  });
  plan.streamIds.forEach((id, s) => {
    const was = oldPlan.streamIds.indexOf(id);
    // Where nobody listened, nobody heard what ended meanwhile either.
    if (was < 0 || plan.ensemble.listeners[s]!.length === 0) return;
    memory.held[s] = old.held[was]!;
    memory.sustained[s] = old.sustained[was]!;
  });
  return memory;
}
