import type { RigControl } from '../../core/rig/document';
import { begin, end, firstLevel, glides, heldGate, inHand, move, cellAt, type Finger, type CellTouch } from '../../core/surface/controlTouch';
import { clampUnit } from '../../core/units/unitInterval';
import type { LiveConnection } from '../live/connection';
import type { LiveStore } from '../live/store';

/** One key press moves a control by this much of its travel. */
const KEY_STEP = 0.02;
const KEY_STEP_LARGE = 0.1;

/** What a control shows: its values by role, and which roles fingers hold. */
export type ControlPicture = (values: Readonly<Record<string, number>>, held: ReadonlySet<string>) => void;

/** A finger on a cell of a control, how many others make it fine, and whether the hub heard how it came down there. */
type Holding = { control: string; touch: CellTouch; fine: number; at: Finger; heard: boolean };
/** A second finger on a cell that is held. */
type Refining = { control: string; refines: Holding };

interface Placed {
  control: RigControl;
  values: Record<string, number>;
  /** What others moved while a finger held it, by role: it is shown when nobody holds it any more. */
  meanwhile: Map<string, number>;
  picture: ControlPicture;
  element: HTMLElement;
}

/**
 * Which finger holds which control, and what each control shows. A finger belongs to the control it came down on until
 * it lifts, wherever it slides; a cell of a control belongs to the first finger on it, and a second one there makes the
 * first go an eighth of the way. Values that come back from the hub move only what nobody holds.
 */
export class PlayDesk {
  private readonly fingers = new Map<number, Holding | Refining>();
  private readonly placed = new Map<string, Placed>();
  /** By signal: gates that were let go of while the line was down. */
  private readonly owed = new Map<string, number>();

  constructor(
    private readonly live: Pick<LiveConnection, 'send'> & { store: Pick<LiveStore, 'signals'> },
    private readonly scale: () => number,
  ) {}

  /** Puts a control on the desk; the function given back takes it away, lifting the fingers that hold it. */
  place(control: RigControl, element: HTMLElement, picture: ControlPicture): () => void {
    const entry: Placed = { control, values: {}, meanwhile: new Map(), picture, element };
    this.placed.set(control.id, entry);
    const removers = Object.entries(control.signals).map(([role, signal]) => {
      entry.values[role] = this.live.store.signals.value(signal) ?? 0;
      return this.live.store.signals.listen(signal, (value) => this.hear(entry, role, value));
    });
    this.show(entry);
    return () => {
      for (const [finger, held] of this.fingers) if (held.control === control.id) this.up(finger, performance.now());
      for (const remove of removers) remove();
      this.placed.delete(control.id);
    };
  }

  down(finger: number, controlId: string, at: Finger, eventMs: number): void {
    const entry = this.placed.get(controlId);
    if (!entry || this.fingers.has(finger)) return;
    const cell = cellAt(entry.control, at.at, this.heldParts(controlId));
    if (cell !== null) this.take(finger, entry, cell, at, eventMs);
  }

  /** Strikes or takes hold of a cell that is known by its number, as a key of the computer does. */
  strike(finger: number, controlId: string, cell: number, eventMs: number): void {
    const entry = this.placed.get(controlId);
    const { x, y, width, height } = entry?.control.frame ?? { x: 0, y: 0, width: 0, height: 0 };
    if (entry && !this.fingers.has(finger)) this.take(finger, entry, cell, { at: { x: x + width / 2, y: y + height }, size: 0 }, eventMs);
  }

  /** @param modified a key asks for the eighth of the way that a second finger does */
  move(finger: number, at: Finger, eventMs: number, modified = false): void {
    const held = this.fingers.get(finger);
    const entry = held && this.placed.get(held.control);
    if (!held || !entry || !('touch' in held)) return;
    held.at = at;
    if (glides(entry.control)) {
      const cell = cellAt(entry.control, at.at, []);
      if (cell !== null && cell !== held.touch.cell && !this.heldParts(held.control).includes(cell)) return this.glide(held, entry, cell, at, eventMs);
    }
    this.change(entry, move(entry.control, held.touch, at, entry.values, modified || held.fine > 0), eventMs);
  }

  up(finger: number, eventMs: number): void {
    const held = this.fingers.get(finger);
    if (!held) return;
    this.fingers.delete(finger);
    if ('refines' in held) {
      held.refines.fine--;
      return;
    }
    const entry = this.placed.get(held.control);
    if (entry) this.letGo(entry, held.touch.cell, eventMs);
  }

  /** Arrow keys, Page keys, Home and End move a level of the control that has the focus; the first where none is named. */
  key(controlId: string, key: string, eventMs: number, named?: string): boolean {
    const entry = this.placed.get(controlId);
    const role = named ?? (entry ? firstLevel(entry.control) : null);
    if (!entry || role === null || this.heldRoles(controlId).has(role)) return false;
    const value = entry.values[role];
    const next = value === undefined ? null : nextByKey(value, key, stepOf(entry.control));
    if (next === null) return false;
    this.change(entry, { [role]: clampUnit(next) }, eventMs);
    return true;
  }

