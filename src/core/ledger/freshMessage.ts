import type { MessageSpec, RigDocument } from '../rig/document';
import { freeControllers } from './ledger';

const MIDDLE_C = 60;
const VELOCITY = 100;

/**
 * A message of another kind in the place of one: on its channel, with its number where it has one, else the next free one; over
 * the same part of what the message holds, and in the same direction.
 */
export function freshMessage(kind: MessageSpec['kind'], before: MessageSpec, rig: RigDocument, output: string): MessageSpec {
  const made = plainMessage(kind, before, rig, output);
  if (!('range' in made) || !('range' in before)) return made;
  const [lo, hi] = limitsOf(before);
  const [least, most] = limitsOf(made);
  const laid = (value: number) => {
    const place = least + ((value - lo) / (hi - lo || 1)) * (most - least);
    return made.kind === 'osc' ? Number(place.toPrecision(6)) : Math.round(place);
  };
  return { ...made, range: [laid(before.range[0]), laid(before.range[1])] } as MessageSpec;
}

/** The whole of what a message can hold, in its own unit; of OSC, which has no ends, what it is set to by itself. */
function limitsOf(message: Extract<MessageSpec, { range: unknown }>): [number, number] {
  switch (message.kind) {
    case 'controlChange14':
      return [0, 16383];
    case 'pitchBend':
      return message.unit === 'semitones' ? [-Math.max(...message.range.map(Math.abs), 1), Math.max(...message.range.map(Math.abs), 1)] : [0, 16383];
    case 'parameter':
      return [0, message.bits === 14 ? 16383 : 127];
    case 'programChange':
      return [1, 128];
    case 'sysEx':
      return [0, message.bytes.includes('msb') ? 16383 : 127];
    case 'osc':
      return [Math.min(0, ...message.range), Math.max(1, ...message.range)];
    default:
      return [0, 127];
  }
}

function plainMessage(kind: MessageSpec['kind'], before: MessageSpec, rig: RigDocument, output: string): MessageSpec {
  const channel = 'channel' in before ? before.channel : 1;
  const free = freeControllers(rig, output, channel);
  const controller = 'controller' in before ? before.controller : (free[0] ?? 20);
  const note = 'note' in before && typeof before.note === 'number' ? before.note : MIDDLE_C;
  const range: [number, number] = [0, 127];
  const fine: [number, number] = [0, 16383];
  switch (kind) {
    case 'controlChange':
      return { kind, channel, controller, range };
    case 'controlChange14':
      return { kind, channel, controller: controller < 32 ? controller : (free.find((number) => number < 32) ?? 20), range: fine };
    case 'parameter':
      return { kind, channel, registered: false, parameter: 0, bits: 14, range: fine };
    case 'pitchBend':
      return { kind, channel, range: fine };
    case 'channelPressure':
      return { kind, channel, range };
    case 'polyPressure':
      return { kind, channel, note, range };
    case 'note':
      return { kind, channel, note, velocity: VELOCITY };
    case 'programChange':
      return { kind, channel, range: [1, 128] };
    case 'relative':
      return { kind, channel, controller, encoding: 'signedBit', steps: 128, most: 8 };
    case 'transport':
      return { kind, action: 'start' };
    case 'machine':
      return { kind, device: 127, command: 'play' };
    case 'sysEx':
      // 7D stands for a manufacturer that is none: free for anything that is not sold (MIDI 1.0, SysEx ids).
      return { kind, bytes: [0x7d, 'value'], range };
    case 'osc':
      return { kind, address: '/out', arguments: [{ type: 'f', value: 'value' }], range: [0, 1] };
    default:
      return kind satisfies never;
  }
}
