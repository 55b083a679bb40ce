import { NOTHING } from '../messages/kind';
import { holdsNotes } from '../midi/controllers';
import { STATUS } from '../midi/message';
import { merged } from './merge';
import { NONE, type PlannedMapping } from './planMapping';
import { sendRelative } from './relative';
import { exactOf } from './rest';
import { keepActive, type Running } from './running';
import { hasArrived } from './shape';
import { BY_PANIC } from './sink';
import { SLOT, SLOTS } from './slots';
import { channelOf } from '../messages';
import { WAITS } from './writer';
import { forgetVoices } from './voices/switching';

/** Sends the level that stands in `SLOT.level`, where it makes a difference. */
export function send(r: Running, m: number, mapping: PlannedMapping, at: number): void {
  const { memory, writer } = r;
  const { state } = memory;
  const level = state[at + SLOT.level]!;
  memory.levels[m] = level;
  r.movedMappings.add(m);
  if (mapping.relative) return sendRelative(mapping, m, state, at, mapping.fine !== NONE && memory.values[mapping.fine]! > 0, !r.saysAnyway, writer);
  const exact = exactOf(mapping, level);
  const before = state[at + SLOT.exact]!;
  state[at + SLOT.exact] = exact;
  if (mapping.follows !== NONE) return wait(r, m, at, sendPressure(r, m, mapping, exact, false));
  if (r.plan.isMerged[mapping.address] === 0) {
    // What did not change is no newer value, and does not take the address back from another mapping.
    if (exact === before && !r.saysAnyway) {
      if (state[at + SLOT.waits]! > 0) settleValue(r, m, mapping, at);
      return;
    }
    memory.speakers[mapping.address] = m;
    wait(r, m, at, writer.value(mapping, m, exact, false));
  } else wait(r, m, at, writer.value(mapping, m, merged(r.plan.addresses[mapping.address]!, state, memory.on), false));
}

/** A rounded value that waited is sent once its signal stands still. True while it still waits. */
export function settleValue(r: Running, m: number, mapping: PlannedMapping, at: number): boolean {
  const { memory, plan, nowMs } = r;
  const { state, times } = memory;
  if (state[at + SLOT.waits] === 0) return false;
  if (!times.standsStill(mapping.signal, nowMs) || (mapping.pair !== NONE && !times.standsStill(mapping.pair, nowMs)) || !hasArrived(state, at)) return true;
  state[at + SLOT.waits] = 0;
  const exact = state[at + SLOT.exact]!;
  if (mapping.follows !== NONE) sendPressure(r, m, mapping, exact, true);
  else {
    const address = plan.addresses[mapping.address]!;
    if (address.merge !== 'latest') r.writer.value(mapping, m, merged(address, state, memory.on), true);
    else if (memory.speakers[mapping.address] === m) r.writer.value(mapping, m, exact, true);
  }
  return false;
}

/** The mappings that share this one's address are others now, or count differently; it may be alone on it. */
export function mergeAgain(r: Running, m: number): void {
  const { plan, memory } = r;
  const mapping = plan.mappings[m]!;
  const address = plan.addresses[mapping.address];
  if (!address || mapping.follows !== NONE || (address.merge === 'latest' && address.mappings.length > 1)) return;
  const speaker = address.mappings.find((other) => memory.on[other] && !Number.isNaN(memory.state[other * SLOTS + SLOT.exact]!));
  if (speaker === undefined) return;
  if (address.merge === 'latest') memory.speakers[mapping.address] = speaker;
  wait(r, speaker, speaker * SLOTS, r.writer.value(plan.mappings[speaker]!, speaker, merged(address, memory.state, memory.on), false));
}

/**
 * Note offs for what sounds, then on every channel that a mapping uses or anything was sent on: sustain off, all sound off,
 * all notes off, bend centred (engine.md, note hygiene).
 */
export function silenceAll(r: Running): void {
  const { plan, notes, player, memory, writer } = r;
  plan.mappings.forEach((mapping, m) => {
    player.silence(m);
    // What a press made of a note is over with it; the key counts as pressed until it is let go.
    if (mapping.gateMessage) memory.state[m * SLOTS + SLOT.held] = 0;
  });
  notes.each(({ output, channel, note }) => notes.endKey(output, channel, note));
  forgetVoices(r);
  const channels = Uint16Array.from(writer.used);
  for (const { output, rig } of plan.mappings) if (channelOf(rig.message) > 0) channels[output]! |= 1 << (channelOf(rig.message) - 1);
  channels.forEach((used, output) => {
    for (let channel = 0; channel < 16; channel++) {
      if (!(used & (1 << channel)) || !plan.midiOutput[output]) continue;
      for (const controller of [64, 120, 123]) writer.raw(output, [STATUS.controlChange | channel, controller, 0], BY_PANIC);
      writer.raw(output, [STATUS.pitchBend | channel, 0, 64], BY_PANIC);
    }
  });
}

/** The pressure of what another mapping sounds, of each note of its chord. True where it waits for its signal to stand still. */
function sendPressure({ notes, plan, writer }: Running, m: number, mapping: PlannedMapping, exact: number, still: boolean): boolean {
  const { follows } = mapping;
  const struck = notes.soundingOf(follows);
  if (struck < 0) return false;
  const value = writer.newPressure(mapping, struck, exact, still);
  if (value < 0) return value === WAITS;
  const { output, rig } = plan.mappings[follows]!;
  const channel = channelOf(rig.message);
  for (let note = notes.nextOf(follows, output, channel); note >= 0; note = notes.nextOf(follows, output, channel, note)) writer.pressure(mapping, m, note, value);
  return false;
}

/**
 * Where the mappings of an address are off or gone, a pedal that was held there is lifted, or what sounds under it would go on for ever
 * (sustain, sostenuto, hold 2). Any other value stays where it is.
 * @param stays whether one of them is still there; asked of pedals that are held alone
 */
export function liftPedal({ plan, writer }: Running, address: number, stays: (mappings: readonly number[]) => boolean): void {
  const { mappings } = plan.addresses[address] ?? { mappings: [] };
  const [m] = mappings;
  if (m === undefined || !(writer.sent[address]! > 0)) return;
  const mapping = plan.mappings[m]!;
  const { message } = mapping.rig;
  if (message.kind === 'controlChange' && holdsNotes(message.controller) && !stays(mappings)) writer.value(mapping, m, 0, true);
}

/** A mapping has struck anew: whatever presses its notes says so again, for they know of no pressure yet. Where none was ever said, none is no news. */
export function pressStruck(r: Running, m: number): void {
  const { memory, plan, writer } = r;
  for (const follower of plan.pressures.get(m) ?? []) {
    const mapping = plan.mappings[follower]!;
    const exact = memory.state[follower * SLOTS + SLOT.exact]!;
    if (!memory.on[follower] || Number.isNaN(exact) || (Math.round(exact) === 0 && writer.sent[mapping.address] === NOTHING)) continue;
    writer.sent[mapping.address] = NOTHING;
    sendPressure(r, follower, mapping, exact, true);
  }
}

function wait(r: Running, m: number, at: number, waits: boolean): void {
  r.memory.state[at + SLOT.waits] = Number(waits);
  if (!waits) return;
  keepActive(r, m);
  // While samples come ticks leave a smoothed value to them; where they are equal and it has arrived, it may be said now.
  settleValue(r, m, r.plan.mappings[m]!, at);
}
