import { holdsNotes } from '../../midi/controllers';
import { STATUS } from '../../midi/message';
import { placesBy } from '../places';
import type { Plan } from '../plan';
import type { Running } from '../running';
import { KEEP, VOICE_BASE } from '../sink';
import { wayOf } from './choose';
import { AXES } from './planVoices';
import { isOsc, sayOscPedal } from './sayOsc';

const MOST = 127;

/** A pedal of a stream: to the manager of a zone, or to every channel of a run. @param value 0 to 127 */
export function takePedal(r: Running, stream: number, controller: number, value: number): boolean {
  const plays = r.plan.plays[stream];
  for (const v of plays ?? []) if (r.memory.voices.on[v]) pedal(r, v, controller, value);
  return plays !== undefined;
}

export function liftPedals(r: Running, v: number): void {
  const planned = r.plan.voices[v]!;
  for (const { pool } of [planned.together, planned.alone]) {
    for (const [controller, value] of r.memory.voices.pools[pool]!.pedals) if (value > 0) sendPedal(r, v, pool, controller, 0);
  }
  for (let axis = 0; axis < AXES; axis++) liftAxis(r, v, axis);
}

/** Before another plan comes into force: pedals that an axis plays, and will not any more, are lifted. */
export function liftOtherAxes(r: Running, plan: Plan): void {
  const placeOf = placesBy(plan.voices, ({ rig }) => rig.id);
  r.plan.voices.forEach((before, v) => {
    const after = plan.voices[placeOf(before.rig.id, v)];
    if (after?.rig === before.rig) return;
    for (let axis = 0; axis < AXES; axis++) if (JSON.stringify(after?.axes[axis]?.message) !== JSON.stringify(before.axes[axis]?.message)) liftAxis(r, v, axis);
  });
}

/** Where an axis of voices plays a pedal that holds notes, what rings on under it would do so for ever. */
function liftAxis({ memory: { voices }, plan, writer }: Running, v: number, axis: number): void {
  const { axes, output, together, alone } = plan.voices[v]!;
  const message = axes[axis]?.message;
  if (message?.kind !== 'controlChange' || !holdsNotes(message.controller)) return;
  for (const { pool } of [together, alone]) {
    const { channels, firstValue } = plan.pools[pool]!;
    const { sent, by } = voices.pools[pool]!;
    channels.forEach((channel, place) => {
      const at = place * AXES + axis;
      if (by[at] !== v || !(sent[at]! > 0)) return;
      sent[at] = 0;
      writer.voice(output, VOICE_BASE + v, STATUS.controlChange | (channel - 1), message.controller, 0, plan.addresses.length + firstValue + at);
    });
  }
}

function pedal(r: Running, v: number, controller: number, value: number): void {
  sendPedal(r, v, wayOf(r, r.plan.voices[v]!).pool, controller, value);
}

function sendPedal(r: Running, v: number, pool: number, controller: number, value: number): void {
  const { memory: { voices }, plan, writer } = r;
  const { pedals } = voices.pools[pool]!;
  // Several voice mappings of one stream may share a pool.
  if (pedals.get(controller) === value) return;
  pedals.set(controller, value);
  if (isOsc(plan.voices[v]!)) return sayOscPedal(r, v, controller, value / MOST);
  for (const channel of plan.pools[pool]!.pedals) {
    writer.three(STATUS.controlChange | (channel - 1), controller, value);
    writer.sendVoice(plan.voices[v]!.output, VOICE_BASE + v, KEEP);
  }
}
