import { BEND_CENTRE } from '../midi/message';
import type { MessageSpec } from '../rig/document';

/** The range of a message in the numbers of the wire: bends in semitones by the receiver's range, programs from 0. */
export function wireRange(message: MessageSpec, bendRangeSemitones: number): [number, number] {
  switch (message.kind) {
    case 'note':
    case 'transport':
    case 'machine':
    case 'relative':
      return [0, 1];
    case 'programChange':
      return [message.range[0] - 1, message.range[1] - 1];
    case 'pitchBend': {
      if (message.unit !== 'semitones') return message.range;
      const bend = (semitones: number) =>
        bendRangeSemitones > 0 ? BEND_CENTRE + (BEND_CENTRE * semitones) / bendRangeSemitones : BEND_CENTRE;
      return [bend(message.range[0]), bend(message.range[1])];
    }
    default:
      return message.range;
  }
}

/** The smallest and largest number that a message holds. */
export function wireLimits(message: MessageSpec): [number, number] {
  switch (message.kind) {
    case 'controlChange14':
    case 'pitchBend':
      return [0, 16383];
    case 'parameter':
      return [0, message.bits === 14 ? 16383 : 127];
    case 'sysEx':
      return [0, message.bytes.includes('msb') ? 16383 : 127];
    case 'osc':
      return [-Infinity, Infinity];
    default:
      return [0, 127];
  }
}
