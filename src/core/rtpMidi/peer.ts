import { ClockOffset } from './clockOffset';
import { RtpReceiver } from './receiver';
import { RtpSender } from './sender';
import { encodeSession, isSessionPacket, type SessionPacket } from './session';

/** An invitation is said again so often until it is answered. */
const INVITE_MS = 1000;
/** The one who invited measures the clocks: often at first, then now and then. */
const CLOCK_FIRST_MS = 500;
const CLOCK_MS = 2000;
const CLOCKS_AT_FIRST = 6;
/** One that invited us and says nothing for so long is gone: most measure only every ten seconds. */
const SILENT_GUEST_MS = 35_000;
/** One that we measure every two seconds, and that does not answer. */
const SILENT_HOST_MS = 7000;
const TICKS_PER_MS = 10;
/** What comes is never taken for older than this, whatever its clock says. */
const OLDEST_MS = 100;

/** What the two ports of a peer are sent. */
export interface PeerLine {
  control(bytes: Uint8Array): void;
  data(bytes: Uint8Array): void;
}

export interface PeerEvents {
  /** A whole message, and when it happened, in our time. */
  message(bytes: Uint8Array, timeMs: number): void;
  /** It can be sent to from now on. */
  opened(): void;
  /** It is over: by a bye, by silence, or because it refused. */
  closed(why: string): void;
}

export interface PeerOptions {
  /** Whether we invite it; else it invited us. */
  invites: boolean;
  ourName: string;
  ssrc: number;
  token: number;
  firstSequence: number;
}

type State = 'control' | 'data' | 'open' | 'closed';

/**
 * One participant at the other end of a session: invitation and answer on both ports, the clocks, the two streams, the bye.
 * Pure: it is told what comes and what time it is.
 */
export class Peer {
  /** Where a connection is: on the way over the control port, over the data port, open, over. */
  state: State;
  name: string | null = null;
  theirSsrc: number | null = null;
  readonly token: number;
  readonly sender: RtpSender;
  readonly receiver: RtpReceiver;
  private readonly offset = new ClockOffset();
  private inviteAtMs = -Infinity;
  private clockAtMs = -Infinity;
  private clocks = 0;
  private heardMs: number;
  /** Of the datagram that is being taken in. */
  private nowMs = 0;

  constructor(
    private readonly options: PeerOptions,
    private readonly line: PeerLine,
    private readonly events: PeerEvents,
    nowMs: number,
  ) {
    this.state = options.invites ? 'control' : 'data';
    this.token = options.token;
    this.heardMs = nowMs;
    this.sender = new RtpSender({ ssrc: options.ssrc, firstSequence: options.firstSequence, timestamp: (timeMs) => Number(BigInt.asUintN(32, ticksOf(timeMs))), write: (packet) => line.data(packet) });
    this.receiver = new RtpReceiver({ message: (bytes, timestamp) => events.message(bytes, this.timeOf(timestamp)) });
    if (!options.invites) this.answerOn('control');
  }

  /** There and back, in ms; null before it was measured. */
  get wayMs(): number | null {
    return this.offset.wayMs;
  }

  /** A session packet of this peer came, on one of the two ports. */
  session(packet: SessionPacket, on: 'control' | 'data', nowMs: number): void {
    if (this.state === 'closed') return;
    switch (packet.kind) {
      case 'invitation':
        // Said again, as the answer was lost.
        if (this.options.invites || packet.token !== this.token) return;
        this.heardMs = nowMs;
        this.answerOn(on);
        if (on === 'data') this.open(packet, nowMs);
        return;
      case 'accepted':
        if (!this.options.invites || packet.token !== this.token) return;
        this.heardMs = nowMs;
        this.name = packet.name ?? this.name;
        if (on === 'control' && this.state === 'control') {
          this.state = 'data';
          this.inviteAtMs = -Infinity;
          this.tick(nowMs);
        } else if (on === 'data' && this.state === 'data') this.open(packet, nowMs);
        return;
      case 'refused':
        if (this.options.invites && packet.token === this.token && this.state !== 'open') this.over('refused');
        return;
      case 'bye':
        if (packet.ssrc === this.theirSsrc || packet.token === this.token) this.over('left');
        return;
      case 'clock':
        if (packet.ssrc === this.theirSsrc && this.state === 'open') this.clock(packet, nowMs);
        return;
      case 'feedback':
        if (packet.ssrc !== this.theirSsrc) return;
        this.heardMs = nowMs;
        return this.sender.feedback(packet.sequence);
      case 'limit':
        return;
      default:
        return packet satisfies never;
    }
  }

