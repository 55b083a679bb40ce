import { Worker } from 'node:worker_threads';
import { splitMessages } from '../../core/midi/decode';
import type { Opening } from './opening';
import { freshTurn } from './turn';

const THREAD = new URL('./portThread.js', import.meta.url);
/** Ports are opened and closed one after another. */
const TURN = freshTurn();
/** One that has taken nothing for so long, though there is something for it, takes nothing any more. */
const STUCK_MS = 3000;
/** So much may wait for one that does not take it; more is left out. */
const MOST_WAITING = 4096;

export interface PortEvents {
  opened(): void;
  /** It did not open, or died. */
  closed(why: string): void;
  heard(bytes: Uint8Array): void;
}

/** A port and the thread that holds it. */
export class OpenPort {
  private readonly worker: Worker;
  private readonly done = new Int32Array(new SharedArrayBuffer(4));
  private given = 0;
  private seen = 0;
  private sinceMs = performance.now();
  private isOpen = false;
  private isClosing = false;
  hasEnded = false;

  constructor(
    readonly opening: Opening,
    events: PortEvents,
  ) {
    this.worker = new Worker(THREAD, { workerData: { opening, done: this.done, turn: TURN } });
    this.worker.on('message', (message: 'opened' | Uint8Array) => {
      if (message !== 'opened') return events.heard(message);
      this.isOpen = true;
      events.opened();
    });
    this.worker.on('error', (error) => this.isClosing || events.closed(error.message));
    this.worker.on('exit', () => (this.hasEnded = true));
  }

  /** Writes whole messages, one after another: a port takes one at a time. */
  send(bytes: Uint8Array): void {
    if (!this.isOpen || this.given - Atomics.load(this.done, 0) > MOST_WAITING) return;
    for (const message of bytes.length > 3 ? splitMessages(bytes) : [bytes]) {
      this.given++;
      this.worker.postMessage(message.slice());
    }
  }

  /** Asked now and then. */
  isStuck(nowMs: number): boolean {
    const done = Atomics.load(this.done, 0);
    if (done !== this.seen || done === this.given) {
      this.seen = done;
      this.sinceMs = nowMs;
      return false;
    }
    return nowMs - this.sinceMs > STUCK_MS;
  }

  /** Closes it once what it was given is written. */
  close(): void {
    this.isClosing = true;
    this.given++;
    this.worker.postMessage(null);
  }
}
