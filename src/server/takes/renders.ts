import { Worker } from 'node:worker_threads';
import { ProblemError } from '../../protocol/problem';
import type { ShownBeyond } from '../../core/takes/shown';
import type { Sketch } from '../../core/takes/sketch';
import type { TidyStep } from '../../core/takes/tidy';
import type { TakeRepository } from '../storage/takeRepository';
import type { FromRenderer, ToRenderer } from './renderWorker';

export interface Rendered {
  pieces: Uint8Array[];
  messages: number;
  /** What the log names and the rig does not have, with how often. */
  leftOut: [string, number][];
  sketch: Sketch | null;
  /** What it shows that the rig that the take began with does not have. */
  beyond: ShownBeyond | null;
}

/** A take that is being rendered: how far it is, and how it is stopped. */
export interface Rendering {
  take: string;
  name: string;
  /** From 0 to 1. */
  progress: number;
  stop(): void;
}

/** The part of a worker thread that is used here; a test brings its own. */
export interface RenderWorker {
  postMessage(said: ToRenderer): void;
  on(event: 'message', listener: (said: FromRenderer) => void): unknown;
  on(event: 'error' | 'exit', listener: () => void): unknown;
  terminate(): unknown;
}

/** Renders takes in worker threads of their own, a few pieces at a time, so that nothing here or there holds a whole log. */
export class Renders {
  readonly running = new Set<Rendering>();

  constructor(
    private readonly takes: Pick<TakeRepository, 'beginning' | 'pieces' | 'find'>,
    private readonly start: () => RenderWorker = () => new Worker(new URL('./renderTake.js', import.meta.url)),
  ) {}

  /** A score after the steps of a recipe. */
  async tidy(score: Uint8Array[], recipe: TidyStep[], bpm: number, bendSemitones: Record<string, number>): Promise<Uint8Array[]> {
    const answer = await this.once({ kind: 'tidy', score, recipe, bpm, bendSemitones });
    if (answer?.kind !== 'score') throw brokeOff(answer);
    return answer.pieces;
  }

  /** A score as a MIDI file. */
  async midi(said: Omit<ToRenderer & { kind: 'midi' }, 'kind'>): Promise<Uint8Array> {
    const answer = await this.once({ kind: 'midi', ...said });
    if (answer?.kind !== 'file') throw brokeOff(answer);
    return answer.bytes;
  }

  private async once(said: ToRenderer): Promise<FromRenderer | null> {
    const worker = this.start();
    try {
      return await new Promise<FromRenderer | null>((resolve) => {
        worker.on('message', resolve);
        for (const event of ['error', 'exit'] as const) worker.on(event, () => resolve(null));
        worker.postMessage(said);
      });
    } finally {
      void worker.terminate();
    }
  }

  /**
   * The messages of a take, given to `keep`; through another rig where one is given (JSON). It counts as running from the call until that is
   * done: whoever sees that it runs no more finds what came of it.
   * Throws a `ProblemError` where it cannot be rendered, and null comes where it was stopped.
   */
  async render<T>(take: string, name: string, through: string | null, keep: (rendered: Rendered) => Promise<T>): Promise<T | null> {
    const worker = this.start();
    let stopped = false;
    const rendering: Rendering = {
      take,
      name,
      progress: 0,
      stop: () => {
        stopped = true;
        void worker.terminate();
      },
    };
    this.running.add(rendering);
    let answered: (said: FromRenderer | null) => void = () => undefined;
    worker.on('message', (said) => answered(said));
    for (const event of ['error', 'exit'] as const) worker.on(event, () => answered(null));
    const ask = (said: ToRenderer) =>
      new Promise<FromRenderer | null>((resolve) => {
        answered = resolve;
        if (stopped) resolve(null);
        else worker.postMessage(said);
      });
    const go = async (said: ToRenderer): Promise<FromRenderer | null> => {
      const answer = await ask(said);
      if (answer?.kind === 'failed' || (!answer && !stopped)) throw brokeOff(answer);
      return answer;
    };
    try {
      const [summary, beginning] = await Promise.all([this.takes.find(take), this.takes.beginning(take)]);
      if (!summary || !beginning) throw new ProblemError('not-found', 'take', 'There is no such take any more.');
      if (!(await go({ kind: 'begin', start: beginning, through }))) return null;
      let bytes = 0;
      for await (const pieces of this.takes.pieces(take)) {
        if (!(await go({ kind: 'pieces', pieces }))) return null;
        bytes += pieces.reduce((sum, piece) => sum + piece.length, 0);
        // Pieces lie compressed on the disk, so this is a guess that ends below 1.
        rendering.progress = Math.min(0.99, bytes / Math.max(bytes, summary.events * 4));
      }
      const score = await go({ kind: 'end', lastMs: beginning.startMs + summary.lengthMs });
      return score?.kind === 'score' ? await keep(score) : null;
    } finally {
      this.running.delete(rendering);
      void worker.terminate();
    }
  }
}

function brokeOff(answer: FromRenderer | null): ProblemError {
  return answer?.kind === 'failed' ? new ProblemError('invalid', 'take', answer.sentence) : new ProblemError('internal', 'take', 'This broke off: try it again.');
}
