import type { PortIdentity } from '../../core/midi/portName';

/** What the hub asks of the process that holds the ports. */
export type ToPorts =
  | { kind: 'open'; port: number; direction: 'in' | 'out'; at: PortIdentity }
  /** A port of our own making. */
  | { kind: 'make'; port: number; name: string }
  | { kind: 'close'; port: number };

/** What that process says. */
export type FromPorts =
  /** Whenever they change: the ports of others that are there now. */
  | { kind: 'there'; inputs: PortIdentity[]; outputs: PortIdentity[] }
  /** It lives; said at even intervals. */
  | { kind: 'alive' }
  /** Ports cannot be used on this computer. */
  | { kind: 'none' }
  | { kind: 'opened'; port: number }
  /** It was not opened, or is not there any more. */
  | { kind: 'closed'; port: number; why: string }
  /** It has taken nothing of what it was given for too long. */
  | { kind: 'stuck'; port: number };

const JSON_FRAME = 0;
const MIDI_FRAME = 1;
const HEADER = 5;
const MOST = 1 << 20;

/**
 * Frames on a pipe, little-endian: u32 length of what follows it, u8 kind; JSON, or u16 port and whole MIDI messages. Both in
 * one order: what is sent after a port was opened is written to it.
 */
export function frameOf(message: ToPorts | FromPorts): Buffer {
  const text = Buffer.from(JSON.stringify(message));
  const frame = Buffer.allocUnsafe(HEADER + text.length);
  frame.writeUInt32LE(1 + text.length, 0);
  frame[4] = JSON_FRAME;
  text.copy(frame, HEADER);
  return frame;
}

export function midiFrame(port: number, bytes: Uint8Array): Buffer {
  const frame = Buffer.allocUnsafe(HEADER + 2 + bytes.length);
  frame.writeUInt32LE(3 + bytes.length, 0);
  frame[4] = MIDI_FRAME;
  frame.writeUInt16LE(port, HEADER);
  frame.set(bytes, HEADER + 2);
  return frame;
}

/** Reads frames out of pieces of a pipe, however they are cut. */
export class FrameReader<Message> {
  private rest: Buffer = Buffer.alloc(0);

  constructor(
    private readonly onMessage: (message: Message) => unknown,
    private readonly onMidi: (port: number, bytes: Uint8Array) => unknown,
  ) {}

  push(piece: Buffer): void {
    let data = this.rest.length === 0 ? piece : Buffer.concat([this.rest, piece]);
    while (data.length >= HEADER) {
      const length = data.readUInt32LE(0);
      if (length < 1 || length > MOST) throw new Error(`a frame of ${length} bytes: the other end speaks something else`);
      if (data.length < 4 + length) break;
      const body = data.subarray(HEADER, 4 + length);
      if (data[4] === MIDI_FRAME) this.onMidi(body.readUInt16LE(0), Uint8Array.from(body.subarray(2)));
      else this.onMessage(JSON.parse(String(body)) as Message);
      data = data.subarray(4 + length);
    }
    this.rest = data;
  }
}
