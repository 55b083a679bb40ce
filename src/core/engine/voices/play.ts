import { clamp } from '../../units/unitInterval';
import type { VoiceEvent } from '../../voices/event';
import { pullAtRelease } from '../../voices/pull';
import { nearestPitch } from '../../voices/scale';
import { RELEASE_VELOCITY } from '../noteBook';
import { NONE } from '../planMapping';
import type { Running } from '../running';
import { rangeOut } from '../../shaping/rangeOut';
import { freshAxes, shapedOnce, stepAxis, stepPitch } from './axes';
import { chooseLife, choosePlace, wayOf } from './choose';
import { AT, LIFE, LIVES, lifeAt, ownerOf } from './memory';
import { AXES, AXIS, UNSAID, type PlannedAxis, type PlannedVoiceMapping, type PlannedWay } from './planVoices';
import { isOsc, sayOscOff, sayOscOn } from './sayOsc';
import { isNewest, voiceMappingOf, writeBend } from './write';

const MOST = 127;
const ALL_AXES = [AXIS.pitch, AXIS.slide, AXIS.pressure];

/**
 * A voice of a stream begins, moves or ends, in every voice mapping of the stream. One that begins again ends first; what is said
 * of one that did not begin, or ended, says nothing. False where there is no such stream, or a beginning has no pitch.
 */
export function takeVoice(r: Running, event: VoiceEvent): boolean {
  const plays = r.plan.plays[event.stream];
  if (!plays || (event.kind === 'on' && !Number.isFinite(event.pitch))) return false;
  for (let i = 0; i < plays.length; i++) {
    const v = plays[i]!;
    const life = findLife(r, v, event.voice);
    if (event.kind === 'move') {
      if (life !== NONE) move(r, life, r.plan.voices[v]!, event);
    } else {
      if (life !== NONE) end(r, life, event.release);
      if (event.kind === 'on') begin(r, v, event);
    }
  }
  return true;
}

function findLife(r: Running, v: number, voice: number): number {
  const { life, voice: voices } = r.memory.voices;
  for (let at = v * LIVES; at < (v + 1) * LIVES; at++) if (life[at] !== LIFE.free && voices[at] === voice) return at;
  return NONE;
}

const said = (value: number, unsaid: number) => (Number.isNaN(value) ? unsaid : clamp(value, 0, 1));

function begin(r: Running, v: number, { voice, pitch, strike, pressure, slide }: VoiceEvent): void {
  const { voices } = r.memory;
  const planned = r.plan.voices[v]!;
  const struck = said(strike, UNSAID.strike);
  if (!voices.on[v] || pitch < planned.keyLow || pitch >= planned.keyHigh || struck < planned.strikeLow || struck > planned.strikeHigh) return;
  const life = findFree(r, v);
  if (life === NONE) return;
  const here = lifeAt(life);
  voices.life[life] = LIFE.silent;
  voices.voice[life] = voice;
  voices.at[here + AT.pressure] = said(pressure, UNSAID.pressure);
  voices.at[here + AT.slide] = said(slide, UNSAID.slide);
  voices.at[here + AT.pitch] = pitch;
  voices.at[here + AT.strike] = struck;
  voices.at[here + AT.began] = ++voices.count;
  const way = wayOf(r, planned);
  voices.pool[life] = way.pool;
  if (way.layout.kind === 'mono') return settleMono(r, v, way);
  const place = choosePlace(r, way, pitch);
  if (place === NONE) return;
  const busy = voices.pools[way.pool]!.busy[place]!;
  if (busy !== NONE) silence(r, busy, NaN);
  strikeLife(r, life, planned, place, null);
}

function findFree(r: Running, v: number): number {
  const { life } = r.memory.voices;
  for (let at = v * LIVES; at < (v + 1) * LIVES; at++) if (life[at] === LIFE.free) return at;
  return NONE;
}

