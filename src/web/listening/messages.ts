import type { Profile } from '../../core/listening/profile';
import type { LineStatus } from '../live/line';

/** From the page to its worker. `audio` is the end of a channel on which blocks of 128 samples come, or the stand-in that is listened to. */
export type ToListener =
  | { kind: 'start'; hubUrl: string; report: string; name: string; profile: Profile; audio: MessagePort | { standIn: string } }
  | { kind: 'profile'; profile: Profile }
  /** What is sung from now on is a vowel until enough of it was heard, or what is struck is an example of a sound until that is ended. */
  | { kind: 'teach'; what: 'vowel' | 'sound'; name: string }
  | { kind: 'endTeaching' }
  | { kind: 'stop' };

/** How it sounds now, told about sixty times a second. */
export interface HeardNow {
  /** Of audio that was taken in. */
  timeMs: number;
  hz: number;
  clarity: number;
  levelDb: number;
  clips: boolean;
  /** How much of each vowel, in the order of the profile; empty where none sounds. */
  vowels: number[];
  vowelsHold: boolean;
  open: number;
  front: number;
  /** The pitch of the note that sounds, NaN for none. */
  note: number;
  /** Why none does, where something is heard. */
  whyNot: string | null;
  /** The pitch of each hop since the last of these, NaN where there was none. */
  trace: Float32Array;
  /** How long the analysis of a hop took, in ms, on average. */
  hopMs: number;
  /** Of audio that was not heard since this computer was too busy, in ms so far. */
  leftOutMs: number;
}

/** What the audio thread hands on: 128 samples, and when it had them, in ms since 1970. */
export interface CapturedBlock {
  samples: Float32Array;
  takenMs: number;
}

/** From the worker to its page. */
export type FromListener =
  | { kind: 'now'; now: HeardNow }
  /** `pageTimeMs`: when its onset came in, in ms since 1970. */
  | { kind: 'struck'; sound: string | null; strength: number; pageTimeMs: number; example: number[] }
  | { kind: 'line'; status: LineStatus; stage: boolean }
  /** A lesson is over, with the features of so many moments. */
  | { kind: 'taughtVowel'; name: string; features: number[][] }
  | { kind: 'taughtSound'; name: string; example: number[] }
  /** A moment later: how an example of a sound sounds. */
  | { kind: 'soundOf'; example: number[]; samples: Float32Array };
