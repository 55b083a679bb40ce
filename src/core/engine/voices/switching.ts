import { NONE } from '../planMapping';
import type { Running } from '../running';
import { LIFE, UNKNOWN } from './memory';
import { liftPedals } from './pedals';
import { endVoices } from './play';
import { AXES } from './planVoices';
import { isOsc } from './sayOsc';

/** A stream went: its voices end, and its pedals are let go of. */
export function endStream(r: Running, stream: number): boolean {
  const plays = r.plan.plays[stream];
  for (const v of plays ?? []) {
    endVoices(r, v);
    liftPedals(r, v);
  }
  return plays !== undefined;
}

/** Voice mappings of an output play one voice alone from now on, or all together again; what sounds ends. */
export function setAlone(r: Running, output: number, alone: boolean): void {
  const { voices } = r.memory;
  if (Boolean(voices.alone[output]) === alone) return;
  r.plan.voices.forEach((planned, v) => {
    if (planned.output !== output) return;
    endVoices(r, v);
    liftPedals(r, v);
  });
  voices.alone[output] = Number(alone);
}

/** Switches a voice mapping on or off while playing. A voice that is held when it comes on counts as not begun. */
export function switchVoices(r: Running, v: number, on: boolean): void {
  const { voices } = r.memory;
  if (Boolean(voices.on[v]) === on) return;
  if (!on) {
    endVoices(r, v);
    liftPedals(r, v);
  }
  voices.on[v] = Number(on);
  r.movedVoices.add(v);
}

/** As if nothing had been said on any channel: the next tick says where every voice stands that sounds. */
export function forgetSaid({ memory: { voices } }: Running): void {
  for (const { sent } of voices.pools) sent.fill(UNKNOWN);
  for (let life = 0; life < voices.life.length; life++) {
    if (voices.life[life] === LIFE.sounding) for (let axis = 0; axis < AXES; axis++) voices.active.add(life * AXES + axis);
  }
}

/** Everything was silenced: what is held says nothing until it begins again, and nothing is known of any channel. */
export function forgetVoices(r: Running): void {
  const { memory: { voices }, plan } = r;
  // What sounds as notes has been ended, and pedals of channels were let go of by whoever silenced them; neither is so of OSC.
  plan.voices.forEach((planned, v) => {
    if (!isOsc(planned)) return;
    endVoices(r, v);
    liftPedals(r, v);
  });
  voices.life.fill(LIFE.free);
  for (const { busy, sent, pedals } of voices.pools) {
    busy.fill(NONE);
    sent.fill(UNKNOWN);
    pedals.clear();
  }
}
