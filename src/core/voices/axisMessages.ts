import { STATUS } from '../midi/message';
import type { AxisMessage } from '../rig/voices';

/** Where the bytes of an axis go. */
interface AxisPen {
  three(status: number, data1: number, data2: number): void;
  put(byte: number): void;
}

interface AxisKind<M> {
  name: string;
  /** The largest number of the wire. */
  most: number;
  /** `channel` from 0, `note` the one that sounds; `before` the value that the channel holds, -1 where that is not known. */
  write(message: M, pen: AxisPen, channel: number, note: number, value: number, before: number): void;
  words(message: M): string;
}

const FINE = 32;

/** What an axis of a voice can become. */
export const AXIS_MESSAGES: { [K in AxisMessage['kind']]: AxisKind<Extract<AxisMessage, { kind: K }>> } = {
  controlChange: {
    name: 'Controller',
    most: 127,
    write: ({ controller }, pen, channel, _, value) => pen.three(STATUS.controlChange | channel, controller, value),
    words: ({ controller }) => `CC ${controller}`,
  },
  controlChange14: {
    name: 'Controller, 14 bits',
    most: 16383,
    write({ controller }, pen, channel, _, value, before) {
      if (before < 0 || before >> 7 !== value >> 7) pen.three(STATUS.controlChange | channel, controller, value >> 7);
      pen.three(STATUS.controlChange | channel, controller + FINE, value & 0x7f);
    },
    words: ({ controller }) => `CC ${controller} and ${controller + FINE}`,
  },
  channelPressure: {
    name: 'Channel pressure',
    most: 127,
    write(_, pen, channel, __, value) {
      pen.put(STATUS.channelPressure | channel);
      pen.put(value);
    },
    words: () => 'channel pressure',
  },
  polyPressure: {
    name: 'Poly pressure',
    most: 127,
    write: (_, pen, channel, note, value) => pen.three(STATUS.polyPressure | channel, note, value),
    words: () => 'poly pressure',
  },
};
export const AXIS_MESSAGE_KINDS = Object.keys(AXIS_MESSAGES) as AxisMessage['kind'][];

export function kindOfAxis<M extends AxisMessage>(message: M): AxisKind<M> {
  return AXIS_MESSAGES[message.kind] as unknown as AxisKind<M>;
}
