import { Worker } from 'node:worker_threads';
import { splitMessages } from '../../core/midi/decode';
import type { Opening } from './opening';
import { LEFT_OUT, WRITTEN } from './shared';
import { freshTurn } from './turn';

const THREAD = new URL('./portThread.js', import.meta.url);
/** Ports are opened and closed one after another. */
const TURN = freshTurn();
/** One that has taken nothing for so long, though there is something for it, takes nothing any more. */
const STUCK_MS = 3000;
/** So much may wait for one that does not take it as fast as it comes; then it is closed, which ends what sounds once it is back. */
const MOST_WAITING = 4096;
/** One that is opened or written to meanwhile may take so long to close; then its thread hangs. */
const CLOSING_MS = 15_000;

export interface PortEvents {
  opened(): void;
  /** It did not open, or died. */
  closed(why: string): void;
  heard(bytes: Uint8Array): void;
  /** It was given more than it takes: what came now is left out, and what was on its way is not known. */
  overrun(): void;
}

/** A port and the thread that holds it. */
export class OpenPort {
  private readonly worker: Worker;
  /** Shared with the thread: how many messages were written, and whether what waits still is to be left out. */
  private readonly shared = new Int32Array(new SharedArrayBuffer(8));
  private given = 0;
  private seen = 0;
  private sinceMs = performance.now();
  private isOpen = false;
  private closingMs: number | null = null;
  hasEnded = false;

  constructor(
    readonly opening: Opening,
    private readonly events: PortEvents,
  ) {
    this.worker = new Worker(THREAD, { workerData: { opening, shared: this.shared, turn: TURN } });
    this.worker.on('message', (message: 'opened' | Uint8Array) => {
      if (message !== 'opened') return events.heard(message);
      this.isOpen = true;
      events.opened();
    });
    this.worker.on('error', (error) => this.closingMs !== null || events.closed(error.message));
    this.worker.on('exit', () => (this.hasEnded = true));
  }

  /** Writes whole messages, one after another: a port takes one at a time. */
  send(bytes: Uint8Array): void {
    if (!this.isOpen) return;
    if (this.given - Atomics.load(this.shared, WRITTEN) > MOST_WAITING) return this.events.overrun();
    for (const message of bytes.length > 3 ? splitMessages(bytes) : [bytes]) {
      this.given++;
      this.worker.postMessage(message.slice());
    }
  }

  /** Asked now and then: whether it takes nothing any more. */
  isStuck(nowMs: number): boolean {
    const done = Atomics.load(this.shared, WRITTEN);
    if (done !== this.seen || done === this.given) {
      this.seen = done;
      this.sinceMs = nowMs;
      return false;
    }
    return nowMs - this.sinceMs > STUCK_MS;
  }

  /** Closes it once what it was given is written, or, where that came too slowly, without: it would be old by then. */
  close(how: 'written' | 'left out' = 'written'): void {
    if (how === 'left out') Atomics.store(this.shared, LEFT_OUT, 1);
    this.closingMs = performance.now();
    this.worker.postMessage(null);
  }

  /** Whether it was told to close and does not. */
  hangs(nowMs: number): boolean {
    return this.closingMs !== null && !this.hasEnded && nowMs - this.closingMs > CLOSING_MS;
  }
}