/** A life begins to sound at a place: what belongs to it is said before its note. `from`: the pitch that it glides from. */
function strikeLife(r: Running, life: number, planned: PlannedVoiceMapping, place: number, from: number | null): void {
  const { memory: { voices }, plan, notes } = r;
  const here = lifeAt(life);
  const pool = voices.pool[life]!;
  freshAxes(r, life);
  voices.at[here + AT.glideFrom] = voices.at[here + AT.added] = 0;
  stepPitch(r, life, planned, true);
  const note = clamp(Math.round(voices.at[here + AT.sounds]!), 0, MOST);
  if (from !== null && from !== voices.at[here + AT.sounds]!) {
    voices.at[here + AT.glideFrom] = from - voices.at[here + AT.sounds]!;
    voices.at[here + AT.glideMs] = r.nowMs;
    voices.at[here + AT.sounds] = from;
    voices.active.add(life * AXES + AXIS.pitch);
  }
  voices.life[life] = LIFE.sounding;
  voices.place[life] = place;
  voices.note[life] = note;
  const { busy } = voices.pools[pool]!;
  const { spread, channels } = plan.pools[pool]!;
  // Another voice of this channel that sounds the same key loses it.
  if (!spread) for (const other of busy) if (other !== NONE && other !== life && voices.note[other] === note) silence(r, other, NaN);
  busy[place] = life;
  writeBend(r, life, planned, 'first');
  sayFirst(r, life, planned, false);
  const { strike } = planned;
  const velocity = rangeOut(shapedOnce(strike, voices.at[here + AT.strike]!, plan.curves), strike.outLo, strike.outHi);
  const v = voiceMappingOf(life);
  if (isOsc(planned)) sayOscOn(r, v, channels[place]!, planned.rig.pitch.bends ? voices.at[here + AT.sounds]! : note, clamp(velocity / MOST, 0, 1));
  else notes.strike(planned.output, ownerOf(voices, plan, v), channels[place]!, note, clamp(Math.round(velocity), 1, MOST), RELEASE_VELOCITY);
  sayFirst(r, life, planned, true);
  r.movedVoices.add(v);
}

/** What belongs to a channel or a key is said before its note, what belongs to a note once that sounds. */
function sayFirst(r: Running, life: number, planned: PlannedVoiceMapping, ofNote: boolean): void {
  for (const axis of [AXIS.slide, AXIS.pressure]) if (afterNote(planned.axes[axis]) === ofNote) stepAxis(r, life, planned, axis, 'first');
}

function afterNote(axis: PlannedAxis | null): boolean {
  const of = axis?.kind.of;
  return of === 'note' || of === 'voice';
}

function move(r: Running, life: number, planned: PlannedVoiceMapping, { pitch, pressure, slide }: VoiceEvent): void {
  const { at, life: lives } = r.memory.voices;
  const here = lifeAt(life);
  const sounds = lives[life] === LIFE.sounding;
  if (Number.isFinite(pitch)) {
    hear(r, life, AXIS.pitch, pitch !== at[here + AT.pitch]);
    at[here + AT.pitch] = pitch;
    if (sounds) {
      stepPitch(r, life, planned, false);
      writeBend(r, life, planned, 'moving');
    }
  }
  if (!Number.isNaN(slide)) sayAxis(r, life, planned, AXIS.slide, slide, sounds);
  if (!Number.isNaN(pressure)) sayAxis(r, life, planned, AXIS.pressure, pressure, sounds);
  r.movedVoices.add(voiceMappingOf(life));
}

function sayAxis(r: Running, life: number, planned: PlannedVoiceMapping, axis: number, value: number, sounds: boolean): void {
  const { at } = r.memory.voices;
  const place = lifeAt(life) + axis;
  const now = clamp(value, 0, 1);
  hear(r, life, axis, now !== at[place]);
  at[place] = now;
  if (sounds) stepAxis(r, life, planned, axis, 'moving');
}

function hear(r: Running, life: number, axis: number, changed: boolean): void {
  r.memory.voices.times.heard(life * AXES + axis, r.nowMs, changed);
}

