import { SignalTimes } from '../../signal/signalTimes';
import { ActiveSet } from '../activeSet';
import type { NoteOwner } from '../noteBook';
import { NONE } from '../planMapping';
import { freshState, SLOTS } from '../slots';
import { placesBy } from '../places';
import type { Plan } from '../plan';
import { AXES, sameVoices, type PlannedPool } from './planVoices';

/** So many voices of a stream one voice mapping knows at once; a voice more says nothing. */
export const LIVES = 32;

/** A life is a place for one voice of a stream in one voice mapping. `silent`: it is held, and heard no more or not yet. */
export const LIFE = { free: 0, silent: 1, sounding: 2 } as const;

/** What a life remembers as numbers, beside the state of its axes. */
export const AT = {
  /** As they were last said. */
  pressure: 0,
  slide: 1,
  pitch: 2,
  strike: 3,
  /** When it began, as a count. */
  began: 4,
  /** The pull: what is added in semitones, what was added at the beginning, where it is heading, and since when. */
  added: 5,
  addedFirst: 6,
  heading: 7,
  pulledMs: 8,
  /** A glide from another pitch: how far away that was, and when it began. */
  glideFrom: 9,
  glideMs: 10,
  /** The pitch that leaves. */
  sounds: 11,
} as const;
const ATS = 12;

/** Nobody has ever said anything there: less than anything that can be said. */
export const UNKNOWN = -Infinity;

/** What is known of the channels of a pool. */
export interface PoolState {
  /** By place: the life that sounds there, or NONE, and when the last one ended, as a count. */
  busy: Int32Array;
  freed: Float64Array;
  /** By place and axis: the value that was sent last, and the voice mapping that sent it; what belongs to the one channel of several places stands at the first. */
  sent: Float64Array;
  by: Int32Array;
  /** By pedal (controller): its value. */
  pedals: Map<number, number>;
}

/** What the voice half of an engine remembers, laid out for one plan: a life by voice mapping and place. */
export interface VoiceMemory {
  /** By voice mapping: whether it plays. */
  on: Uint8Array;
  /** By output: whether one voice is heard alone. */
  alone: Uint8Array;
  life: Uint8Array;
  voice: Int32Array;
  /** By life: the pool, the place in it, and the note that sounds there. */
  pool: Int32Array;
  place: Int32Array;
  note: Int32Array;
  at: Float64Array;
  /** By life and axis: what its shaping remembers. */
  axes: Float64Array;
  times: SignalTimes;
  /** Lives and axes that need ticks, by place of the axis. */
  active: ActiveSet;
  pools: PoolState[];
  /** Counts beginnings and ends. */
  count: number;
  /** Names of voice mappings, in the order in which they were first met: their places make them owners of notes. */
  met: string[];
  /** By that place: the voice mapping of the plan, or NONE. */
  ownedBy: number[];
}

/** Owners of notes that voice mappings strike count on from here, downwards: beyond all thrus. */
export const FIRST_VOICE: NoteOwner = -(2 ** 20);

export const lifeAt = (life: number) => life * ATS;
export const axisAt = (life: number, axis: number) => (life * AXES + axis) * SLOTS;

export function freshVoices(plan: Plan, met: string[] = []): VoiceMemory {
  const lives = plan.voices.length * LIVES;
  const known = [...met];
  for (const { rig } of plan.voices) if (!known.includes(rig.id)) known.push(rig.id);
  return {
    on: Uint8Array.from(plan.voices, ({ rig }) => Number(rig.on)),
    alone: Uint8Array.from(plan.outputIds, (_, o) => Number(plan.aloneOutput[o])),
    life: new Uint8Array(lives),
    voice: new Int32Array(lives),
    pool: new Int32Array(lives).fill(NONE),
    place: new Int32Array(lives).fill(NONE),
    note: new Int32Array(lives).fill(NONE),
    at: new Float64Array(lives * ATS),
    axes: freshState(lives * AXES),
    times: new SignalTimes(lives * AXES),
    active: new ActiveSet(lives * AXES),
    pools: plan.pools.map(freshPool),
    count: 0,
    met: known,
    ownedBy: known.map((id) => plan.voices.findIndex(({ rig }) => rig.id === id)),
  };
}

function freshPool({ channels }: PlannedPool): PoolState {
  return {
    busy: new Int32Array(channels.length).fill(NONE),
    // Those that never sounded are given away first, in their order.
    freed: Float64Array.from(channels, (_, place) => place - channels.length),
    sent: new Float64Array(channels.length * AXES).fill(UNKNOWN),
    by: new Int32Array(channels.length * AXES).fill(NONE),
    pedals: new Map(),
  };
}

/** The owner of the notes of a voice mapping. */
export function ownerOf({ met }: VoiceMemory, plan: Plan, v: number): NoteOwner {
  return FIRST_VOICE - met.indexOf(plan.voices[v]!.rig.id);
}

/**
 * What of the voices still holds for another plan. Voices of a voice mapping that plays elsewhere or otherwise now do not go on:
 * `ends` are their lives in the old memory, and `leaves` such voice mappings themselves, by number in the old plan. `anew` are lives in the new one of which an axis is shaped or sent otherwise now.
 */
