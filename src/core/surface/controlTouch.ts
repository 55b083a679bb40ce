import type { RigControl, Strength, TouchBehaviour } from '../rig/document';
import { clampUnit, type UnitInterval } from '../units/unitInterval';
import { keysOf, rolesOf } from './controlKinds';
import { laneFrame, keyFrames, padFrame } from './cells';
import { beginTouch, FINE, touchValue, type Touch } from './touchBehaviour';
import { DIAL_TRAVEL, dialPlace, faderValue, xyValue, type Point } from './touchValue';

/**
 * What fingers do to a control, without a page: which cell of it a finger is on, what that cell then says. A cell is a
 * lane, a pad, a key, or for controls of one piece the whole; cells are numbered from 0.
 */

/** Room at both ends of a travel, in CSS pixels of the surface, so that a finger reaches 0 and 1 with certainty. */
export const INSET = 18;

/** Without a behaviour of its own a control follows the finger; a dial turns by the way the finger goes. */
const TRUE_TO_FINGER: TouchBehaviour = { kind: 'jump', sensitivity: 1 };
const BY_THE_WAY: TouchBehaviour = { kind: 'relative', sensitivity: 1 };

/** The softest stroke: a gate that is on is above 0. */
const LEAST_STRENGTH = 0.08;
/** The contact of a flat thumb, CSS pixels across; anything larger is as hard as it gets. */
export const LARGE_TOUCH = 70;

/** One finger on one cell of a control, with what the touch behaviour remembers of each axis. */
export interface CellTouch {
  cell: number;
  touches: Record<string, Touch>;
}

export interface Finger {
  at: Point;
  /** Across the contact, CSS pixels; 0 where the screen does not say. */
  size: number;
  /** How hard the device says that it is pressed, 0 to 1; 0 or absent where it does not say. */
  force?: number;
}

/** The cell under a point, null where there is none. `held` are the cells that other fingers hold. */
export function cellAt(control: RigControl, at: Point, held: readonly number[]): number | null {
  switch (control.kind) {
    case 'xy': {
      const free = Array.from({ length: control.fingers ?? 1 }, (_, cell) => cell).find((cell) => !held.includes(cell));
      // One more than there are points is no point of its own; on a pad of one it makes that fine.
      return free ?? ((control.fingers ?? 1) === 1 ? 0 : null);
    }
    case 'faders':
    case 'tracks':
      return nth(control.count, (cell) => laneFrame(control.frame, control.count, cell), at);
    case 'radio':
      return nth(control.choices.length, (cell) => laneFrame(control.frame, control.choices.length, cell), at);
    case 'pads':
      return nth(control.rows * control.columns, (cell) => padFrame(control.frame, control, cell), at);
    case 'keys':
      return keyUnder(control, at);
    case 'stepper':
      return at.x < control.frame.x + control.frame.width / 2 ? 0 : 1;
    default:
      return 0;
  }
}

/** Whether a finger that slides on goes from cell to cell, as over keys, instead of staying with the first. */
export const glides = ({ kind }: RigControl): boolean => kind === 'faders' || kind === 'keys' || kind === 'radio';

/** The gate of a cell, null where it has none. */
export function gateOf(control: RigControl, cell: number): string | null {
  switch (control.kind) {
    case 'fader':
    case 'dial':
    case 'strip':
      return 'touch';
    case 'xy':
      return cell === 0 ? 'touch' : `touch${cell + 1}`;
    case 'tracks':
      return `touch${cell + 1}`;
    case 'push':
      return 'gate';
    case 'pads':
      return `pad${cell + 1}`;
    case 'keys':
      return `key${keysOf(control)[cell]}`;
    default:
      return null;
  }
}

/** A finger comes down on a cell: what is remembered of it, and what the control says now. */
export function begin(control: RigControl, cell: number, finger: Finger, values: Readonly<Record<string, number>>): { touch: CellTouch; values: Record<string, number> } {
  const touches: Record<string, Touch> = {};
  for (const [role, place] of Object.entries(places(control, cell, finger.at))) touches[role] = beginTouch(behaviourOf(control), place, bends(control) ? BEND_REST : (values[role] ?? 0));
  const touch = { cell, touches };
  const gate = gateOf(control, cell);
  const said = { ...(gate === null ? {} : { [gate]: strengthOf(control, cell, finger) }), ...tapped(control, cell, values) };
  return { touch, values: { ...said, ...move(control, touch, finger, values, false) } };
}

/** What the control says with the finger where it is now; nothing of a level that it has still to meet, which may go elsewhere meanwhile. */
export function move(control: RigControl, { cell, touches }: CellTouch, finger: Finger, values: Readonly<Record<string, number>>, fine: boolean): Record<string, number> {
  const said: Record<string, number> = {};
  for (const [role, place] of Object.entries(places(control, cell, finger.at))) {
    const touch = touches[role];
    if (!touch) continue;
    const now = values[role] ?? 0;
    let value: number;
    if (control.kind === 'dial' && control.endless) value = turned(touch, place, (control.behaviour?.sensitivity ?? 1) * (fine ? FINE : 1), now);
    else if (control.kind === 'dial' && pointsAtFinger(control)) value = touchValue(behaviourOf(control), touch, roundTheGap(place, touch), now, fine);
    else value = touchValue(behaviourOf(control), touch, place, now, fine);
    if (touch.caught) said[role] = value;
  }
  return said;
}