  /**
   * The line is back: what was let go meanwhile is let go, and what fingers hold is said again where they are now, for the
   * hub released it when the line broke. A finger that came down meanwhile presses.
   */
  sayHeldAgain(eventMs = performance.now()): void {
    this.sayOwed(eventMs);
    for (const held of this.fingers.values()) {
      const entry = this.placed.get(held.control);
      if (!entry || !('touch' in held)) continue;
      const { control, values } = entry;
      // No more than what this finger holds: the rest may have been moved by others meanwhile.
      held.heard = this.change(entry, { ...move(control, held.touch, held.at, values, held.fine > 0), ...heldGate(control, held.touch.cell, held.at) }, eventMs, held.heard) || held.heard;
    }
  }

  /** A hub that had not noticed yet that the line broke has just said that all of it is held. */
  private sayOwed(eventMs: number): void {
    if (this.owed.size > 0) this.live.send([...this.owed].map(([signal, value]) => ({ signal, value })), performance.timeOrigin + eventMs);
    for (const entry of this.placed.values()) {
      for (const [role, signal] of Object.entries(entry.control.signals)) if (this.owed.has(signal)) this.hear(entry, role, this.owed.get(signal)!);
    }
    this.owed.clear();
  }

  /** The place of a pointer in the surface's own pixels. */
  toSurface(clientX: number, clientY: number, entry: { element: HTMLElement; frame: { x: number; y: number } }): { x: number; y: number } {
    const box = entry.element.getBoundingClientRect();
    const scale = this.scale();
    return { x: entry.frame.x + (clientX - box.left) / scale, y: entry.frame.y + (clientY - box.top) / scale };
  }

  private take(finger: number, entry: Placed, cell: number, at: Finger, eventMs: number): void {
    const first = [...this.fingers.values()].find((held): held is Holding => held.control === entry.control.id && 'touch' in held && held.touch.cell === cell);
    if (first) {
      first.fine++;
      this.fingers.set(finger, { control: entry.control.id, refines: first });
      return;
    }
    const { touch, values } = begin(entry.control, cell, at, entry.values);
    const held = { control: entry.control.id, touch, fine: 0, at, heard: false };
    this.fingers.set(finger, held);
    held.heard = this.change(entry, values, eventMs);
  }

  private glide(held: Holding, entry: Placed, cell: number, at: Finger, eventMs: number): void {
    const left = end(entry.control, held.touch.cell);
    const { touch, values } = begin(entry.control, cell, at, entry.values);
    held.touch = touch;
    held.heard = this.change(entry, { ...left, ...values }, eventMs);
  }

  private letGo(entry: Placed, cell: number, eventMs: number): void {
    const values = end(entry.control, cell);
    const said = this.change(entry, values, eventMs);
    this.takeOver(entry);
    if (said) return;
    for (const [role, value] of Object.entries(values)) {
      const signal = entry.control.signals[role];
      if (signal !== undefined) this.owed.set(signal, value);
    }
  }

  /** Nobody holds it any more: it is where others moved it meanwhile. */
  private takeOver(entry: Placed): void {
    const held = this.heldRoles(entry.control.id);
    for (const [role, value] of entry.meanwhile) {
      if (held.has(role)) continue;
      entry.meanwhile.delete(role);
      entry.values[role] = value;
    }
    this.show(entry);
  }

  private heldParts(controlId: string): number[] {
    return [...this.fingers.values()].flatMap((held) => (held.control === controlId && 'touch' in held ? [held.touch.cell] : []));
  }

  private heldRoles(controlId: string): Set<string> {
    const entry = this.placed.get(controlId);
    const roles = new Set<string>();
    for (const held of this.fingers.values()) {
      if (held.control !== controlId || !('touch' in held) || !entry) continue;
      for (const role of inHand(held.touch)) roles.add(role);
      for (const role of Object.keys(end(entry.control, held.touch.cell))) roles.add(role);
    }
    return roles;
  }

  /** Says and shows values; false where they could not be said. */
  private change(entry: Placed, values: Record<string, number>, eventMs: number, heldOn = false): boolean {
    const samples = Object.entries(values).flatMap(([role, value]) => {
      const signal = entry.control.signals[role];
      return signal === undefined ? [] : [{ signal, value }];
    });
    // With the line down nothing would be heard, so nothing is shown either: the page never pretends.
    const said = samples.length > 0 && this.live.send(samples, performance.timeOrigin + eventMs, heldOn);
    if (said) {
      Object.assign(entry.values, values);
      for (const role of Object.keys(values)) entry.meanwhile.delete(role);
    }
    this.show(entry);
    return said;
  }

  private hear(entry: Placed, role: string, value: number): void {
    if (this.heldRoles(entry.control.id).has(role)) return void entry.meanwhile.set(role, value);
    entry.values[role] = value;
    this.show(entry);
  }

  private show(entry: Placed): void {
    entry.picture(entry.values, this.heldRoles(entry.control.id));
  }
}

/** One press of a key goes to the next step where there are steps. */
function stepOf(control: RigControl): number {
  if (control.kind === 'radio') return 1 / (control.choices.length - 1);
  if (control.kind === 'stepper') return 1 / (control.steps - 1);
  return control.kind === 'toggle' ? 1 : KEY_STEP;
}

function nextByKey(value: number, key: string, step: number): number | null {
  switch (key) {
    case 'ArrowUp':
    case 'ArrowRight':
      return value + step;
    case 'ArrowDown':
    case 'ArrowLeft':
      return value - step;
    case 'PageUp':
      return value + Math.max(step, KEY_STEP_LARGE);
    case 'PageDown':
      return value - Math.max(step, KEY_STEP_LARGE);
    case 'Home':
      return 0;
    case 'End':
      return 1;
    default:
      return null;
  }
}
