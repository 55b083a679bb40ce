import type { Fields } from '../messages/shapes';
import type { RigDocument } from '../rig/document';
import type { PartOf, MemberPart, PartKind } from './parts';

/** What sounds together on a stream: its tones, rising, and the pitch class that they are built on. */
export interface Harmony {
  root: number;
  tones: readonly number[];
}

/** A voice that is held on a stream. */
export interface Held {
  voice: number;
  pitch: number;
  strike: number;
}

/** How long a voice of a member lasts: so many beats or ms, or until it is ended by its key. */
export type Lasts = { beats: number } | { ms: number } | 'held';

/** What a member has for hearing and for being heard; handed to its kind with every call. `M`: what the kind remembers, as plain data. */
export interface Playing<P, M> {
  readonly part: P;
  readonly memory: M;
  readonly nowMs: number;
  /** The beat, from the beginning of the piece where the transport runs. */
  readonly beat: number;
  readonly barBeats: number;
  readonly running: boolean;
  /** Whether the gate that is followed now was held through a lost line: what a press did once was done. */
  readonly heldOn: boolean;
  /** A number in [0, 1) that depends on the draw, the member and the seed alone. */
  chance(draw: number): number;
  /** Where a signal lies in its range, 0 to 1; its rest where it was never heard. */
  level(signal: string): number;
  /** How long a signal took for its way to where it is, in ms: a rest before that is no part of it. */
  wayMs(signal: string): number;
  isOn(gate: string): boolean;
  /** What sounds on a stream: the chord of a member that has one, or what is held; null for nothing. */
  harmony(stream: string): Harmony | null;
  /** Something begins to sound. @param key by which `end` finds it */
  sound(pitch: number, strike: number, lasts: Lasts, key?: number): void;
  end(key: number): void;
  endAll(): void;
  /** What sounds is pressed or slid; NaN where it stays. */
  move(pressure: number, slide: number): void;
  /** Something begins to sound in so many beats, or with a negative strike ends. */
  later(beats: number, pitch: number, strike: number, lasts: Lasts, key?: number): void;
  /** Calls `wake` at the next beat or bar, as the member begins; at once where that is now. */
  wakeInTime(): void;
}

/** How a kind of member goes on by itself: at even steps. */
export interface Steps<P, M> {
  everyBeats(play: Playing<P, M>): number;
  /** Whether there is something to go on with. */
  goesOn(play: Playing<P, M>): boolean;
  /** Whether it goes on with the transport alone. */
  withTransport: boolean;
  /** A step comes. @param step from 0 at the beginning of the piece, or where it began by itself */
  play(play: Playing<P, M>, step: number): void;
}

/** All that is known of a kind of member: one of these is one file, and a row in `kinds/index`. */
export interface MemberKind<P extends MemberPart, M extends object = object> {
  name: string;
  /** What it does, in a sentence. */
  about: string;
  /** The fields of its part besides `kind`. Ids of streams among them are what it listens to, ids of signals what it follows. */
  fields: Fields;
  fresh(rig: RigDocument): P;
  /** What it does, in words. */
  words(part: P, nameOf: (id: string) => string): string;
  remember(): M;
  /** What must stay the same so that what is held goes on where the part is edited. */
  holdsBy?(part: P): string;
  /** The part was edited, and what is held goes on: what the new one does not keep going ends. */
  edited?(play: Playing<P, M>): void;
  /** What of it stays when everything is stopped; absent: nothing. */
  rest?(memory: M, part: P): M;
  /** A voice of a stream that it listens to begins, or with no strike ends. */
  hear?(play: Playing<P, M>, stream: string, held: Held, on: boolean): void;
  /** A voice of a stream that it listens to is pressed or slid; NaN where it is not. */
  moved?(play: Playing<P, M>, pressure: number, slide: number): void;
  /** A signal that it follows has moved; `before` and `level` as places in its range, of gates their strength. */
  follow?(play: Playing<P, M>, signal: string, level: number, before: number): void;
  /** Whether a signal is a gate that it is played by, so that it may be the first note of the piece. */
  asksBy?(part: P, signal: string): boolean;
  /** Of one without steps: whether a gate holds it on, so that what else it follows makes it sound. */
  isHeldOn?(play: Playing<P, M>): boolean;
  /** What it waited for in time has come. */
  wake?(play: Playing<P, M>): void;
  steps?: Steps<P, M>;
  /** The chord that others hear of it. */
  harmony?(memory: M): Harmony | null;
}

export type KindOf<K extends PartKind, M extends object> = MemberKind<PartOf<K>, M>;
