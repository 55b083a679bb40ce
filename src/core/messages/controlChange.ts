import { STATUS } from '../midi/message';
import { channelsFrom, type MessageKind, type Range } from './kind';
import { channel, pair, sevenBit, whole } from './shapes';

/** A controller of 7 bits (MIDI 1.0, Control Change). */
export interface ControlChange {
  kind: 'controlChange';
  channel: number;
  controller: number;
  range: Range;
}

/** 120-127 are channel mode messages and never plain controllers (engine.md, ledger rules). */
export const MOST_CONTROLLER = 119;

export const controlChange: MessageKind<ControlChange> = {
  name: 'Controller',
  body: 'midi',
  fields: { channel, controller: whole(0, MOST_CONTROLLER), range: pair(sevenBit) },
  presses: 'never',
  hasMiddle: true,
  holdsValue: true,
  address: (message) => `${message.channel} cc ${message.controller}`,
  words: ({ controller }) => `CC ${controller}`,
  holds: ({ controller }) => [{ kind: 'controller', number: controller }],
  limits: () => [0, 127],
  fresh: ({ channel: on, controller }) => ({ kind: 'controlChange', channel: on, controller, range: [0, 127] }),
  others: (message, free) => countedOn(message, free),
  write: (message, value, pen) => pen.three(STATUS.controlChange | (message.channel - 1), message.controller, value),
};

/** The same on the controllers above it and then on all free ones, of its channel and of those after it. */
export function* countedOn<M extends { channel: number; controller: number }>(message: M, free: (channel: number) => readonly number[]): Generator<M> {
  for (const on of channelsFrom(message.channel)) {
    const above = on === message.channel ? free(on).filter((number) => number > message.controller) : [];
    for (const controller of [...above, ...free(on)]) yield { ...message, channel: on, controller };
  }
}
