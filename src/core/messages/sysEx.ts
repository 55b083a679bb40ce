import { STATUS } from '../midi/message';
import type { MessageKind, Range } from './kind';
import { fourteenBit, list, pair, sevenBit } from './shapes';

/** Any system exclusive message, with places for the value: of 7 bits, or the two halves of 14. */
export interface SysEx {
  kind: 'sysEx';
  /** Between F0 and F7. */
  bytes: (number | 'value' | 'msb' | 'lsb')[];
  range: Range;
}

/** Stands for a manufacturer that is none: free for anything that is not sold (MIDI 1.0, SysEx ids). */
const NO_MANUFACTURER = 0x7d;

const most = ({ bytes }: SysEx) => (bytes.includes('msb') ? 16383 : 127);

export const sysEx: MessageKind<SysEx> = {
  name: 'SysEx',
  body: 'midi',
  fields: { bytes: list({ is: 'wordOr', of: ['value', 'msb', 'lsb'], other: sevenBit }, 1, 256), range: pair(fourteenBit) },
  presses: 'never',
  hasMiddle: false,
  holdsValue: true,
  address: ({ bytes }) => `sysex ${bytes.join(' ')}`,
  words: () => 'SysEx',
  holds: () => [{ kind: 'other', number: null }],
  limits: (message) => [0, most(message)],
  wireLimits: (message) => [0, most(message)],
  fresh: () => ({ kind: 'sysEx', bytes: [NO_MANUFACTURER, 'value'], range: [0, 127] }),
  others: () => [],
  write({ bytes }, value, pen) {
    pen.put(STATUS.sysEx);
    for (const byte of bytes) pen.put(byte === 'msb' ? value >> 7 : byte === 'lsb' || byte === 'value' ? value & 0x7f : byte & 0x7f);
    pen.put(STATUS.endOfSysEx);
  },
};
