import type { ScoreLane } from '../../../core/takes/lanes';
import type { TidyStep } from '../../../core/takes/tidy';

/** The samples of one signal in a take. */
export interface SignalLane {
  kind: 'signal';
  id: string;
  atMs: Float64Array<ArrayBuffer>;
  value: Float64Array<ArrayBuffer>;
}

/** Something in the log that is no sample: a scene, an edit, Panic. */
export interface LogEntry {
  atMs: number;
  words: string;
}

/** What the worker of a take is asked. */
export type ToTakeWorker =
  | { kind: 'load'; score: string; before: string | null; log: string; bendRanges: Record<string, number>; lengthMs: number }
  | { kind: 'tidy'; asked: number; recipe: TidyStep[]; bpm: number };

export type FromTakeWorker =
  | { kind: 'score'; lanes: ScoreLane[]; messages: number }
  | { kind: 'before'; lanes: ScoreLane[] }
  | { kind: 'log'; signals: SignalLane[]; entries: LogEntry[] }
  | { kind: 'tidied'; asked: number; lanes: ScoreLane[]; said: string[]; messages: number }
  | { kind: 'failed'; sentence: string };
