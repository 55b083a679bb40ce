import { BEND_CENTRE, STATUS } from '../../midi/message';
import { rangeOut } from '../../shaping/rangeOut';
import { clamp } from '../../units/unitInterval';
import { NONE } from '../planMapping';
import type { Running } from '../running';
import { KEEP, VOICE_BASE } from '../sink';
import { MOVING_STEPS, STILL_STEPS } from '../writer';
import { OSC_PARTS } from '../../voices/oscVoices';
import { AT, LIVES, lifeAt, UNKNOWN } from './memory';
import { AXES, AXIS, type PlannedAxis, type PlannedVoiceMapping } from './planVoices';
import { isOsc, sayOsc } from './sayOsc';

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
  const at = place * AXES + AXIS.pitch;
  const address = how === 'first' ? KEEP : plan.addresses.length + firstValue + at;
  if (isOsc(planned)) {
    const pitch = voices.at[lifeAt(life) + AT.sounds]!;
    // Its beginning says it already.
    if (how !== 'first' && pitch !== state.sent[at]) sayOsc(r, voiceMappingOf(life), OSC_PARTS.pitch, channels[place]!, pitch, address);
    state.sent[at] = pitch;
    return;
  }
  const value = bendOf(voices.at[lifeAt(life) + AT.sounds]! - voices.note[life]!, planned.bendRangeSemitones);
  if (value === state.sent[at] && !(how === 'first' && spread)) return;
  state.sent[at] = value;
  writer.voice(planned.output, VOICE_BASE + voiceMappingOf(life), STATUS.pitchBend | (channels[place]! - 1), value & 0x7f, value >> 7, address);
}

/**
 * One axis of a life that sounds, at this level. Returns whether the value waits for the axis to stand still, as values of
 * 7 bits do (engine.md, Settled: hysteresis).
 */
export function writeAxis(r: Running, life: number, planned: PlannedVoiceMapping, axis: number, { shape, message, kind }: PlannedAxis, level: number, how: Saying): boolean {
  const { memory: { voices }, plan, writer } = r;
  const pool = voices.pool[life]!;
  const { spread, channels, firstValue } = plan.pools[pool]!;
  const state = voices.pools[pool]!;
  const ofOwn = spread || kind.of !== 'channel';
  const place = ofOwn ? voices.place[life]! : 0;
  if (!ofOwn && !isNewest(r, life)) return false;
  const exact = rangeOut(level, shape.outLo, shape.outHi);
  const v = voiceMappingOf(life);
  const at = place * AXES + axis;
  const address = how === 'first' ? KEEP : plan.addresses.length + firstValue + at;
  const held = (how === 'first' && ofOwn) || state.by[at] !== v ? UNKNOWN : state.sent[at]!;
  if (message.kind === 'osc') {
    if (exact === held) return false;
    state.sent[at] = exact;
    state.by[at] = v;
    sayOsc(r, v, message.part, channels[place]!, exact, address);
    return false;
  }
  const limited = clamp(exact, 0, shape.most);
  const value = Math.round(limited);
  if (value === held) return false;
  if (shape.most === 127 && held !== UNKNOWN && exact !== shape.outLo && exact !== shape.outHi) {
    const away = Math.abs(limited - held);
    if (away < (how === 'still' ? STILL_STEPS : MOVING_STEPS)) return away > STILL_STEPS;
  }
  state.sent[at] = value;
  state.by[at] = v;
  const channel = channels[place]! - 1;
  if (message.kind === 'controlChange') {
    writer.voice(planned.output, VOICE_BASE + v, STATUS.controlChange | channel, message.controller, value, address);
    return false;
  }
  if (message.kind === 'channelPressure') {
    writer.voice(planned.output, VOICE_BASE + v, STATUS.channelPressure | channel, value, NONE, address);
    return false;
  }
  kind.write(message, writer, channel, voices.note[life]!, value, held);
  writer.sendVoice(planned.output, VOICE_BASE + v, address);
  return false;
}

/** Of several voices on one channel the newest says what belongs to the channel. */
export function isNewest({ memory: { voices } }: Running, life: number): boolean {
  const began = voices.at[lifeAt(life) + AT.began]!;
  const { busy } = voices.pools[voices.pool[life]!]!;
  for (let place = 0; place < busy.length; place++) {
    const other = busy[place]!;
    if (other >= 0 && voices.at[lifeAt(other) + AT.began]! > began) return false;
  }
  return true;
}
