import { STATUS, type MidiMessage } from './message';

/**
 * The bytes of one message. Numbers must already be in their range; a value outside is masked to it, so that a
 * mistake can give a wrong value but never a byte that breaks the stream.
 */
export function encode(message: MidiMessage): Uint8Array {
  switch (message.kind) {
    case 'noteOff':
      return three(STATUS.noteOff, message.channel, message.note, message.velocity);
    case 'noteOn':
      return three(STATUS.noteOn, message.channel, message.note, message.velocity);
    case 'polyPressure':
      return three(STATUS.polyPressure, message.channel, message.note, message.pressure);
    case 'controlChange':
      return three(STATUS.controlChange, message.channel, message.controller, message.value);
    case 'programChange':
      return Uint8Array.of(STATUS.programChange | nibble(message.channel), message.program & 0x7f);
    case 'channelPressure':
      return Uint8Array.of(STATUS.channelPressure | nibble(message.channel), message.pressure & 0x7f);
    case 'pitchBend':
      return three(STATUS.pitchBend, message.channel, message.bend, message.bend >> 7);
    case 'sysEx': {
      const bytes = new Uint8Array(message.data.length + 2);
      bytes[0] = STATUS.sysEx;
      for (let i = 0; i < message.data.length; i++) bytes[i + 1] = message.data[i]! & 0x7f;
      bytes[bytes.length - 1] = STATUS.endOfSysEx;
      return bytes;
    }
    case 'timeCode':
      return Uint8Array.of(STATUS.timeCode, message.data & 0x7f);
    case 'songPosition':
      return Uint8Array.of(STATUS.songPosition, message.sixteenths & 0x7f, (message.sixteenths >> 7) & 0x7f);
    case 'songSelect':
      return Uint8Array.of(STATUS.songSelect, message.song & 0x7f);
    case 'tuneRequest':
    case 'clock':
    case 'start':
    case 'continue':
    case 'stop':
    case 'activeSensing':
    case 'reset':
      return Uint8Array.of(STATUS[message.kind]);
    default:
      return message satisfies never;
  }
}

const nibble = (channel: number) => (channel - 1) & 0x0f;

function three(status: number, channel: number, data1: number, data2: number): Uint8Array {
  return Uint8Array.of(status | nibble(channel), data1 & 0x7f, data2 & 0x7f);
}
