import type { ControlOf, RigControl } from '../rig/document';
import { clampUnit, type UnitInterval } from '../units/unitInterval';
import { keysOf } from './controlKinds';
import { LARGE_TOUCH, cellAt, strengthOf, type Finger } from './controlTouch';
import { padFrame, keyFrames } from './cells';

/** A control that plays a stream: each finger on it is a voice. */
export type VoiceControl = ControlOf<'keys' | 'pads' | 'pitchField'>;

/** What a finger makes of its voice. */
export interface VoicePlace {
  /** Semitones, 60 = middle C. */
  pitch: number;
  strike: UnitInterval;
  pressure: UnitInterval;
  slide: UnitInterval;
  /** Of a pitch field: the row, 0 the lowest. */
  row?: number;
}

/** What is remembered of a finger on such a control. */
export interface VoiceTouch {
  /** The key, the pad or the row that it came down on. */
  cell: number;
  beganAt: Finger['at'];
}

/** The way from where a finger began that presses as hard as it gets, CSS pixels. */
const FULL_TRAVEL = 120;
/** The strength of what is always struck the same (100 of 127). */
export const EVEN_STRIKE = 100 / 127;
/** The note of the first pad where nothing was said: a drum as common practice numbers it. */
export const FIRST_PAD_NOTE = 36;

/** Where a voice is as its finger comes down; null beside every key. */
export function beginVoice(control: VoiceControl, finger: Finger): { touch: VoiceTouch; place: VoicePlace } | null {
  const cell = voiceCell(control, finger.at);
  if (cell === null) return null;
  const touch = { cell, beganAt: finger.at };
  return { touch, place: placeOf(control, touch, finger) };
}

/**
 * Where a voice is with its finger there now. Null where it is another voice: on keys that are slid over each key is one; then
 * `beginVoice` gives the next. Pads keep their finger.
 */
export function moveVoice(control: VoiceControl, touch: VoiceTouch, finger: Finger): VoicePlace | null {
  if (control.kind === 'keys') {
    const cell = voiceCell(control, finger.at);
    if (cell !== null && cell !== touch.cell) return null;
  } else if (control.kind === 'pitchField' && control.across) touch.cell = rowAt(control, finger.at);
  return placeOf(control, touch, finger);
}

/** The pitch of a place across a row. */
export function pitchAt({ low, span, interval, frame }: ControlOf<'pitchField'>, row: number, x: number): number {
  return low + row * interval + (span * (x - frame.x)) / frame.width;
}

/** The notes of pads from the lower left, row by row upwards. */
export function padNote({ columns, rows, low = FIRST_PAD_NOTE }: Pick<ControlOf<'pads'>, 'columns' | 'rows' | 'low'>, cell: number): number {
  return low + (rows - 1 - Math.floor(cell / columns)) * columns + (cell % columns);
}

function voiceCell(control: VoiceControl, at: Finger['at']): number | null {
  return control.kind === 'pitchField' ? rowAt(control, at) : cellAt(control, at, []);
}

/** The row under a point, 0 the lowest; beyond the edges the nearest. */
function rowAt({ frame, rows }: ControlOf<'pitchField'>, { y }: Finger['at']): number {
  const fromBelow = (frame.y + frame.height - y) / (frame.height / rows);
  return Math.max(0, Math.min(rows - 1, Math.floor(fromBelow)));
}

function placeOf(control: VoiceControl, { cell, beganAt }: VoiceTouch, finger: Finger): VoicePlace {
  const { at, size, force = 0 } = finger;
  const bySize = size > 0 ? clampUnit(size / LARGE_TOUCH) : 0;
  switch (control.kind) {
    case 'keys':
    case 'pads': {
      const { y, height } = control.kind === 'keys' ? keyFrames(control)[cell]!.frame : padFrame(control.frame, control, cell);
      const pitch = control.kind === 'keys' ? keysOf(control)[cell]! : padNote(control, cell);
      return { pitch, strike: strengthOf(control, cell, finger), pressure: force > 0 ? force : bySize, slide: clampUnit((y + height - at.y) / height) };
    }
    case 'pitchField': {
      const { frame, rows, strikeFrom, pressureFrom } = control;
      const height = frame.height / rows;
      const below = frame.y + frame.height - cell * height;
      const pressure = { size: bySize, force, travel: clampUnit(Math.abs(at.y - beganAt.y) / FULL_TRAVEL) }[pressureFrom];
      return { pitch: pitchAt(control, cell, at.x), strike: strikeFrom === 'size' && size > 0 ? Math.max(1 / 127, bySize) : EVEN_STRIKE, pressure, slide: clampUnit((below - at.y) / height), row: cell };
    }
  }
}

/** How hard a touch began that grew by so many pixels in so many ms. */
export function strikeOfGrowth(grownPx: number, overMs: number): UnitInterval {
  return grownPx > 0 && overMs > 0 ? Math.max(1 / 127, clampUnit(grownPx / overMs / FULL_GROWTH)) : EVEN_STRIKE;
}
/** Pixels a ms: a contact of 40 px that is whole after 20 ms is as hard as it gets. */
const FULL_GROWTH = 2;

export function isVoiceControl(control: RigControl): control is VoiceControl {
  return control.kind === 'pitchField' || ((control.kind === 'keys' || control.kind === 'pads') && control.stream !== undefined);
}
