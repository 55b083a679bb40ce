import { unpackKept } from '../core/engine/snapshot';
import type { RigDocument } from '../core/rig/document';
import type { TakeRig } from '../core/takes/shown';
import type { Sketch } from '../core/takes/sketch';
import type { Mark, TakeBeginning } from '../core/takes/take';
import type { TidyStep } from '../core/takes/tidy';

/** What is done about recording: begin and end a take, end it and begin the next, keep the last half minute as one, mark this moment. */
export const RECORD_DOES = ['begin', 'end', 'next', 'keep', 'mark'] as const;
export type RecordDoes = (typeof RECORD_DOES)[number];

/** How recording stands; said to every page where it changes, and now and then while it goes on. */
export interface RecordingState {
  /** The take that is being recorded, null for none. */
  take: string | null;
  sinceHubMs: number;
  /** Where its first beat lies: where the count before it ended, of which it may begin a little late. */
  beatsFromHubMs: number;
  events: number;
  bytes: number;
  marks: number;
  /** Bytes that are not written down yet. */
  waiting: number;
  /** In one sentence, what stands in the way; null for nothing. */
  problem: string | null;
  /** What is counted before the take begins, null for nothing. */
  counting: { sinceHubMs: number; untilHubMs: number } | null;
}

/** A take that is being played. */
export interface PlayingState {
  take: string;
  version: string;
  /** Of the take. */
  name: string;
  /** Where it began, and when. */
  fromMs: number;
  sinceHubMs: number;
  speed: number;
  loop: { fromMs: number; toMs: number } | null;
  /** Between these places of it a new take is recorded. */
  punch: { fromMs: number; toMs: number } | null;
  lengthMs: number;
}

/** Where in the take it is at a time of the hub's clock. */
export function playedToMs({ fromMs, sinceHubMs, speed, loop, lengthMs }: PlayingState, hubMs: number): number {
  const atMs = fromMs + Math.max(0, hubMs - sinceHubMs) * speed;
  if (!loop || atMs < loop.toMs) return Math.min(atMs, loop ? loop.toMs : lengthMs);
  return loop.fromMs + ((atMs - loop.toMs) % (loop.toMs - loop.fromMs));
}

/**
 * What the hub hands over of a take: numbered from 0 on without a gap, and said again until the web process has said that it
 * is written down. Bytes are in base64.
 */
export type TakeRecord = { take: string; number: number } & (
  | {
      kind: 'begins';
      /** Of the hub's clock, and of the calendar. */
      startMs: number;
      startedAtMs: number;
      rigId: string;
      rigName: string;
      /** JSON of the document that was in force. */
      rig: string;
      seed: number;
      /** Of the engine's state: the keys of addresses, and the rest as packed bytes (`core/engine/snapshot`). */
      addresses: string[];
      /** Null where the engine begins with the take. */
      state: string | null;
    }
  | { kind: 'piece'; firstMs: number; lastMs: number; events: number; bytes: string }
  | { kind: 'mark'; mark: Mark }
  | { kind: 'ends'; lastMs: number }
);

export const bytesOf = (base64: string) => Uint8Array.from(atob(base64), (character) => character.charCodeAt(0));

/** What the log of a take begins with, of what was handed over or written down. */
export function beginningOf({ startMs, rig, seed, addresses, state }: Pick<TakeRecord & { kind: 'begins' }, 'startMs' | 'rig' | 'seed' | 'addresses' | 'state'>): TakeBeginning {
  return { startMs, rig: JSON.parse(rig) as RigDocument, seed, state: state === null ? null : { addresses, kept: unpackKept(bytesOf(state)) } };
}

/** A take as lists show it. */
export interface TakeSummary {
  id: string;
  name: string;
  rigId: string;
  rigName: string;
  startedAtMs: number;
  lengthMs: number;
  events: number;
  /** On the disk. */
  bytes: number;
  marks: Mark[];
  /** How it looks, small; null before it was rendered. */
  sketch: Sketch | null;
  /** `cut`: what recorded it broke off; all up to there is kept. */
  state: 'recording' | 'whole' | 'cut';
}

/** The messages of a take, as they were sent or through another rig. */
export interface TakeVersion {
  id: string;
  name: string;
  madeAtMs: number;
  messages: number;
  /** What is tidied in them, step by step. */
  recipe: TidyStep[];
  /** What the log names and the rig does not have, with how often. */
  leftOut: [string, number][];
}

export interface TakeDetail {
  take: TakeSummary;
  versions: TakeVersion[];
  rig: TakeRig;
  rendering: { name: string; progress: number } | null;
  /** Why the last rendering failed, in one sentence. */
  failure: string | null;
}

/** What names a take by itself. */
export const takeName = (number: number | string) => `Take ${number}`;
