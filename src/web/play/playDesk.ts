import type { RigControl, TouchBehaviour } from '../../core/rig/document';
import { beginTouch, touchValue, type Touch } from '../../core/surface/touchBehaviour';
import { DIAL_TRAVEL, faderValue, xyValue, type Point } from '../../core/surface/touchValue';
import type { LiveConnection } from '../live/connection';

/** Room at both ends of a travel, in CSS pixels of the surface, so that a finger reaches 0 and 1 with certainty. */
export const INSET = 18;
/** One key press moves a control by this much of its travel. */
const KEY_STEP = 0.02;
const KEY_STEP_LARGE = 0.1;

/** What a control shows: its values by role, and whether somebody holds it. */
export type ControlPicture = (values: Readonly<Record<string, number>>, held: boolean) => void;

/** A finger on a control, with what its touch behaviour remembers of each axis. */
interface Held {
  control: RigControl;
  touches: Record<string, Touch>;
}

/** Without a behaviour of its own a control follows the finger; a dial turns by the way the finger goes. */
const TRUE_TO_FINGER: TouchBehaviour = { kind: 'jump', sensitivity: 1 };
const BY_THE_WAY: TouchBehaviour = { kind: 'relative', sensitivity: 1 };

interface Placed {
  control: RigControl;
  values: Record<string, number>;
  picture: ControlPicture;
  element: HTMLElement;
}

/**
 * Which finger holds which control, and what each control shows. A finger belongs to the control it came down on until
 * it lifts, wherever it slides; a control belongs to the first finger on it. Values that come back from the hub move
 * only controls that nobody holds.
 */
export class PlayDesk {
  private readonly fingers = new Map<number, Held>();
  private readonly placed = new Map<string, Placed>();

  constructor(
    private readonly live: LiveConnection,
    private readonly scale: () => number,
  ) {}

  /** Puts a control on the desk; the function given back takes it away, lifting the finger that holds it. */
  place(control: RigControl, element: HTMLElement, picture: ControlPicture): () => void {
    const entry: Placed = { control, values: {}, picture, element };
    this.placed.set(control.id, entry);
    const removers = Object.entries(control.signals).map(([role, signal]) => {
      entry.values[role] = this.live.signalValue(signal) ?? 0;
      return this.live.onSignal(signal, (value) => this.hear(entry, role, value));
    });
    this.show(entry);
    return () => {
      for (const [finger, held] of this.fingers) if (held.control.id === control.id) this.up(finger, performance.now());
      for (const remove of removers) remove();
      this.placed.delete(control.id);
    };
  }

  down(finger: number, controlId: string, at: Point, eventMs: number): void {
    const entry = this.placed.get(controlId);
    if (!entry || this.isHeld(controlId)) return;
    const touches: Held['touches'] = {};
    for (const [role, place] of Object.entries(fingerPlaces(entry.control, at))) {
      touches[role] = beginTouch(behaviourOf(entry.control), place, entry.values[role] ?? 0);
    }
    this.fingers.set(finger, { control: entry.control, touches });
    this.touch(entry, true, at, eventMs);
  }

  move(finger: number, at: Point, eventMs: number): void {
    const held = this.fingers.get(finger);
    const entry = held && this.placed.get(held.control.id);
    if (held && entry) this.change(entry, heldValues(held, entry, at), eventMs);
  }

  up(finger: number, eventMs: number): void {
    const held = this.fingers.get(finger);
    if (!held) return;
    this.fingers.delete(finger);
    const entry = this.placed.get(held.control.id);
    if (entry) this.touch(entry, false, null, eventMs);
  }

  /** Arrow keys, Page keys, Home and End move the control that has the focus. */
  key(controlId: string, role: string, key: string, eventMs: number): boolean {
    const entry = this.placed.get(controlId);
    const value = entry?.values[role];
    if (!entry || value === undefined || this.isHeld(controlId)) return false;
    const next = nextByKey(value, key);
    if (next === null) return false;
    this.change(entry, { [role]: Math.min(1, Math.max(0, next)) }, eventMs);
    return true;
  }

