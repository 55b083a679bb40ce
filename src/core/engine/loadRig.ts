import type { RigDocument } from '../rig/document';
import type { ActiveSet } from './activeSet';
import { deriveAnew, sayPresent } from './drive';
import { carryOver, type CarriedOver } from './memory';
import type { SoundingNote } from './noteBook';
import { SCENE } from './pass';
import { placesBy } from './places';
import { compile, type Plan } from './plan';
import { NONE } from './planMapping';
import type { Running, Ways } from './running';
import { lookAtDerivedTriggers, saysTheSame } from './scenes';
import { liftPedal, mergeAgain } from './send';
import { SLOT, SLOTS } from './slots';
import { carryVoices } from './voices/memory';
import { liftOtherAxes, liftPedals } from './voices/pedals';
import { endLives, sayAxesAgain } from './voices/play';
import { retune } from './voices/retune';

/**
 * Goes on with another document. What did not change keeps its state; a note whose mapping went, was switched off or
 * was given another address is ended; a changed mapping sends its present value.
 */
export function loadRig(r: Running, rig: RigDocument, seed: number, waysOf: (plan: Plan) => Ways): true {
  const { plan: oldPlan, memory: old, writer: oldWriter, notes, active: oldActive } = r;
  const plan = compile(rig, seed, oldPlan);
  const carried = carryOver(old, oldPlan, plan);
  r.ensemble.leave(plan);
  const { voices, ends, leaves, anew: otherAxes } = carryVoices(old.voices, oldPlan, plan);
  endLives(r, ends);
  for (const v of leaves) liftPedals(r, v);
  liftOtherAxes(r, plan);
  const places = oldPlan.outputIds.map((id) => plan.outputIds.indexOf(id));
  liftPedalsOf(r, carried, plan);
  const sameKeys = endNotesOf(r, carried, places, plan);
  const sounding: SoundingNote[] = [];
  if (!sameKeys) notes.each((note) => sounding.push({ ...note, output: places[note.output]!, owner: note.owner >= 0 ? carried.noteKeeper[note.owner]! : note.owner }));

  Object.assign(r, waysOf(plan), { plan, memory: { ...carried.memory, voices } });
  r.writer.carry(plan, oldWriter, oldPlan, places);
  if (sameKeys) r.notes = notes;
  else for (const note of sounding) r.notes.adopt(note);
  carryActive(r, oldActive, oldPlan);
  sayAxesAgain(r, otherAxes);
  retune(r, oldPlan);
  r.transport.rigChanged(oldPlan.rig.tempoBpm);
  r.ensemble.carry(old.ensemble, oldPlan);
  // What was due is found again by the next tick.
  r.due[0] = r.nowMs;
  const driven = deriveAnew(r, carried.derived);
  const anew = new Set(carried.comeOn);
  const regated = new Set([...carried.regated, ...driven.filter((m) => plan.mappings[m]!.gated)]);
  for (const m of new Set([...carried.changed, ...anew, ...regated, ...driven])) sayPresent(r, m, anew.has(m) ? 'comeOn' : regated.has(m) ? 'edit' : 'again');
  for (const m of [...carried.changed, ...carried.bereft]) mergeAgain(r, m);
  lookAtDerivedTriggers(r);
  return true;
}

/**
 * Ticks look at all that was played, and first of all go on with what they were at in its order: of two that move on one address at one
 * time, the one that spoke last still does.
 */
function carryActive({ plan, memory, active }: Running, before: ActiveSet, oldPlan: Plan): void {
  const placeOf = placesBy(plan.mappings, ({ rig }) => rig.id);
  const played = (m: number) => memory.on[m]! > 0 && wasPlayed(memory.state, m * SLOTS);
  for (let i = 0; i < before.size; i++) {
    const m = placeOf(oldPlan.mappings[before.at(i)]!.rig.id, before.at(i));
    if (m !== NONE && played(m)) active.add(m);
  }
  for (let m = 0; m < plan.mappings.length; m++) if (played(m)) active.add(m);
}

/** Whether samples moved it, or what it was shown with still goes on. */
const wasPlayed = (state: Float64Array, at: number): boolean => [SLOT.filtered, SLOT.offMs, SLOT.repeatMs].some((slot) => !Number.isNaN(state[at + slot]!));

/** Lifts the pedals of addresses that nothing plays any more in another plan. */
function liftPedalsOf(r: Running, { memory: { on } }: CarriedOver, plan: Plan): void {
  const isPlayed = (key: string) => plan.addresses.some((other) => other.key === key && other.mappings.some((m) => on[m]));
  r.plan.addresses.forEach(({ key }, address) => liftPedal(r, address, () => isPlayed(key)));
}

/**
 * Ends the notes that another plan does not keep. True where those that stay have the same numbers there, so that the book
 * can go on as it is.
 */
function endNotesOf({ notes, memory, plan: oldPlan }: Running, { noteKeeper }: CarriedOver, places: readonly number[], plan: Plan): boolean {
  if (!saysTheSame(memory.scene, oldPlan.rig, plan.rig)) notes.endAll(SCENE);
  for (let m = 0; m < noteKeeper.length; m++) if (noteKeeper[m] === NONE && notes.soundingOf(m) >= 0) notes.endAll(m);
  const sameOutputs = places.length === plan.outputIds.length && places.every((place, o) => place === o);
  if (!sameOutputs) {
    notes.each(({ output, channel, note }) => {
      if (places[output]! < 0) notes.endKey(output, channel, note);
    });
  }
  return sameOutputs && noteKeeper.length === plan.mappings.length && noteKeeper.every((keeper, m) => keeper === NONE || keeper === m);
}
