import { STATUS } from '../midi/message';
import { onEachChannel, type MessageKind, type Range } from './kind';
import { channel, pair, sevenBit } from './shapes';

/** Pressure of all notes of a channel (MIDI 1.0, Channel Pressure). */
export interface ChannelPressure {
  kind: 'channelPressure';
  channel: number;
  range: Range;
}

export const channelPressure: MessageKind<ChannelPressure> = {
  name: 'Channel pressure',
  body: 'midi',
  fields: { channel, range: pair(sevenBit) },
  presses: 'never',
  hasMiddle: true,
  holdsValue: true,
  address: (message) => `${message.channel} pressure`,
  words: () => 'pressure',
  holds: () => [{ kind: 'pressure', number: null }],
  limits: () => [0, 127],
  fresh: ({ channel: on }) => ({ kind: 'channelPressure', channel: on, range: [0, 127] }),
  others: (message) => onEachChannel(message),
  write(message, value, pen) {
    pen.put(STATUS.channelPressure | (message.channel - 1));
    pen.put(value);
  },
};
