import { gamepadSources } from '../../../core/inputs/gamepadSources';
import type { FeedLine } from './feedLine';
import { ReaderTurn } from './readerTurn';

/** A change smaller than this is the converter's own unrest, but where it comes to an end or the middle. */
const LEAST_CHANGE = 1 / 4096;
const REACHED: readonly number[] = [-1, 0, 1];
/** While no pad is here it is looked this often whether one is: a page at rest is to cost nothing. */
const LOOK_MS = 250;
/** Hidden for longer than this without a reading is worth saying. */
const STOPPED_MS = 1000;
/** What a pad says so soon after the page came back happened while it was hidden. */
const BACK_MS = 100;

interface Pad {
  name: string;
  /** What was said last: many small changes are one that is large enough. */
  values: number[];
  timestamp: number;
}

/**
 * Reads gamepads in step with the display, and by a worker's timer while the page is hidden. Each pad is a feed of its
 * own; one that is unplugged leaves, which lets go of what it held.
 */
export class GamepadReader {
  private readonly pads = new Map<number, Pad>();
  private cancelNext = (): void => undefined;
  private worker: Worker | null = null;
  private hiddenSinceMs: number | null = null;
  private readWhileHidden = false;
  /** Since when the page is in view again, and how long nothing was read before; null once that is settled. */
  private back: { sinceMs: number; hiddenMs: number } | null = null;

  constructor(
    private readonly line: FeedLine,
    /** Told how long the browser read nothing while the page was hidden. */
    private readonly onStopped: (stoppedMs: number) => void,
  ) {}

  private readonly turn = new ReaderTurn(
    () => this.begin(),
    () => this.end(),
  );

  start(): void {
    this.turn.start();
  }

  stop(): void {
    this.turn.stop();
  }

  private begin(): void {
    document.addEventListener('visibilitychange', this.visibility);
    this.next();
  }

  private end(): Promise<void> {
    document.removeEventListener('visibilitychange', this.visibility);
    this.cancelNext();
    this.worker?.terminate();
    this.worker = null;
    for (const { name } of this.pads.values()) this.line.remove(name);
    this.pads.clear();
    return this.line.said();
  }

  private readonly step = (): void => {
    // A pad that comes while the page is hidden is known once it is in view again.
    if (this.pads.size > 0 || !document.hidden) this.read();
    this.next();
  };

  private next(): void {
    if (this.pads.size > 0) {
      const frame = requestAnimationFrame(this.step);
      this.cancelNext = () => cancelAnimationFrame(frame);
    } else {
      const timer = setTimeout(this.step, LOOK_MS);
      this.cancelNext = () => clearTimeout(timer);
    }
  }

  private readonly visibility = (): void => {
    if (document.hidden) {
      this.hiddenSinceMs = performance.now();
      this.readWhileHidden = false;
      this.back = null;
      if (this.pads.size === 0) return;
      this.worker ??= new Worker(new URL('./tick.worker.ts', import.meta.url));
      this.worker.onmessage = () => this.read();
      return;
    }
    this.worker?.terminate();
    this.worker = null;
    const hiddenMs = this.hiddenSinceMs === null ? 0 : performance.now() - this.hiddenSinceMs;
    this.hiddenSinceMs = null;
    if (this.pads.size > 0 && hiddenMs > STOPPED_MS && !this.readWhileHidden) this.back = { sinceMs: performance.now(), hiddenMs };
  };

  private read(): void {
    const nowMs = performance.timeOrigin + performance.now();
    const seen = new Set<number>();
    for (const gamepad of navigator.getGamepads?.() ?? []) {
      if (!gamepad?.connected) continue;
      seen.add(gamepad.index);
      this.readPad(gamepad, nowMs);
    }
    for (const [index, { name }] of this.pads) {
      if (seen.has(index)) continue;
      this.line.remove(name);
      this.pads.delete(index);
    }
  }

  private readPad(gamepad: Gamepad, nowMs: number): void {
    let pad = this.pads.get(gamepad.index);
    if (!pad) {
      pad = { name: `gamepad ${gamepad.index}`, values: [], timestamp: NaN };
      this.pads.set(gamepad.index, pad);
      this.line.add(pad.name, { kind: 'gamepad', report: gamepad.id.slice(0, 200), name: shortName(gamepad.id) }, gamepadSources(gamepad.axes.length, gamepad.buttons.length));
    }
    if (gamepad.timestamp === pad.timestamp && pad.values.length > 0) return;
    const values = [...gamepad.axes, ...gamepad.buttons.map(({ value }) => value)];
    const { values: said } = pad;
    const isKnown = said.length > 0;
    if (this.back && isKnown) {
      // A pad that lay still was not missed; one that moved meanwhile was.
      if (gamepad.timestamp < this.back.sinceMs + BACK_MS) this.onStopped(this.back.hiddenMs);
      this.back = null;
    }
    const changed = values.flatMap((value, i) => (isUnrest(value, said[i] ?? NaN) ? [] : [{ i, key: keyOf(i, gamepad.axes.length), value }]));
    if (changed.length > 0 && !this.line.send(pad.name, changed.map(({ key, value }) => ({ key, value })), nowMs)) return;
    for (const { i, value } of changed) said[i] = value;
    pad.timestamp = gamepad.timestamp;
    if (document.hidden && isKnown) this.readWhileHidden = true;
  }
}

const isUnrest = (value: number, said: number) => value === said || (Math.abs(value - said) < LEAST_CHANGE && !REACHED.includes(value));
const keyOf = (i: number, axes: number) => (i < axes ? `axis ${i}` : `button ${i - axes}`);

/** Browsers put vendor numbers in brackets behind the name. */
function shortName(id: string): string {
  return id.replace(/\s*\(.*$/, '').trim().slice(0, 40) || 'Gamepad';
}