  /** The line is back: what fingers hold now is said again, for the hub released it when the line broke. */
  sayHeldAgain(): void {
    for (const { control } of this.fingers.values()) {
      const entry = this.placed.get(control.id);
      if (entry) this.change(entry, { ...entry.values }, performance.now());
    }
  }

  isHeld(controlId: string): boolean {
    for (const { control } of this.fingers.values()) if (control.id === controlId) return true;
    return false;
  }

  /** The place of a pointer in the surface's own pixels. */
  toSurface(clientX: number, clientY: number, entry: { element: HTMLElement; frame: { x: number; y: number } }): Point {
    const box = entry.element.getBoundingClientRect();
    const scale = this.scale();
    return { x: entry.frame.x + (clientX - box.left) / scale, y: entry.frame.y + (clientY - box.top) / scale };
  }

  private touch(entry: Placed, on: boolean, at: Point | null, eventMs: number): void {
    const gate = entry.control.kind === 'push' ? 'gate' : 'touch';
    const held = [...this.fingers.values()].find(({ control }) => control.id === entry.control.id);
    this.change(entry, { [gate]: on ? 1 : 0, ...(held && at ? heldValues(held, entry, at) : {}) }, eventMs);
  }

  private change(entry: Placed, values: Record<string, number>, eventMs: number): void {
    const samples = Object.entries(values).map(([role, value]) => ({
      signal: (entry.control.signals as Record<string, string>)[role]!,
      value,
    }));
    // With the line down nothing would be heard, so nothing is shown either: the page never pretends.
    if (samples.length > 0 && this.live.send(samples, performance.timeOrigin + eventMs)) Object.assign(entry.values, values);
    this.show(entry);
  }

  private hear(entry: Placed, role: string, value: number): void {
    if (this.isHeld(entry.control.id)) return;
    entry.values[role] = value;
    this.show(entry);
  }

  private show(entry: Placed): void {
    entry.picture(entry.values, this.isHeld(entry.control.id));
  }
}

const behaviourOf = ({ behaviour, kind }: RigControl) => behaviour ?? (kind === 'dial' ? BY_THE_WAY : TRUE_TO_FINGER);

/** The values of a held control with the finger at a place, by its touch behaviour. */
function heldValues({ control, touches }: Held, { values }: Placed, at: Point): Record<string, number> {
  const result: Record<string, number> = {};
  for (const [role, place] of Object.entries(fingerPlaces(control, at))) {
    const touch = touches[role];
    if (touch) result[role] = touchValue(behaviourOf(control), touch, place, values[role] ?? 0, false);
  }
  return result;
}

/** Where a finger is along each axis of a control, in whole travels. */
function fingerPlaces(control: RigControl, at: Point): Record<string, number> {
  switch (control.kind) {
    case 'fader':
      return { value: faderValue(control.frame, at, INSET) };
    case 'dial':
      // Up and right alike; it may be beyond 0 and 1, since only the way counts.
      return { value: (at.x - at.y) / DIAL_TRAVEL };
    case 'xy': {
      const { x, y } = xyValue(control.frame, at, INSET);
      return { x, y };
    }
    case 'push':
      return {};
    default:
      return control satisfies never;
  }
}

function nextByKey(value: number, key: string): number | null {
  switch (key) {
    case 'ArrowUp':
    case 'ArrowRight':
      return value + KEY_STEP;
    case 'ArrowDown':
    case 'ArrowLeft':
      return value - KEY_STEP;
    case 'PageUp':
      return value + KEY_STEP_LARGE;
    case 'PageDown':
      return value - KEY_STEP_LARGE;
    case 'Home':
      return 0;
    case 'End':
      return 1;
    default:
      return null;
  }
}
