import { noteName } from '../midi/describe';
import { STATUS } from '../midi/message';
import type { MessageKind, Range } from './kind';
import { channel, object, pair, sevenBit } from './shapes';

/** Pressure of one note: of this number, or of whatever another mapping sounds (MIDI 1.0, Polyphonic Key Pressure). */
export interface PolyPressure {
  kind: 'polyPressure';
  channel: number;
  note: number | { of: string };
  range: Range;
}

export const polyPressure: MessageKind<PolyPressure> = {
  name: 'Pressure of a note',
  body: 'midi',
  fields: { channel, note: { is: 'objectOr', object: object({ of: { is: 'id', of: 'mapping' } }), other: sevenBit }, range: pair(sevenBit) },
  presses: 'never',
  hasMiddle: true,
  holdsValue: true,
  address: ({ channel: on, note }) => `${on} poly ${typeof note === 'number' ? note : `of ${note.of}`}`,
  words: ({ note }) => `pressure ${typeof note === 'number' ? noteName(note) : 'of its note'}`,
  holds: ({ note }) => (typeof note === 'number' ? [{ kind: 'polyPressure', number: note }] : []),
  limits: () => [0, 127],
  fresh: ({ channel: on, note }) => ({ kind: 'polyPressure', channel: on, note, range: [0, 127] }),
  *others(message) {
    if (typeof message.note !== 'number') return yield message;
    for (let note = message.note + 1; note < 128; note++) yield { ...message, note };
  },
  // One that follows a mapping is written by the engine, which knows what sounds.
  write: (message, value, pen) => pen.three(STATUS.polyPressure | (message.channel - 1), message.note as number, value),
};
