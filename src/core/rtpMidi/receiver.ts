import { STATUS } from '../midi/message';
import { decodeJournal } from './journal';
import { decodeList } from './midiList';
import { decodePacket } from './packet';
import { HeardState } from './repair';
import { fold, unfold } from './sequence';
import { SysExJoiner } from './sysExPieces';

/** Feedback leaves at the latest so long after a packet that brought something, and after so many packets. */
const FEEDBACK_MS = 100;
const FEEDBACK_PACKETS = 16;
/** A packet so far from the last is none of its stream; two of them that follow each other begin it anew (RFC 3550, A.1). */
const FAR = 1000;

export interface ReceiverEvents {
  /** A whole message, and its time in the sender's tenths of milliseconds; null where a journal told of it. */
  message(bytes: Uint8Array, timestamp: number | null): void;
}

/** The receiving end of a stream: messages in order, each once, with what was lost repaired from the journals. */
export class RtpReceiver {
  private last: number | null = null;
  private farNext: number | null = null;
  private state = new HeardState();
  private readonly sysEx = new SysExJoiner();
  private untold = 0;
  private feedbackAtMs = Infinity;
  /** Packets so far: taken, found missing, that came too late or twice, and what was none. */
  readonly counts = { taken: 0, lost: 0, late: 0, broken: 0 };

  constructor(private readonly events: ReceiverEvents) {}

  /** Takes a datagram in. False where it is no packet of a stream. */
  take(datagram: Uint8Array, nowMs: number): boolean {
    const packet = decodePacket(datagram);
    const commands = packet && decodeList(packet.list, packet.startsWithDelta);
    const journal = packet?.journal ? decodeJournal(packet.journal) : null;
    // One whose journal is broken would be taken for one that repairs nothing.
    if (!packet || !commands || (packet.journal && !journal)) {
      this.counts.broken++;
      return false;
    }
    const count = this.last === null ? packet.sequence : unfold(packet.sequence, this.last);
    if (this.last !== null && Math.abs(count - this.last) > FAR && !this.beginsAnew(packet.sequence)) {
      this.counts.broken++;
      return false;
    }
    // What is missing was repaired when a later packet came; now it would come out of time.
    if (this.last !== null && count <= this.last) {
      this.counts.late++;
      this.tell(nowMs);
      return true;
    }
    const missing = this.last === null ? 0 : count - this.last - 1;
    if (missing > 0) this.sysEx.lost();
    this.counts.lost += missing;
    this.counts.taken++;
    if (missing > 0 || this.last === null) {
      const repairs = journal ? this.state.repair(journal) : missing > 0 ? this.state.endNotes() : [];
      for (const message of repairs) this.events.message(message, null);
    }
    this.last = count;
    for (const { bytes, afterTicks } of commands) {
      this.state.heard(bytes);
      const isSysEx = bytes[0] === STATUS.sysEx || bytes[0] === STATUS.endOfSysEx;
      const whole = isSysEx ? this.sysEx.take(bytes) : bytes;
      if (whole) this.events.message(whole, (packet.timestamp + afterTicks) >>> 0);
    }
    this.untold++;
    this.tell(nowMs);
    return true;
  }

  /** The packet up to which all is there or repaired, where it is time to say so; else null. */
  feedbackDue(nowMs: number): number | null {
    if (this.last === null || (nowMs < this.feedbackAtMs && this.untold < FEEDBACK_PACKETS)) return null;
    this.feedbackAtMs = Infinity;
    this.untold = 0;
    return fold(this.last);
  }

  private tell(nowMs: number): void {
    this.feedbackAtMs = Math.min(this.feedbackAtMs, nowMs + FEEDBACK_MS);
  }

  private beginsAnew(sequence: number): boolean {
    const does = this.farNext === sequence;
    this.farNext = (sequence + 1) & 0xffff;
    if (!does) return false;
    for (const message of this.state.endNotes()) this.events.message(message, null);
    this.state = new HeardState();
    this.sysEx.lost();
    this.last = null;
    this.farNext = null;
    return true;
  }
}