export function carryVoices(old: VoiceMemory, oldPlan: Plan, plan: Plan): { voices: VoiceMemory; ends: number[]; leaves: number[]; anew: { life: number; axis: number }[] } {
  // Most edits are about something else: then everything stays where it is.
  if (sameLaidOut(oldPlan, plan)) return { voices: old, ends: [], leaves: [], anew: [] };
  const voices = freshVoices(plan, old.met);
  voices.count = old.count;
  const ends: number[] = [];
  const leaves: number[] = [];
  const anew: { life: number; axis: number }[] = [];
  const newVoice = placesBy(plan.voices, ({ rig }) => rig.id);
  const newPool = placesBy(plan.pools, ({ key }) => key);
  plan.outputIds.forEach((id, o) => {
    const was = oldPlan.outputIds.indexOf(id);
    // A scene may have switched it since: that stays until the document itself says something new.
    if (was >= 0 && oldPlan.aloneOutput[was] === plan.aloneOutput[o]) voices.alone[o] = old.alone[was]!;
  });
  const kept = new Map<number, number>();
  const changed: number[] = [];
  oldPlan.voices.forEach((before, was) => {
    const v = newVoice(before.rig.id, was);
    const after = plan.voices[v];
    if (after && before.rig.on === after.rig.on) voices.on[v] = old.on[was]!;
    const goesOn = after !== undefined && sameVoices(before, after) && voices.on[v]! > 0 && voices.alone[after.output] === old.alone[before.output];
    if (old.on[was]! > 0 && !goesOn) leaves.push(was);
    const isSame = after !== undefined && (before.rig === after.rig || JSON.stringify(before.rig) === JSON.stringify(after.rig));
    for (let i = 0; i < LIVES; i++) {
      const from = was * LIVES + i;
      if (old.life[from] === LIFE.free) continue;
      const pool = old.pool[from]! === NONE ? NONE : newPool(oldPlan.pools[old.pool[from]!]!.key, old.pool[from]!);
      if (!goesOn || (old.pool[from] !== NONE && pool === NONE)) {
        ends.push(from);
        continue;
      }
      const life = v * LIVES + i;
      kept.set(from, life);
      voices.life[life] = old.life[from]!;
      voices.voice[life] = old.voice[from]!;
      voices.pool[life] = pool;
      voices.place[life] = old.place[from]!;
      voices.note[life] = old.note[from]!;
      voices.at.set(old.at.subarray(lifeAt(from), lifeAt(from + 1)), lifeAt(life));
      // A shaping in other terms begins anew from what was said last.
      for (let axis = 0; axis < AXES; axis++) {
        if (!isSame && axisOf(before, axis) !== axisOf(after, axis)) {
          anew.push({ life, axis });
          continue;
        }
        voices.axes.set(old.axes.subarray(axisAt(from, axis), axisAt(from, axis + 1)), axisAt(life, axis));
        voices.times.carry(life * AXES + axis, old.times, from * AXES + axis);
      }
      if (!isSame) changed.push(life);
    }
  });
  carryActive(old.active, kept, changed, voices.active);
  voices.times.tickMs = old.times.tickMs;
  oldPlan.pools.forEach(({ key }, was) => {
    const pool = voices.pools[newPool(key, was)];
    const before = old.pools[was]!;
    if (!pool) return;
    before.busy.forEach((life, place) => (pool.busy[place] = kept.get(life) ?? NONE));
    pool.freed.set(before.freed);
    pool.sent.set(before.sent);
    before.by.forEach((by, at) => (pool.by[at] = stillSays(oldPlan, plan, by, newVoice, at % AXES)));
    // The same map, so that what leaves now is known to be lifted.
    pool.pedals = before.pedals;
  });
  return { voices, ends, leaves, anew };
}

/**
 * Ticks go on with what they were at, in its order, and look at all of a life that was changed. Where nothing was changed they say the same
 * whether its document is the same object or was read anew, as when a log is played.
 * @param kept by life in the old memory: its life in the new one
 */
function carryActive(old: ActiveSet, kept: ReadonlyMap<number, number>, changed: readonly number[], active: ActiveSet): void {
  for (let i = 0; i < old.size; i++) {
    const slot = old.at(i);
    const life = kept.get(Math.floor(slot / AXES));
    if (life !== undefined) active.add(life * AXES + (slot % AXES));
  }
  for (const life of changed) for (let axis = 0; axis < AXES; axis++) active.add(life * AXES + axis);
}

/** Whether two plans have the same voices in the same places. */
function sameLaidOut(oldPlan: Plan, plan: Plan): boolean {
  const sameMappings = oldPlan.voices.length === plan.voices.length && plan.voices.every(({ rig, output }, v) => rig === oldPlan.voices[v]!.rig && output === oldPlan.voices[v]!.output);
  const samePools = oldPlan.pools.length === plan.pools.length && plan.pools.every(({ key }, p) => key === oldPlan.pools[p]!.key);
  const sameAlone = oldPlan.outputIds.length === plan.outputIds.length && plan.outputIds.every((id, o) => id === oldPlan.outputIds[o] && plan.aloneOutput[o] === oldPlan.aloneOutput[o]);
  return sameMappings && samePools && sameAlone;
}

/** The voice mapping of the new plan that sent what a channel holds; NONE where it would send something else there now. */
function stillSays(oldPlan: Plan, plan: Plan, by: number, newVoice: (id: string, expected: number) => number, axis: number): number {
  const before = oldPlan.voices[by];
  const now = before ? newVoice(before.rig.id, by) : NONE;
  const after = plan.voices[now];
  return before && after && JSON.stringify(before.axes[axis]?.message) === JSON.stringify(after.axes[axis]?.message) ? now : NONE;
}

function axisOf({ rig }: Plan['voices'][number], axis: number): string {
  return JSON.stringify([rig.pressure, rig.slide, rig.pitch.smoothing][axis] ?? null);
}
