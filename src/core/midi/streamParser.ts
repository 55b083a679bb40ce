import { decode, messageLength } from './decode';
import { STATUS, type MidiMessage } from './message';

/** SysEx longer than this is left out, so that a stream that never ends one cannot fill the memory. */
const SYSEX_MOST = 64 * 1024;

/** What a stream held besides messages, counted. */
export interface StreamFaults {
  /** Data bytes where no message was open. */
  strayData: number;
  /** Status bytes that MIDI 1.0 does not define: F4, F5, F9, FD. */
  undefinedStatus: number;
  /** Messages cut off by another status byte, SysEx without its end or too long. */
  broken: number;
}

/**
 * Reads a MIDI byte stream in pieces of any size (MIDI 1.0 Detailed Specification, "Data format"): running status,
 * real-time bytes inside other messages, SysEx over several pieces. Never throws; after anything broken it is in step
 * again with the next status byte.
 */
export class StreamParser {
  readonly faults: StreamFaults = { strayData: 0, undefinedStatus: 0, broken: 0 };
  /** The status that data bytes belong to, 0 for none. Kept from message to message: running status. */
  private status = 0;
  private needed = 0;
  private data1 = -1;
  private sysEx: number[] | null = null;

  constructor(private readonly onMessage: (message: MidiMessage) => void) {}

  push(bytes: ArrayLike<number>): void {
    // Most pieces are one whole channel message, and none is open.
    const first = bytes[0]!;
    if (first >= STATUS.noteOff && first < STATUS.sysEx && this.data1 < 0 && !this.sysEx && bytes instanceof Uint8Array) {
      const message = decode(bytes);
      if (message) {
        this.status = first;
        this.needed = bytes.length;
        return this.onMessage(message);
      }
    }
    for (let i = 0; i < bytes.length; i++) this.byte(bytes[i]! & 0xff);
  }

  private byte(byte: number): void {
    if (byte >= STATUS.clock) return this.realTime(byte);
    if (byte >= 0x80) return this.statusByte(byte);
    if (this.sysEx) {
      if (this.sysEx.length < SYSEX_MOST) this.sysEx.push(byte);
      else {
        this.sysEx = null;
        this.faults.broken++;
      }
      return;
    }
    if (this.status === 0) {
      this.faults.strayData++;
      return;
    }
    if (this.needed === 3 && this.data1 < 0) {
      this.data1 = byte;
      return;
    }
    const bytes = this.needed === 3 ? Uint8Array.of(this.status, this.data1, byte) : Uint8Array.of(this.status, byte);
    this.data1 = -1;
    // System common messages have no running status.
    if (this.status >= 0xf0) this.status = 0;
    this.emit(bytes);
  }

  /** One byte that may stand anywhere and changes nothing around it. */
  private realTime(byte: number): void {
    if (messageLength(byte) === 0) this.faults.undefinedStatus++;
    else this.emit(Uint8Array.of(byte));
  }

  private statusByte(byte: number): void {
    const { sysEx } = this;
    this.sysEx = null;
    if (sysEx && byte === STATUS.endOfSysEx) {
      this.onMessage({ kind: 'sysEx', data: Uint8Array.from(sysEx) });
      return;
    }
    if (sysEx || this.data1 >= 0) this.faults.broken++;
    this.data1 = -1;
    this.status = 0;
    if (byte === STATUS.sysEx) {
      this.sysEx = [];
      return;
    }
    this.needed = messageLength(byte);
    if (this.needed === 0) {
      if (byte === STATUS.endOfSysEx) this.faults.broken++;
      else this.faults.undefinedStatus++;
    } else if (this.needed === 1) this.emit(Uint8Array.of(byte));
    else this.status = byte;
  }

  private emit(bytes: Uint8Array): void {
    const message = decode(bytes);
    if (message) this.onMessage(message);
  }
}
