import { noteName } from '../midi/describe';
import type { Amount } from '../signal/formulas';
import { channelsFrom, type MessageKind } from './kind';
import { amount, channel, choice, list, milliseconds, number, object, optional, sevenBit, whole } from './shapes';

/** A note, or the notes of a chord, while a press holds. */
export interface Note {
  kind: 'note';
  channel: number;
  note: number;
  /** Used as it is with `velocityFrom: 'fixed'` (the default), else the velocity at full strength or speed. */
  velocity: number;
  velocityFrom?: 'fixed' | 'strength' | { fullSpeedPerS: number };
  length?: 'held' | { ms: number } | 'untilPressedAgain';
  releaseVelocity?: number;
  /** Semitones above `note` that sound with it, `note` itself being 0. */
  chord?: number[];
  transpose?: number;
  /** While held the note is struck again, every so many beats or at a rate. */
  repeat?: { beats: number } | { rateHz: Amount };
}

const VELOCITY = 100;

export const note: MessageKind<Note> = {
  name: 'Note',
  body: 'midi',
  fields: {
    channel,
    note: sevenBit,
    velocity: whole(1, 127),
    velocityFrom: optional({ is: 'objectOr', object: object({ fullSpeedPerS: number(0.001, 10_000) }), other: choice('fixed', 'strength') }),
    length: optional({ is: 'objectOr', object: object({ ms: { ...milliseconds, least: 1 } as typeof milliseconds }), other: choice('held', 'untilPressedAgain') }),
    releaseVelocity: optional(sevenBit),
    chord: optional(list(whole(-64, 64), 1, 16, true)),
    transpose: optional(whole(-127, 127)),
    repeat: optional({ is: 'having', field: 'beats', then: object({ beats: number(1 / 64, 64) }), otherwise: object({ rateHz: amount(number(0.01, 100)) }) }),
  },
  presses: 'always',
  hasMiddle: true,
  holdsValue: false,
  address: (message) => `${message.channel} note ${message.note}`,
  words: (message) => `note ${noteName(message.note)}`,
  holds: ({ note: root, chord = [0], transpose = 0 }) =>
    chord
      .map((offset) => root + transpose + offset)
      .filter((sounding) => sounding >= 0 && sounding <= 127)
      .map((sounding) => ({ kind: 'note', number: sounding })),
  wireRange: () => [0, 1],
  fresh: ({ channel: on, note: root }) => ({ kind: 'note', channel: on, note: root, velocity: VELOCITY }),
  *others(message) {
    for (const on of channelsFrom(message.channel)) {
      for (let next = on === message.channel ? message.note + 1 : message.note; next < 128; next++) yield { ...message, channel: on, note: next };
    }
  },
  leaving: ({ velocity }, level) => (level > 0 ? velocity : 0),
  fullness: ({ velocity }, level) => (level > 0 ? velocity / 127 : 0),
  // Notes have an end: the engine's note player writes both.
  write: () => undefined,
};
