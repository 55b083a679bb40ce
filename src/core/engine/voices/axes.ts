import { clampUnit } from '../../units/unitInterval';
import { nearestPitch } from '../../voices/scale';
import { pullAtStart, pullHeld, pullTarget } from '../../voices/pull';
import type { PlannedMapping } from '../planMapping';
import { SMOOTH } from '../planShaping';
import type { Running } from '../running';
import { enter, hasArrived, leave, smoothOn, smoothSample } from '../shape';
import { freshState, SLOT } from '../slots';
import { wayOf } from './choose';
import { AT, axisAt, LIFE, lifeAt } from './memory';
import { AXES, AXIS, PITCH_SPAN, type PlannedVoiceMapping } from './planVoices';
import { voiceMappingOf, writeAxis, writeBend, type Saying } from './write';

/** A pull this near to where it is heading has arrived: a hundredth of a cent. */
const ARRIVED_SEMITONES = 1e-4;
/** Used again for every step: what the shaping reads as the value of its signal. */
const raw = new Float64Array(1);
const once = freshState(1);
const fresh = freshState(1);

/** The level that one value has after all of its shaping, where it stands alone: how hard a voice was struck. */
export function shapedOnce(shape: PlannedMapping, value: number, curves: Float64Array): number {
  once.set(fresh);
  raw[0] = clampUnit(value);
  enter(shape, once, 0, raw);
  once[SLOT.filtered] = once[SLOT.entered]!;
  leave(shape, once, 0, curves);
  return once[SLOT.level]!;
}

/** Forgets what the axes of a life before this one were doing. */
export function freshAxes(r: Running, life: number): void {
  const { axes, times } = r.memory.voices;
  for (let axis = 0; axis < AXES; axis++) {
    axes.set(fresh, axisAt(life, axis));
    times.heard(life * AXES + axis, r.nowMs, true);
  }
}

/** Pressure or slide of a life was said: through its shaping to its message. */
export function stepAxis(r: Running, life: number, planned: PlannedVoiceMapping, axis: number, how: Saying): void {
  const of = planned.axes[axis];
  if (!of) return;
  const { axes, at, active } = r.memory.voices;
  const place = axisAt(life, axis);
  step(r, of.shape, life, axis, at[lifeAt(life) + axis]!);
  leave(of.shape, axes, place, r.plan.curves);
  if (writeAxis(r, life, planned, axis, of, axes[place + SLOT.level]!, how) || of.shape.settles) active.add(life * AXES + axis);
}

/** From what was said to the smoothed level, in the memory of the axis. */
function step(r: Running, shape: PlannedMapping, life: number, axis: number, value: number): void {
  const { axes, times } = r.memory.voices;
  const place = axisAt(life, axis);
  raw[0] = value;
  axes[place + SLOT.nowMs] = r.nowMs;
  if (shape.settles) axes[place + SLOT.stillMs] = times.stillUntilMs(life * AXES + axis);
  enter(shape, axes, place, raw);
  if (shape.smooth === SMOOTH.none) axes[place + SLOT.filtered] = axes[place + SLOT.entered]!;
  else smoothSample(shape, axes, place);
  axes[place + SLOT.target] = axes[place + SLOT.entered]!;
  axes[place + SLOT.sampleMs] = r.nowMs;
}

/** On a tick: an axis whose smoothing has not arrived, or whose value waits. False where nothing is left to do. */
function carryAxisOn(r: Running, life: number, planned: PlannedVoiceMapping, axis: number): boolean {
  const of = planned.axes[axis];
  if (!of) return false;
  const { shape } = of;
  const { axes, at, times } = r.memory.voices;
  const place = axisAt(life, axis);
  const slot = life * AXES + axis;
  axes[place + SLOT.nowMs] = r.nowMs;
  if (!times.isSilent(slot, axes[place + SLOT.sampleMs]!, r.nowMs)) return true;
  let busy = false;
  if (shape.median > 0 || shape.jumpPerS > 0) {
    // What has come to rest says its value again, so that de-glitching lets it through.
    raw[0] = at[lifeAt(life) + axis]!;
    for (let i = 0; i < Math.max(1, shape.median); i++) enter(shape, axes, place, raw);
    axes[place + SLOT.target] = axes[place + SLOT.entered]!;
    if (shape.smooth === SMOOTH.none) axes[place + SLOT.filtered] = axes[place + SLOT.entered]!;
    busy = shape.jumpPerS > 0 && !Number.isNaN(axes[place + SLOT.jump + 2]!);
  }
  if (shape.smooth !== SMOOTH.none && !smoothOn(shape, axes, place)) busy = true;
  leave(shape, axes, place, r.plan.curves);
  const still = times.standsStill(slot, r.nowMs) && hasArrived(axes, place);
  return writeAxis(r, life, planned, axis, of, axes[place + SLOT.level]!, still ? 'still' : 'moving') || busy;
}

