import { STATUS } from '../midi/message';
import { JournalHistory } from './history';
import { encodeJournal } from './journal';
import { encodeList } from './midiList';
import { encodePacket } from './packet';
import { fold, unfold } from './sequence';
import { sysExPieces } from './sysExPieces';

/** Bytes of commands in one packet: with its journal it still fits into a frame of the usual networks. */
export const PACKET_MOST = 900;
/** A guard packet follows the last command so soon, and then less and less often, until the receiver says that it has all. */
const FIRST_GUARD_MS = 50;
const LAST_GUARD_MS = 1000;

export interface SenderOptions {
  ssrc: number;
  /** The number of the first packet, 16 bits; at random, for strangers cannot guess it (RFC 3550, 5.1). */
  firstSequence: number;
  /** Tenths of milliseconds, 32 bits, of a time of ours. */
  timestamp(timeMs: number): number;
  write(packet: Uint8Array): void;
}

/** The sending end of a stream: puts commands into packets, each with the journal of what the receiver may have missed. */
export class RtpSender {
  private next: number;
  private readonly history: JournalHistory;
  private guardAtMs = Infinity;
  private guardWaitMs = FIRST_GUARD_MS;
  /** Bytes of journals so far, and packets. */
  readonly written = { packets: 0, bytes: 0, journalBytes: 0 };

  constructor(private readonly options: SenderOptions) {
    this.next = options.firstSequence;
    this.history = new JournalHistory(this.next - 1);
  }

  /** Sends groups of messages at once, in order. What belongs together, as a parameter and its value, stays in one packet. */
  send(groups: readonly (readonly Uint8Array[])[], nowMs: number): void {
    let list: Uint8Array[] = [];
    let bytes = 0;
    const flush = () => {
      if (list.length > 0) this.packet(list, nowMs);
      list = [];
      bytes = 0;
    };
    for (const group of groups) {
      const pieces = group.flatMap((message) => (message[0] === STATUS.sysEx ? sysExPieces(message, PACKET_MOST) : [message]));
      const size = pieces.reduce((sum, { length }) => sum + length + 1, 0);
      if (bytes > 0 && bytes + size > PACKET_MOST) flush();
      for (const piece of pieces) {
        if (bytes > 0 && bytes + piece.length + 1 > PACKET_MOST) flush();
        list.push(piece);
        bytes += piece.length + 1;
      }
    }
    flush();
    this.guardWaitMs = FIRST_GUARD_MS;
    this.guardAtMs = this.history.hasUntold ? nowMs + FIRST_GUARD_MS : Infinity;
  }

  /** Called now and then: sends a packet that only repeats the journal where the receiver may lack something. */
  tick(nowMs: number): void {
    if (nowMs < this.guardAtMs) return;
    if (!this.history.hasUntold) {
      this.guardAtMs = Infinity;
      return;
    }
    this.packet([], nowMs);
    this.guardWaitMs = Math.min(LAST_GUARD_MS, 2 * this.guardWaitMs);
    this.guardAtMs = nowMs + this.guardWaitMs;
  }

  /** The receiver says that it has everything up to this packet. One that was never sent is not believed. */
  feedback(sequence: number): void {
    const count = unfold(sequence, this.next - 1);
    if (count < this.next) this.history.has(count);
  }

  get hasUntold(): boolean {
    return this.history.hasUntold;
  }

  private packet(list: readonly Uint8Array[], nowMs: number): void {
    const count = this.next++;
    const journal = encodeJournal(this.history.journal(count, nowMs));
    for (const command of list) this.history.sent(count, command, nowMs);
    const packet = encodePacket({ sequence: fold(count), timestamp: this.options.timestamp(nowMs), ssrc: this.options.ssrc, list: encodeList(list), startsWithDelta: false, journal });
    this.written.packets++;
    this.written.bytes += packet.length;
    this.written.journalBytes += journal.length;
    this.options.write(packet);
  }
}
