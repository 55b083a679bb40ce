import { BEND_CENTRE, STATUS } from '../../midi/message';
import { rangeOut } from '../../shaping/rangeOut';
import { clamp } from '../../units/unitInterval';
import { kindOfAxis } from '../../voices/axisMessages';
import type { Running } from '../running';
import { KEEP, VOICE_BASE } from '../sink';
import { MOVING_STEPS, STILL_STEPS } from '../writer';
import { AT, LIVES, lifeAt, UNKNOWN } from './memory';
import { AXES, AXIS, type PlannedAxis, type PlannedVoiceMapping } from './planVoices';

const BEND_MOST = 16383;

/** `first`: before the note of a voice; `still`: it does not move any more. */
export type Saying = 'first' | 'moving' | 'still';

export const voiceMappingOf = (life: number) => Math.floor(life / LIVES);

/** The nearest step of a bend to so many semitones; what is further than the range stops at its end. */
export function bendOf(semitones: number, rangeSemitones: number): number {
  return rangeSemitones > 0 ? Math.round(clamp(BEND_CENTRE + (BEND_CENTRE * semitones) / rangeSemitones, 0, BEND_MOST)) : BEND_CENTRE;
}

/** The bend of a life that sounds. */
export function writeBend(r: Running, life: number, planned: PlannedVoiceMapping, how: Saying): void {
  const { memory: { voices }, plan, writer } = r;
  if (!planned.rig.pitch.bends) return;
  const pool = voices.pool[life]!;
  const { spread, channels, firstValue } = plan.pools[pool]!;
  const state = voices.pools[pool]!;
  const place = spread ? voices.place[life]! : 0;
  if (!spread && !isNewest(r, life)) return;
  const value = bendOf(voices.at[lifeAt(life) + AT.sounds]! - voices.note[life]!, planned.bendRangeSemitones);
  const at = place * AXES + AXIS.pitch;
  if (value === state.sent[at] && !(how === 'first' && spread)) return;
  state.sent[at] = value;
  writer.three(STATUS.pitchBend | (channels[place]! - 1), value & 0x7f, value >> 7);
  writer.sendVoice(planned.output, VOICE_BASE + voiceMappingOf(life), how === 'first' ? KEEP : plan.addresses.length + firstValue + at);
}

/**
 * One axis of a life that sounds, at this level. Returns whether the value waits for the axis to stand still, as values of
 * 7 bits do (engine.md, Settled: hysteresis).
 */
export function writeAxis(r: Running, life: number, planned: PlannedVoiceMapping, axis: number, { shape, message }: PlannedAxis, level: number, how: Saying): boolean {
  const { memory: { voices }, plan, writer } = r;
  const pool = voices.pool[life]!;
  const { spread, channels, firstValue } = plan.pools[pool]!;
  const state = voices.pools[pool]!;
  const ofNote = message.kind === 'polyPressure';
  const place = spread || ofNote ? voices.place[life]! : 0;
  if (!spread && !ofNote && !isNewest(r, life)) return false;
  const exact = rangeOut(level, shape.outLo, shape.outHi);
  const limited = clamp(exact, 0, shape.most);
  const value = Math.round(limited);
  const v = voiceMappingOf(life);
  const at = place * AXES + axis;
  const mustSay = how === 'first' && (spread || ofNote);
  const held = !mustSay && state.by[at] === v ? state.sent[at]! : UNKNOWN;
  if (value === held) return false;
  if (shape.most === 127 && held !== UNKNOWN && exact !== shape.outLo && exact !== shape.outHi) {
    const away = Math.abs(limited - held);
    if (away < (how === 'still' ? STILL_STEPS : MOVING_STEPS)) return away > STILL_STEPS;
  }
  state.sent[at] = value;
  state.by[at] = v;
  kindOfAxis(message).write(message, writer, channels[place]! - 1, voices.note[life]!, value, held);
  writer.sendVoice(planned.output, VOICE_BASE + v, how === 'first' ? KEEP : plan.addresses.length + firstValue + at);
  return false;
}

/** Of several voices on one channel the newest says what belongs to the channel. */
function isNewest({ memory: { voices } }: Running, life: number): boolean {
  const began = voices.at[lifeAt(life) + AT.began]!;
  const { busy } = voices.pools[voices.pool[life]!]!;
  for (let place = 0; place < busy.length; place++) {
    const other = busy[place]!;
    if (other >= 0 && voices.at[lifeAt(other) + AT.began]! > began) return false;
  }
  return true;
}
