import { BEND_CENTRE, STATUS } from '../midi/message';
import { rangeOut } from '../shaping/rangeOut';
import { onEachChannel, type MessageKind, type Range } from './kind';
import { channel, choice, fourteenBit, number, optional, pair } from './shapes';

/** Bends all notes of a channel, in steps of the wire or in semitones by the bend range of the receiver. */
export interface PitchBend {
  kind: 'pitchBend';
  channel: number;
  range: Range;
  unit?: 'steps' | 'semitones';
}

export const pitchBend: MessageKind<PitchBend> = {
  name: 'Pitch bend',
  body: 'midi',
  fields: {
    channel,
    unit: optional(choice('steps', 'semitones')),
    range: { is: 'by', field: 'unit', value: 'semitones', then: pair(number(-96, 96)), otherwise: pair(fourteenBit) },
  },
  presses: 'never',
  hasMiddle: true,
  holdsValue: true,
  address: (message) => `${message.channel} bend`,
  words: () => 'bend',
  holds: () => [{ kind: 'bend', number: null }],
  limits({ unit, range }) {
    if (unit !== 'semitones') return [0, 16383];
    const most = Math.max(...range.map(Math.abs), 1);
    return [-most, most];
  },
  restsAt: ({ unit }) => (unit === 'semitones' ? 0 : BEND_CENTRE),
  wireRange({ unit, range }, bendRangeSemitones) {
    if (unit !== 'semitones') return range;
    const bend = (semitones: number) => (bendRangeSemitones > 0 ? BEND_CENTRE + (BEND_CENTRE * semitones) / bendRangeSemitones : BEND_CENTRE);
    return [bend(range[0]), bend(range[1])];
  },
  wireLimits: () => [0, 16383],
  fresh: ({ channel: on }) => ({ kind: 'pitchBend', channel: on, range: [0, 16383] }),
  others: (message) => onEachChannel(message),
  // A tenth of a semitone is heard.
  leaving({ unit, range }, level) {
    const parts = unit === 'semitones' ? 10 : 1;
    return Math.round(parts * rangeOut(level, ...range)) / parts;
  },
  write: (message, value, pen) => pen.three(STATUS.pitchBend | (message.channel - 1), value & 0x7f, value >> 7),
};
