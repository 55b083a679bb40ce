import { LSB } from '../midi/halves';
import { STATUS } from '../midi/message';
import { channelsFrom, NOTHING, type MessageKind, type Range } from './kind';
import { channel, fourteenBit, pair, whole } from './shapes';

/** A controller of 14 bits: two of 7, the second 32 above the first (MIDI 1.0, Control Change). */
export interface ControlChange14 {
  kind: 'controlChange14';
  channel: number;
  controller: number;
  range: Range;
}

export const controlChange14: MessageKind<ControlChange14> = {
  name: 'Controller of 14 bits',
  body: 'midi',
  fields: { channel, controller: whole(0, LSB - 1), range: pair(fourteenBit) },
  presses: 'never',
  hasMiddle: true,
  holdsValue: true,
  address: (message) => `${message.channel} cc14 ${message.controller}`,
  words: ({ controller }) => `CC ${controller} fine`,
  holds: ({ controller }) => [
    { kind: 'controller', number: controller },
    { kind: 'controller', number: controller + LSB },
  ],
  limits: () => [0, 16383],
  wireLimits: () => [0, 16383],
  fresh: ({ channel: on, controller, free }) => ({
    kind: 'controlChange14',
    channel: on,
    controller: controller < LSB ? controller : (free.find((number) => number < LSB) ?? 20),
    range: [0, 16383],
  }),
  *others(message, free) {
    for (const on of channelsFrom(message.channel)) for (const controller of free(on)) if (controller < LSB) yield { ...message, channel: on, controller };
  },
  write(message, value, pen, _, before) {
    const status = STATUS.controlChange | (message.channel - 1);
    // MSB first; a receiver clears the LSB when it hears one, so the LSB always follows (MIDI 1.0).
    if (before === NOTHING || before >> 7 !== value >> 7) pen.three(status, message.controller, value >> 7);
    pen.three(status, message.controller + LSB, value & 0x7f);
  },
};