/** The pitch of a life was said, or it begins: the pitch that leaves stands in `AT.sounds` afterwards. */
export function stepPitch(r: Running, life: number, planned: PlannedVoiceMapping, begins: boolean): void {
  const { at, axes, active } = r.memory.voices;
  const here = lifeAt(life);
  let pitch = at[here + AT.pitch]!;
  if (planned.pitch) {
    step(r, planned.pitch, life, AXIS.pitch, pitch);
    pitch = axes[axisAt(life, AXIS.pitch) + SLOT.filtered]! * PITCH_SPAN;
    active.add(life * AXES + AXIS.pitch);
  }
  settlePitch(r, life, planned, pitch + planned.rig.pitch.transpose, begins);
}

/** Pull and glide on top of a pitch. */
function settlePitch(r: Running, life: number, planned: PlannedVoiceMapping, pitch: number, begins: boolean): void {
  const { at, active, times } = r.memory.voices;
  const { pull, pitches } = planned;
  const here = lifeAt(life);
  if (pull) {
    // What rested before this sample has arrived, and no tick said so.
    const sinceMs = Math.max(at[here + AT.pulledMs]!, times.stillUntilMs(life * AXES + AXIS.pitch));
    const degree = nearestPitch(pitches, pitch);
    if (begins) at[here + AT.added] = at[here + AT.addedFirst] = pullAtStart(pull, pitch, degree);
    const heading = pullTarget(pull, pitch, degree, at[here + AT.added]!, at[here + AT.addedFirst]!);
    if (!begins) at[here + AT.added] = pullHeld(pull, at[here + AT.added]!, at[here + AT.heading]!, heading, r.nowMs - sinceMs);
    at[here + AT.heading] = heading;
    at[here + AT.pulledMs] = r.nowMs;
    if (Math.abs(at[here + AT.added]! - heading) > ARRIVED_SEMITONES) active.add(life * AXES + AXIS.pitch);
  }
  at[here + AT.sounds] = pitch + at[here + AT.added]! + glideNow(r, life, planned);
}

/** How far a glide is still away, in semitones. */
function glideNow(r: Running, life: number, planned: PlannedVoiceMapping): number {
  const { at, active } = r.memory.voices;
  const here = lifeAt(life);
  const from = at[here + AT.glideFrom]!;
  if (from === 0) return 0;
  const { layout } = wayOf(r, planned);
  const left = layout.kind === 'mono' && layout.glideMs > 0 ? 1 - (r.nowMs - at[here + AT.glideMs]!) / layout.glideMs : 0;
  if (left <= 0) {
    at[here + AT.glideFrom] = 0;
    return 0;
  }
  active.add(life * AXES + AXIS.pitch);
  return from * left;
}

/** On a tick: a pitch that is being smoothed, pulled or on its way. False where nothing is left to do. */
function carryPitchOn(r: Running, life: number, planned: PlannedVoiceMapping): boolean {
  const { at, axes, times } = r.memory.voices;
  const here = lifeAt(life);
  const place = axisAt(life, AXIS.pitch);
  let pitch = at[here + AT.pitch]!;
  let busy = false;
  if (planned.pitch) {
    axes[place + SLOT.nowMs] = r.nowMs;
    // What is still being said moves it by itself.
    busy = !times.isSilent(life * AXES + AXIS.pitch, axes[place + SLOT.sampleMs]!, r.nowMs) || !smoothOn(planned.pitch, axes, place);
    pitch = axes[place + SLOT.filtered]! * PITCH_SPAN;
  }
  settlePitch(r, life, planned, pitch + planned.rig.pitch.transpose, false);
  writeBend(r, life, planned, 'moving');
  return busy || at[here + AT.glideFrom] !== 0 || (planned.pull !== null && Math.abs(at[here + AT.added]! - at[here + AT.heading]!) > ARRIVED_SEMITONES);
}

/** On a tick: everything of voices that moves without being told. */
export function carryVoicesOn(r: Running): void {
  const { active, life: lives, times } = r.memory.voices;
  for (let i = active.size - 1; i >= 0; i--) {
    const slot = active.at(i);
    const life = Math.floor(slot / AXES);
    const axis = slot - life * AXES;
    const planned = r.plan.voices[voiceMappingOf(life)]!;
    const sounds = lives[life] === LIFE.sounding;
    if (!sounds || !(axis === AXIS.pitch ? carryPitchOn(r, life, planned) : carryAxisOn(r, life, planned, axis))) active.delete(slot);
  }
  times.tickMs = r.nowMs;
}

