import { createSocket, type Socket } from 'node:dgram';
import { isIPv6 } from 'node:net';
import { KEEP, VOICE_BASE } from '../../core/engine/sink';
import { decodeOsc } from '../../net/osc/codec';
import type { Outgoing } from './outgoing';
import type { OutputSink, SinkEvents } from './sink';

/** So often it is looked whether there is a way to the host, also while nothing leaves. */
const LOOK_MS = 2000;
/** No way leads there: said by the socket as soon as it is asked, without anything being sent. */
const NO_WAY = ['ENETUNREACH', 'EHOSTUNREACH', 'ENETDOWN', 'EHOSTDOWN', 'EADDRNOTAVAIL', 'EAFNOSUPPORT'];
const FORBIDDEN = ['EACCES', 'EPERM'];
/** The system has no room at the moment, or the packet is too long: nothing that the host is away by. */
const PASSES = ['ENOBUFS', 'EAGAIN', 'EMSGSIZE'];

/** What is kept of a packet until it has gone. */
interface Packet {
  bytes: Uint8Array;
  held: Outgoing['held'];
  ofVoice: boolean;
  /** Whether it is still true later. */
  stays: boolean;
}

type UdpSocket = Pick<Socket, 'bind' | 'close' | 'connect' | 'on' | 'send' | 'setBroadcast'>;

/**
 * Sends OSC packets to one place over UDP: to a computer, or to all of a network by its broadcast address. Whether anybody listens there
 * cannot be known; that no way leads there is said. What did not leave meanwhile is said again when there is one: the newest value of
 * each address, and the ends of voices. What else happened is past then.
 */
export class OscUdp implements OutputSink {
  readonly takes = 'osc';
  readonly mayComeBack = true;
  private readonly socket: UdpSocket;
  /** By what a newer packet would say anew; places in a plan are others after an edit. */
  private readonly lost = new Map<string, Packet>();
  private readonly looking: NodeJS.Timeout;
  /** What the system said of the last packet, or of the way there; null where nothing is wrong. */
  private away: string | null = null;
  /** Packets that the socket still has. */
  private going = 0;
  private closes = false;
  /** Whether the system has given it a port: where it has none of this kind, nothing can leave and nobody is told of each packet. */
  private isBound = false;
  private hasFailed = false;

  constructor(
    private readonly host: string,
    private readonly port: number,
    private readonly events: Pick<SinkEvents, 'state'>,
    private readonly makeSocket: () => UdpSocket = () => createSocket(isIPv6(host) ? 'udp6' : 'udp4'),
  ) {
    this.socket = this.makeSocket();
    // What goes wrong later is said with the packet.
    this.socket.on('error', () => (this.hasFailed ||= !this.isBound));
    this.socket.bind(() => {
      this.isBound = true;
      this.socket.setBroadcast(true);
    });
    this.looking = setInterval(() => this.look(), LOOK_MS);
    this.looking.unref();
    this.look();
  }

  /** A packet is made for each message alone, so the socket may keep it until it has gone. */
  send({ bytes, address, by, held }: Outgoing): void {
    if (!this.hasFailed) this.write({ bytes, held, ofVoice: by >= VOICE_BASE, stays: held ? held.ends : address !== KEEP });
  }

  /** What was sent just before still goes: it may be the end of a voice, and the socket looks the host up first. */
  close(): void {
    clearInterval(this.looking);
    this.closes = true;
    if (this.going === 0 || this.hasFailed) this.socket.close();
  }

  private write(packet: Packet): void {
    this.going++;
    this.socket.send(packet.bytes, this.port, this.host, (error) => {
      this.going--;
      if (this.closes) {
        if (this.going === 0) this.socket.close();
      } else if (error) {
        if (packet.stays) this.lost.set(keyOf(packet), packet);
        this.isAway((error as NodeJS.ErrnoException).code ?? error.message);
      } else if (this.away !== null || this.lost.size > 0) {
        this.lost.delete(keyOf(packet));
        this.isAway(null);
        this.sayAgain();
      }
    });
  }

  /** @param code why a packet did not leave; null where one did */
  private isAway(code: string | null): void {
    if (code === this.away || (code !== null && PASSES.includes(code))) return;
    this.away = code;
    this.events.state(code === null ? null : this.inWords(code));
  }

  private inWords(code: string): string {
    if (NO_WAY.includes(code)) return `cannot be reached: no network of this computer leads to ${this.host}`;
    if (FORBIDDEN.includes(code)) return `cannot be reached: this computer lets nothing leave for ${this.host}; a firewall, perhaps`;
    return `cannot be reached: the system says ${code}`;
  }

  /** Once nothing is on its way any more: a newer value may be, and has taken the place of an older by then. */
  private sayAgain(): void {
    if (this.going > 0) return;
    const lost = [...this.lost.values()];
    this.lost.clear();
    for (const packet of lost) this.write(packet);
  }

  /** Asks the system for the way there, without a packet. What else may be wrong only a packet can tell. */
  private look(): void {
    const asked = this.makeSocket();
    let isAnswered = false;
    const answered = (error?: NodeJS.ErrnoException | null) => {
      if (isAnswered) return;
      isAnswered = true;
      asked.close();
      if (this.closes) return;
      const code = error?.code ?? '';
      if (NO_WAY.includes(code)) this.isAway(code);
      else if (this.lost.size > 0) this.sayAgain();
      else if (this.away !== null && NO_WAY.includes(this.away)) this.isAway(null);
    };
    asked.on('error', answered);
    asked.connect(this.port, this.host, answered as () => void);
  }
}

/** The path of a value, of one of a voice with its number; of what begins or ends something that. */
function keyOf({ bytes, held, ofVoice }: Packet): string {
  if (held) return held.what;
  const { address, arguments: [whose] } = decodeOsc(bytes)[0]!;
  return ofVoice ? `${address} ${String(whose)}` : address;
}