/** The levels that a finger has in hand: not those that it has still to meet. */
export const inHand = ({ touches }: CellTouch): string[] => Object.keys(touches).filter((role) => touches[role]!.caught);

/** The gate that a finger holds on a cell, with its strength. */
export function heldGate(control: RigControl, cell: number, finger: Finger): Record<string, number> {
  const gate = gateOf(control, cell);
  return gate === null ? {} : { [gate]: strengthOf(control, cell, finger) };
}

/** A finger lifts off a cell. */
export function end(control: RigControl, cell: number): Record<string, number> {
  const gate = gateOf(control, cell);
  return gate === null ? {} : { [gate]: 0 };
}

/** What arrow keys move: the first level of the control. */
export function firstLevel(control: RigControl): string | null {
  return rolesOf(control).find(({ kind }) => kind === 'continuous')?.role ?? null;
}

/** An endless dial: on from where it is, and from 1 back to 0. */
function turned(touch: Touch, place: number, sensitivity: number, value: number): number {
  const next = value + (place - touch.anchor) * sensitivity;
  touch.anchor = place;
  return next - Math.floor(next);
}

/** What a tap alone does, whatever the finger does next. */
function tapped(control: RigControl, cell: number, { value = 0 }: Readonly<Record<string, number>>): Record<string, number> {
  switch (control.kind) {
    case 'toggle':
      return { value: value > 0.5 ? 0 : 1 };
    case 'radio':
      return { value: cell / (control.choices.length - 1) };
    case 'stepper': {
      const most = control.steps - 1;
      return { value: clampUnit((Math.round(value * most) + (cell === 0 ? -1 : 1)) / most) };
    }
    default:
      return {};
  }
}

/** A dial that goes to where the finger is turns its hand towards it; others turn by the way that it goes. */
const pointsAtFinger = ({ endless, behaviour }: Extract<RigControl, { kind: 'dial' }>) => !endless && (behaviour?.kind === 'jump' || behaviour?.kind === 'softTakeover');

/** A finger that goes on beneath a dial does not take it from one end to the other. */
function roundTheGap(place: UnitInterval, touch: Touch): UnitInterval {
  const isAcross = (touch.place === 0 || touch.place === 1) && Math.abs(place - touch.place) > 0.5;
  return (touch.place = isAcross ? touch.place! : place);
}

/** A strip that bends does so from its middle, wherever the finger comes down. */
const bends = (control: RigControl) => control.kind === 'strip' && control.mode === 'bend';
const BEND_REST = 0.5;

function behaviourOf(control: RigControl): TouchBehaviour {
  const { behaviour, kind } = control;
  if (bends(control)) return { kind: 'pickUp', sensitivity: behaviour?.sensitivity ?? 1 };
  // What has no ends is never at the place of a finger.
  if (kind === 'dial' && control.endless) return BY_THE_WAY;
  return behaviour ?? (kind === 'dial' ? BY_THE_WAY : TRUE_TO_FINGER);
}

/** Whether the sensitivity of its behaviour makes a difference: where the way of the finger counts, not its place. */
export const hasSensitivity = (control: RigControl): boolean =>
  bends(control) || (control.kind === 'dial' && control.endless === true) || control.behaviour?.kind === 'pickUp' || control.behaviour?.kind === 'relative';

/** Where a finger is along each axis of a cell, in whole travels. */
function places(control: RigControl, cell: number, at: Point): Record<string, number> {
  switch (control.kind) {
    case 'fader':
    case 'strip':
      return { value: faderValue(control.frame, at, INSET) };
    case 'dial':
      // Up and right alike; it may be beyond 0 and 1, since only the way counts.
      return { value: pointsAtFinger(control) ? dialPlace(control.frame, at) : (at.x - at.y) / DIAL_TRAVEL };
    case 'xy': {
      const { x, y } = xyValue(control.frame, at, INSET);
      const tail = cell === 0 ? '' : String(cell + 1);
      return { [`x${tail}`]: x, [`y${tail}`]: y };
    }
    case 'faders':
    case 'tracks':
      return { [`value${cell + 1}`]: xyValue(control.frame, at, INSET).y };
    default:
      return {};
  }
}

export function strengthOf(control: RigControl, cell: number, { at, size }: Finger): UnitInterval {
  const how: Strength = control.kind === 'pads' || control.kind === 'keys' ? control.strength : 'fixed';
  if (how === 'fixed') return 1;
  if (how === 'size') return size > 0 ? Math.max(LEAST_STRENGTH, Math.min(1, size / LARGE_TOUCH)) : 1;
  const { y, height } = control.kind === 'pads' ? padFrame(control.frame, control, cell) : control.frame;
  return Math.max(LEAST_STRENGTH, clampUnit((at.y - y) / height));
}

function nth(count: number, frameOf: (cell: number) => { x: number; y: number; width: number; height: number }, at: Point): number | null {
  for (let cell = 0; cell < count; cell++) {
    const { x, y, width, height } = frameOf(cell);
    if (at.x >= x && at.x < x + width && at.y >= y && at.y < y + height) return cell;
  }
  return null;
}

/** Black keys lie on the white ones. */
function keyUnder(control: Extract<RigControl, { kind: 'keys' }>, at: Point): number | null {
  const frames = keyFrames(control);
  const under = frames.filter(({ frame: { x, y, width, height } }) => at.x >= x && at.x < x + width && at.y >= y && at.y < y + height);
  const key = under.find(({ black }) => black) ?? under[0];
  return key?.cell ?? null;
}
