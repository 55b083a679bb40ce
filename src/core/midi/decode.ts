import { STATUS, type MidiMessage } from './message';

/**
 * One complete message from its bytes, the twin of `encode`. A note on with velocity 0 stays a note on here; whoever
 * listens treats it as the note off that it is (MIDI 1.0).
 * @returns null where the bytes are not exactly one whole, defined message
 */
export function decode(bytes: Uint8Array): MidiMessage | null {
  const status = bytes[0];
  if (status === undefined || status < 0x80) return null;
  if (status === STATUS.sysEx) {
    if (bytes.length < 2 || bytes[bytes.length - 1] !== STATUS.endOfSysEx) return null;
    const data = bytes.slice(1, -1);
    return data.every((byte) => byte < 0x80) ? { kind: 'sysEx', data } : null;
  }
  if (bytes.length !== messageLength(status)) return null;
  const data1 = bytes[1] ?? 0;
  const data2 = bytes[2] ?? 0;
  if (data1 > 0x7f || data2 > 0x7f) return null;
  return status < 0xf0 ? channelMessage(status, data1, data2) : systemMessage(status, data1, data2);
}

/** Bytes of a message with this status, status included; 0 for SysEx (any length) and for undefined status bytes. */
export function messageLength(status: number): number {
  if (status < 0x80) return 0;
  if (status < 0xf0) return (status & 0xe0) === 0xc0 ? 2 : 3;
  switch (status) {
    case STATUS.songPosition:
      return 3;
    case STATUS.timeCode:
    case STATUS.songSelect:
      return 2;
    case STATUS.tuneRequest:
    case STATUS.clock:
    case STATUS.start:
    case STATUS.continue:
    case STATUS.stop:
    case STATUS.activeSensing:
    case STATUS.reset:
      return 1;
    default:
      return 0;
  }
}

/**
 * The messages of bytes that hold one or several whole ones, as this program writes them. What does not begin with a
 * status byte (an OSC packet) is given back as it is.
 */
export function splitMessages(bytes: Uint8Array): Uint8Array[] {
  const messages: Uint8Array[] = [];
  for (let at = 0; at < bytes.length; ) {
    let length = messageLength(bytes[at]!);
    if (bytes[at] === STATUS.sysEx) length = bytes.indexOf(STATUS.endOfSysEx, at) + 1 - at;
    if (length <= 0) length = bytes.length - at;
    messages.push(bytes.subarray(at, at + length));
    at += length;
  }
  return messages;
}

function channelMessage(status: number, data1: number, data2: number): MidiMessage {
  const channel = (status & 0x0f) + 1;
  switch (status & 0xf0) {
    case STATUS.noteOff:
      return { kind: 'noteOff', channel, note: data1, velocity: data2 };
    case STATUS.noteOn:
      return { kind: 'noteOn', channel, note: data1, velocity: data2 };
    case STATUS.polyPressure:
      return { kind: 'polyPressure', channel, note: data1, pressure: data2 };
    case STATUS.controlChange:
      return { kind: 'controlChange', channel, controller: data1, value: data2 };
    case STATUS.programChange:
      return { kind: 'programChange', channel, program: data1 };
    case STATUS.channelPressure:
      return { kind: 'channelPressure', channel, pressure: data1 };
    default:
      return { kind: 'pitchBend', channel, bend: data1 | (data2 << 7) };
  }
}

function systemMessage(status: number, data1: number, data2: number): MidiMessage | null {
  switch (status) {
    case STATUS.timeCode:
      return { kind: 'timeCode', data: data1 };
    case STATUS.songPosition:
      return { kind: 'songPosition', sixteenths: data1 | (data2 << 7) };
    case STATUS.songSelect:
      return { kind: 'songSelect', song: data1 };
    case STATUS.tuneRequest:
      return { kind: 'tuneRequest' };
    case STATUS.clock:
      return { kind: 'clock' };
    case STATUS.start:
      return { kind: 'start' };
    case STATUS.continue:
      return { kind: 'continue' };
    case STATUS.stop:
      return { kind: 'stop' };
    case STATUS.activeSensing:
      return { kind: 'activeSensing' };
    case STATUS.reset:
      return { kind: 'reset' };
    default:
      return null;
  }
}
