import { STATUS } from '../../midi/message';
import type { ScoreMessage } from '../score';
import { statusOf } from '../notes';

/** A curve of one address: its points, each of which is one or two messages (a controller of 14 bits has two). */
export interface Curve {
  address: string;
  /** The largest number it can send. */
  most: number;
  points: CurvePoint[];
}

export interface CurvePoint {
  atMs: number;
  value: number;
  /** Places in the list of messages. */
  from: number[];
}

/** Selecting a parameter, its data, and what else means something by being said. */
const IS_NO_CURVE = new Set([0, 6, 32, 38, 64, 65, 66, 67, 68, 69, 84, 88, 96, 97, 98, 99, 100, 101, 120, 121, 122, 123, 124, 125, 126, 127]);
/** From a controller to the one of its lower half (MIDI 1.0, Control Change). */
export const LSB = 32;

/**
 * The curves of a list of messages: controllers, bends and pressures. Switches, pedals, bank and parameter selection and its
 * data are none. A controller below 32 whose fine half is sent too is one curve of 14 bits.
 */
export function curvesOf(messages: readonly ScoreMessage[]): Curve[] {
  const fine = new Set<string>();
  for (const message of messages) if (statusOf(message) === STATUS.controlChange && message.bytes[1]! >= LSB && message.bytes[1]! < 2 * LSB) fine.add(`${placeOf(message)} ${message.bytes[1]! - LSB}`);
  const curves = new Map<string, Curve>();
  const halves = new Map<string, { msb: number; lsb: number }>();
  messages.forEach((message, i) => {
    const { bytes, atMs } = message;
    let [address, value, most] = [`${placeOf(message)} ${statusOf(message)}`, 0, 127];
    switch (statusOf(message)) {
      case STATUS.controlChange: {
        const controller = bytes[1]!;
        const isFine = controller >= LSB && controller < 2 * LSB;
        const number = isFine ? controller - LSB : controller;
        if (IS_NO_CURVE.has(controller) || IS_NO_CURVE.has(number)) return;
        address = `${address} ${number}`;
        value = bytes[2]!;
        if (!fine.has(`${placeOf(message)} ${number}`)) break;
        const half = halves.get(address) ?? { msb: 0, lsb: 0 };
        halves.set(address, half);
        // A new upper half sets the lower one to zero (MIDI 1.0, Control Change).
        Object.assign(half, isFine ? { lsb: value } : { msb: value, lsb: 0 });
        value = half.msb * 128 + half.lsb;
        most = 16383;
        const last = curves.get(address)?.points.at(-1);
        // The two halves of one value: the lower one belongs to the upper one just before it.
        if (isFine && last && last.atMs === atMs && last.from.length === 1 && messages[last.from[0]!]!.bytes[1] === number) {
          last.value = value;
          last.from.push(i);
          return;
        }
        break;
      }
      case STATUS.pitchBend:
        value = bytes[1]! + bytes[2]! * 128;
        most = 16383;
        break;
      case STATUS.channelPressure:
        value = bytes[1]!;
        break;
      case STATUS.polyPressure:
        address = `${address} ${bytes[1]}`;
        value = bytes[2]!;
        break;
      default:
        return;
    }
    const curve = curves.get(address) ?? { address, most, points: [] };
    curves.set(address, curve);
    curve.points.push({ atMs, value, from: [i] });
  });
  return [...curves.values()];
}

const placeOf = ({ source, bytes }: ScoreMessage) => `${source.output} ${bytes[0]! & 0x0f}`;
