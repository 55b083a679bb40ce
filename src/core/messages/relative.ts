import { STATUS } from '../midi/message';
import { countedOn, MOST_CONTROLLER } from './controlChange';
import type { MessageKind } from './kind';
import { channel, choice, number, object, optional, whole } from './shapes';

export const RELATIVE_ENCODINGS = ['signedBit', 'twosComplement', 'binaryOffset'] as const;
export type RelativeEncoding = (typeof RELATIVE_ENCODINGS)[number];

/** Steps of an endless controller, up or down, in one of the encodings in use (common practice, engine.md). */
export interface Relative {
  kind: 'relative';
  channel: number;
  controller: number;
  encoding: RelativeEncoding;
  /** Steps for the whole way, and at most so many in one message. */
  steps: number;
  most: number;
  /** While that gate is on, a step takes so many times the way. */
  fine?: { signal: string; divideBy: number };
}

export const relative: MessageKind<Relative> = {
  name: 'Relative controller',
  body: 'midi',
  fields: {
    channel,
    controller: whole(0, MOST_CONTROLLER),
    encoding: choice(...RELATIVE_ENCODINGS),
    steps: number(1, 16384),
    most: whole(1, 63),
    fine: optional(object({ signal: { is: 'id', of: 'signal' }, divideBy: number(1, 1000) })),
  },
  presses: 'never',
  hasMiddle: false,
  holdsValue: false,
  address: (message) => `${message.channel} cc ${message.controller}`,
  words: ({ controller }) => `CC ${controller} relative`,
  holds: ({ controller }) => [{ kind: 'controller', number: controller }],
  wireRange: () => [0, 1],
  fresh: ({ channel: on, controller }) => ({ kind: 'relative', channel: on, controller, encoding: 'signedBit', steps: 128, most: 8 }),
  others: (message, free) => countedOn(message, free),
  leaving: ({ steps }, level) => Math.round(level * steps),
  fullness: (_, level) => level,
  /** `value` is a number of steps, less than 0 for down. */
  write({ channel: on, controller, encoding }, value, pen) {
    const coded = encoding === 'signedBit' ? (value > 0 ? value : 64 - value) : encoding === 'twosComplement' ? value & 0x7f : 64 + value;
    pen.three(STATUS.controlChange | (on - 1), controller, coded);
  },
};
