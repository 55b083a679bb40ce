import { STATUS } from '../midi/message';
import { onEachChannel, type MessageKind, type Range } from './kind';
import { channel, object, optional, pair, sevenBit, whole } from './shapes';

/** A program, 1 to 128 as people count them, after a bank select if there is one. */
export interface ProgramChange {
  kind: 'programChange';
  channel: number;
  range: Range;
  bank?: { msb: number; lsb: number };
}

const BANK_MSB = 0;
const BANK_LSB = 32;

export const programChange: MessageKind<ProgramChange> = {
  name: 'Program change',
  body: 'midi',
  fields: { channel, range: pair(whole(1, 128)), bank: optional(object({ msb: sevenBit, lsb: sevenBit })) },
  presses: 'byGates',
  hasMiddle: false,
  holdsValue: true,
  address: (message) => `${message.channel} program`,
  words: () => 'program',
  holds: () => [{ kind: 'program', number: null }],
  limits: () => [1, 128],
  wireRange: ({ range }) => [range[0] - 1, range[1] - 1],
  fresh: ({ channel: on }) => ({ kind: 'programChange', channel: on, range: [1, 128] }),
  others: (message) => onEachChannel(message),
  write({ channel: on, bank }, value, pen) {
    if (bank) {
      pen.three(STATUS.controlChange | (on - 1), BANK_MSB, bank.msb);
      pen.three(STATUS.controlChange | (on - 1), BANK_LSB, bank.lsb);
    }
    pen.put(STATUS.programChange | (on - 1));
    pen.put(value);
  },
};
