import { STATUS } from '../midi/message';
import type { AxisMessage } from '../rig/voices';

/** Where the bytes of an axis go. */
interface AxisPen {
  three(status: number, data1: number, data2: number): void;
  put(byte: number): void;
}

export interface AxisKind<M> {
  name: string;
  /** By which outputs it leaves. */
  body: 'midi' | 'osc';
  /** The numbers that it takes. */
  least: number;
  most: number;
  /** What it belongs to: the channel of the voice, its key whether it sounds or not, its note while that sounds, or the voice itself. */
  of: 'channel' | 'key' | 'note' | 'voice';
  /** `channel` from 0, `note` the one that sounds; `before` the value that the channel holds, -1 where that is not known. */
  write(message: M, pen: AxisPen, channel: number, note: number, value: number, before: number): void;
  words(message: M): string;
}

const FINE = 32;
const ALL_DEVICES = 0x7f;
const SEVEN_BITS = { body: 'midi', least: 0, most: 127 } as const;

/** What an axis of a voice can become. */
export const AXIS_MESSAGES: { [K in AxisMessage['kind']]: AxisKind<Extract<AxisMessage, { kind: K }>> } = {
  controlChange: {
    name: 'Controller',
    ...SEVEN_BITS,
    of: 'channel',
    write: ({ controller }, pen, channel, _, value) => pen.three(STATUS.controlChange | channel, controller, value),
    words: ({ controller }) => `CC ${controller}`,
  },
  controlChange14: {
    name: 'Controller, 14 bits',
    body: 'midi',
    least: 0,
    most: 16383,
    of: 'channel',
    write({ controller }, pen, channel, _, value, before) {
      if (before < 0 || before >> 7 !== value >> 7) pen.three(STATUS.controlChange | channel, controller, value >> 7);
      pen.three(STATUS.controlChange | channel, controller + FINE, value & 0x7f);
    },
    words: ({ controller }) => `CC ${controller} and ${controller + FINE}`,
  },
  channelPressure: {
    name: 'Channel pressure',
    ...SEVEN_BITS,
    of: 'channel',
    write(_, pen, channel, __, value) {
      pen.put(STATUS.channelPressure | channel);
      pen.put(value);
    },
    words: () => 'channel pressure',
  },
  polyPressure: {
    name: 'Poly pressure',
    ...SEVEN_BITS,
    of: 'note',
    write: (_, pen, channel, note, value) => pen.three(STATUS.polyPressure | channel, note, value),
    words: () => 'poly pressure',
  },
  keyController: {
    name: 'Controller of each key',
    ...SEVEN_BITS,
    of: 'key',
    // Key-Based Instrument Control, MIDI 1.0 CA-023 (from memory of it): F0 7F device 0A 01 0n kk cc vv F7.
    write({ controller }, pen, channel, note, value) {
      pen.three(STATUS.sysEx, 0x7f, ALL_DEVICES);
      pen.three(0x0a, 0x01, channel);
      pen.three(note, controller, value);
      pen.put(STATUS.endOfSysEx);
    },
    words: ({ controller }) => `key controller ${controller}`,
  },
  osc: {
    name: 'OSC message',
    body: 'osc',
    least: -Infinity,
    most: Infinity,
    of: 'voice',
    // No bytes of MIDI.
    write: () => undefined,
    words: ({ part }) => `/${part}`,
  },
};
export const AXIS_MESSAGE_KINDS = Object.keys(AXIS_MESSAGES) as AxisMessage['kind'][];

export function kindOfAxis<M extends AxisMessage>(message: M): AxisKind<M> {
  return AXIS_MESSAGES[message.kind] as unknown as AxisKind<M>;
}

/** The kinds that leave by an output that takes this. */
export const axisKindsOf = (body: 'midi' | 'osc'): AxisMessage['kind'][] => AXIS_MESSAGE_KINDS.filter((kind) => AXIS_MESSAGES[kind].body === body);

/** Whether a controller may be one of a key: banks, data entry, parameters and mode messages may not (CA-023, from memory of it). */
export const isKeyController = (controller: number): boolean => controller > 0 && controller < 120 && ![6, 32, 38].includes(controller) && !(controller >= 96 && controller <= 101);
