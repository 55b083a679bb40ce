import { STATUS } from '../../midi/message';
import type { Running } from '../running';
import { KEEP, VOICE_BASE } from '../sink';
import { wayOf } from './choose';
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
