import { STATUS } from '../../midi/message';
import { LowerHalves, LSB } from '../../midi/halves';
import type { ScoreMessage } from '../score';
import { channelOf, lineOf, statusOf } from '../notes';

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

/**
 * The curves of a list of messages: controllers, bends and pressures. Switches, pedals, bank and parameter selection and its
 * data are none. A controller below 32 whose lower half is sent with it is one curve of 14 bits.
 */
export function curvesOf(messages: readonly ScoreMessage[]): Curve[] {
  const fine = finePairs(messages);
  const curves = new Map<string, Curve>();
  const halves = new Map<string, { msb: number; lsb: number }>();
  messages.forEach((message, i) => {
    const { bytes, atMs } = message;
    let [address, value, most] = [`${placeOf(message)} ${statusOf(message)}`, 0, 127];
    switch (statusOf(message)) {
      case STATUS.controlChange: {
        const controller = bytes[1]!;
        if (IS_NO_CURVE.has(controller)) return;
        const upper = controller < 2 * LSB ? controller % LSB : controller;
        const isPair = fine.has(`${placeOf(message)} ${upper}`);
        const [number, isFine] = isPair ? [upper, controller !== upper] : [controller, false];
        address = `${address} ${number}`;
        value = bytes[2]!;
        if (!isPair) break;
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

/** Controllers whose lower half is sent too, by their places. */
function finePairs(messages: readonly ScoreMessage[]): Set<string> {
  const fine = new Set<string>();
  const lower = new LowerHalves();
  const lines = new Map<string, number>();
  for (const message of messages) {
    if (statusOf(message) !== STATUS.controlChange) continue;
    const line = lines.get(lineOf(message)) ?? lines.size;
    lines.set(lineOf(message), line);
    if (lower.isOne(line, channelOf(message), message.bytes[1]!, message.atMs)) fine.add(`${placeOf(message)} ${message.bytes[1]! - LSB}`);
  }
  return fine;
}

const placeOf = ({ source, bytes }: ScoreMessage) => `${source.output} ${bytes[0]! & 0x0f}`;
