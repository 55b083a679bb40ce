import type { RigControl } from '../../core/rig/document';
import { dialValue, faderValue, xyValue, type Point } from '../../core/surface/touchValue';
import type { LiveConnection } from '../live/connection';

/** Room at both ends of a travel, in CSS pixels of the surface, so that a finger reaches 0 and 1 with certainty. */
export const INSET = 18;
/** One key press moves a control by this much of its travel. */
const KEY_STEP = 0.02;
const KEY_STEP_LARGE = 0.1;

/** What a control shows: its values by role, and whether somebody holds it. */
export type ControlPicture = (values: Readonly<Record<string, number>>, held: boolean) => void;

interface Held {
  control: RigControl;
  start: Point;
  startValue: number;
}

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
    this.fingers.set(finger, { control: entry.control, start: at, startValue: entry.values.value ?? 0 });
    this.touch(entry, true, at, eventMs);
  }

  move(finger: number, at: Point, eventMs: number): void {
    const held = this.fingers.get(finger);
    const entry = held && this.placed.get(held.control.id);
    if (held && entry) this.change(entry, readValues(held, at), eventMs);
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
    this.change(entry, { [gate]: on ? 1 : 0, ...(held && at ? readValues(held, at) : {}) }, eventMs);
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

function readValues({ control, start, startValue }: Held, at: Point): Record<string, number> {
  switch (control.kind) {
    case 'fader':
      return { value: faderValue(control.frame, at, INSET) };
    case 'dial':
      return { value: dialValue(startValue, start, at) };
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