  /** A datagram came on the data port that is no session packet. */
  stream(datagram: Uint8Array, nowMs: number): void {
    if (this.state !== 'open' || isSessionPacket(datagram) || datagram.length < 12 || ssrcOf(datagram) !== this.theirSsrc) return;
    this.nowMs = nowMs;
    if (this.receiver.take(datagram, nowMs)) this.heardMs = nowMs;
  }

  /** Sends groups of messages; what belongs together is one group. */
  send(groups: readonly (readonly Uint8Array[])[], nowMs: number): void {
    if (this.state === 'open') this.sender.send(groups, nowMs);
  }

  tick(nowMs: number): void {
    if (this.state === 'closed') return;
    const { invites } = this.options;
    if (this.state !== 'open') {
      if (invites && nowMs >= this.inviteAtMs) {
        this.inviteAtMs = nowMs + INVITE_MS;
        this.line[this.state](encodeSession({ kind: 'invitation', token: this.token, ssrc: this.options.ssrc, name: this.options.ourName }));
      }
      // The data port of one that answered once, or that invited us, is waited for like one that is open.
      if ((!invites || this.state === 'data') && nowMs - this.heardMs > SILENT_HOST_MS) this.over('does not answer');
      return;
    }
    if (nowMs - this.heardMs > (invites ? SILENT_HOST_MS : SILENT_GUEST_MS)) return this.over('does not answer any more');
    if (invites && nowMs >= this.clockAtMs) {
      this.clockAtMs = nowMs + (this.clocks++ < CLOCKS_AT_FIRST ? CLOCK_FIRST_MS : CLOCK_MS);
      this.line.data(encodeSession({ kind: 'clock', ssrc: this.options.ssrc, count: 0, times: [ticksOf(nowMs), 0n, 0n] }));
    }
    const sequence = this.receiver.feedbackDue(nowMs);
    if (sequence !== null) this.line.control(encodeSession({ kind: 'feedback', ssrc: this.options.ssrc, sequence }));
    this.sender.tick(nowMs);
  }

  /** Ends it from this side. */
  close(): void {
    if (this.state === 'closed') return;
    this.state = 'closed';
    this.line.control(encodeSession({ kind: 'bye', token: this.token, ssrc: this.options.ssrc }));
  }

  private answerOn(port: 'control' | 'data'): void {
    this.line[port](encodeSession({ kind: 'accepted', token: this.token, ssrc: this.options.ssrc, name: this.options.ourName }));
  }

  private open({ ssrc, name }: { ssrc: number; name?: string }, nowMs: number): void {
    this.theirSsrc = ssrc;
    this.name = name ?? this.name;
    if (this.state === 'open') return;
    this.state = 'open';
    this.events.opened();
    this.tick(nowMs);
  }

  private over(why: string): void {
    this.state = 'closed';
    this.events.closed(why);
  }

  private clock({ count, times }: Extract<SessionPacket, { kind: 'clock' }>, nowMs: number): void {
    this.heardMs = nowMs;
    const now = ticksOf(nowMs);
    const [first, second, third] = times;
    const answer = (next: number, all: [bigint, bigint, bigint]) => this.line.data(encodeSession({ kind: 'clock', ssrc: this.options.ssrc, count: next, times: all }));
    if (count === 0) answer(1, [first, now, 0n]);
    else if (count === 1) {
      this.offset.took(first, second, now);
      answer(2, [first, second, now]);
    } else if (count === 2) this.offset.wasTaken(first, second, third);
  }

  /** Our time of one of theirs, not before what is believable and not after now. */
  private timeOf(timestamp: number | null): number {
    const { aheadTicks } = this.offset;
    if (timestamp === null || aheadTicks === null) return this.nowMs;
    const theirNow = Number(BigInt.asUintN(32, ticksOf(this.nowMs) + aheadTicks));
    const agoMs = ((theirNow - timestamp) | 0) / TICKS_PER_MS;
    return this.nowMs - Math.min(OLDEST_MS, Math.max(0, agoMs));
  }
}

const ticksOf = (timeMs: number): bigint => BigInt(Math.round(timeMs * TICKS_PER_MS));

function ssrcOf(datagram: Uint8Array): number {
  return new DataView(datagram.buffer, datagram.byteOffset).getUint32(8);
}
