import { Worker } from 'node:worker_threads';
import type { RigDocument } from '../core/rig/document';
import type { Checked } from '../protocol/check';
import { checkRig, weightOf } from '../protocol/rig';

/** Checks a whole rig that somebody brings. */
export type CheckRig = (candidate: unknown) => Promise<Checked<RigDocument>>;

/** For tests, and wherever nothing else waits meanwhile. */
export const checkHere: CheckRig = (candidate) => Promise.resolve(checkRig(candidate));

/** What a worker is asked, and what it answers. */
export interface Asked {
  number: number;
  candidate: unknown;
}
export interface Answered {
  number: number;
  checked: Checked<RigDocument>;
}

/** The part of a worker thread that is used here; a test brings its own. */
export interface CheckWorker {
  postMessage(asked: Asked): void;
  on(event: 'message', listener: (answered: Answered) => void): unknown;
  on(event: 'error' | 'exit', listener: () => void): unknown;
  unref(): void;
}

/**
 * Checks large rigs in a worker thread, which is started with the first of them: looking through one takes up to a second,
 * and pages, edits and other requests must not wait so long. Small ones, and those that are refused for their size alone, are
 * looked at here. A worker that dies leaves the work to the next.
 */
export class RigChecks {
  private worker: CheckWorker | null = null;
  private readonly waiting = new Map<number, { resolve: (checked: Checked<RigDocument>) => void; reject: (error: Error) => void }>();
  private asked = 0;

  constructor(private readonly start: () => CheckWorker = () => new Worker(new URL('./rigCheckWorker.js', import.meta.url))) {}

  readonly check: CheckRig = (candidate) => {
    if (weightOf(candidate) !== 'heavy') return checkHere(candidate);
    const number = this.asked++;
    return new Promise((resolve, reject) => {
      this.waiting.set(number, { resolve, reject });
      this.workerNow().postMessage({ number, candidate });
    });
  };

  private workerNow(): CheckWorker {
    if (this.worker) return this.worker;
    const worker = this.start();
    this.worker = worker;
    worker.on('message', ({ number, checked }) => {
      this.waiting.get(number)?.resolve(checked);
      this.waiting.delete(number);
    });
    const gone = () => {
      if (this.worker !== worker) return;
      this.worker = null;
      for (const { reject } of this.waiting.values()) reject(new Error('The check of a rig was broken off: try it again.'));
      this.waiting.clear();
    };
    worker.on('error', gone);
    worker.on('exit', gone);
    worker.unref();
    return worker;
  }
}