/** A voice ends. @param release how quickly, NaN where nobody said */
function end(r: Running, life: number, release: number): void {
  const { voices } = r.memory;
  const v = voiceMappingOf(life);
  const planned = r.plan.voices[v]!;
  const pool = voices.pool[life]!;
  const saidForAll = voices.life[life] === LIFE.sounding && !r.plan.pools[pool]!.spread && isNewest(r, life);
  silence(r, life, release);
  voices.life[life] = LIFE.free;
  // What belongs to the channel is said by the one that is the newest now.
  if (saidForAll) for (const other of voices.pools[pool]!.busy) if (other !== NONE && isNewest(r, other)) sayAxesAgain(r, ALL_AXES.map((axis) => ({ life: other, axis })));
  const way = wayOf(r, planned);
  if (way.pool === pool && way.layout.kind === 'mono') settleMono(r, v, way);
}

/** A life is heard no more; it may still be held. */
function silence(r: Running, life: number, release: number): void {
  const { memory: { voices }, plan, notes } = r;
  if (voices.life[life] !== LIFE.sounding) return;
  const v = voiceMappingOf(life);
  const planned = plan.voices[v]!;
  const pool = voices.pool[life]!;
  const place = voices.place[life]!;
  const { pull, pitches } = planned;
  if (pull && pull.atRelease > 0) {
    const here = lifeAt(life);
    const pitch = voices.at[here + AT.sounds]! - voices.at[here + AT.added]!;
    voices.at[here + AT.sounds] = pitch + pullAtRelease(pull, pitch, nearestPitch(pitches, pitch), voices.at[here + AT.added]!);
    writeBend(r, life, planned, 'moving');
  }
  voices.life[life] = LIFE.silent;
  const state = voices.pools[pool]!;
  if (state.busy[place] === life) {
    state.busy[place] = NONE;
    state.freed[place] = ++voices.count;
  }
  const level = planned.release && !Number.isNaN(release) ? rangeOut(shapedOnce(planned.release, release, plan.curves), planned.release.outLo, planned.release.outHi) : RELEASE_VELOCITY;
  const channel = plan.pools[pool]!.channels[place]!;
  if (isOsc(planned)) sayOscOff(r, v, channel, clamp(level / MOST, 0, 1));
  else notes.end(planned.output, ownerOf(voices, plan, v), channel, voices.note[life]!, clamp(Math.round(level), 0, MOST));
  r.movedVoices.add(v);
}

/** Of the voices of a voice mapping that sounds one at a time, the one whose turn it is sounds. */
function settleMono(r: Running, v: number, { layout, pool }: PlannedWay): void {
  if (layout.kind !== 'mono') return;
  const { voices } = r.memory;
  const planned = r.plan.voices[v]!;
  const best = chooseLife(voices, v, layout.priority);
  const now = voices.pools[pool]!.busy[0]!;
  if (best === now || best === NONE) return;
  const from = now === NONE || layout.glideMs === 0 ? null : voices.at[lifeAt(now) + AT.sounds]!;
  if (now === NONE) return strikeLife(r, best, planned, 0, null);
  if (!layout.legato) {
    silence(r, now, NaN);
    return strikeLife(r, best, planned, 0, from);
  }
  strikeLife(r, best, planned, 0, from);
  // Where it had the same key it has lost it by now.
  silence(r, now, NaN);
}

/** Ends all voices of a voice mapping; those that are held say nothing until they begin again. */
export function endVoices(r: Running, v: number): void {
  const { voices } = r.memory;
  for (let life = v * LIVES; life < (v + 1) * LIVES; life++) {
    silence(r, life, NaN);
    voices.life[life] = LIFE.free;
  }
}

/** Ends lives that do not go on with another plan. */
export function endLives(r: Running, lives: readonly number[]): void {
  for (const life of lives) silence(r, life, NaN);
}

/** Says what axes of voices that sound stand at, which an edit shapes or sends otherwise. */
export function sayAxesAgain(r: Running, axes: readonly { life: number; axis: number }[]): void {
  for (const { life, axis } of axes) {
    if (r.memory.voices.life[life] !== LIFE.sounding) continue;
    const planned = r.plan.voices[voiceMappingOf(life)]!;
    if (axis !== AXIS.pitch) stepAxis(r, life, planned, axis, 'moving');
    else {
      stepPitch(r, life, planned, false);
      writeBend(r, life, planned, 'moving');
    }
  }
}
