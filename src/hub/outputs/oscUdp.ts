import { createSocket, type Socket } from 'node:dgram';
import { isIPv6 } from 'node:net';
import { KEEP } from '../../core/midi/keep';
import type { Outgoing } from './outgoing';
import type { OutputSink, SinkEvents } from './sink';

/** So often it is looked whether there is a way to the host, also while nothing leaves. */
const LOOK_MS = 2000;
/** No way leads there: said by the socket as soon as it is asked, without anything being sent. */
const NO_WAY = ['ENETUNREACH', 'EHOSTUNREACH', 'ENETDOWN', 'EHOSTDOWN', 'EADDRNOTAVAIL'];
const FORBIDDEN = ['EACCES', 'EPERM'];
/** The system has no room at the moment, or the packet is too long: nothing that the host is away by. */
const PASSES = ['ENOBUFS', 'EAGAIN', 'EMSGSIZE'];

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
  /** By address, or by which voice it ends. */
  private readonly lost = new Map<number | string, Uint8Array>();
  private readonly looking: NodeJS.Timeout;
  /** What the system said of the last packet, or of the way there; null where nothing is wrong. */
  private away: string | null = null;
  /** Packets that the socket still has. */
  private going = 0;
  private closes = false;

  constructor(
    private readonly host: string,
    private readonly port: number,
    private readonly events: Pick<SinkEvents, 'state'>,
    private readonly makeSocket: () => UdpSocket = () => createSocket(isIPv6(host) ? 'udp6' : 'udp4'),
  ) {
    this.socket = this.makeSocket();
    // What goes wrong is said with the packet.
    this.socket.on('error', () => undefined);
    this.socket.bind(() => this.socket.setBroadcast(true));
    this.looking = setInterval(() => this.look(), LOOK_MS);
    this.looking.unref();
    this.look();
  }

  /** A packet is made for each message alone, so the socket may keep it until it has gone. */
  send({ bytes, address, held }: Outgoing): void {
    this.write(bytes, held?.what ?? (address === KEEP ? null : address), held?.ends !== false);
  }

  /** What was sent just before still goes: it may be the end of a voice, and the socket looks the host up first. */
  close(): void {
    clearInterval(this.looking);
    this.closes = true;
    if (this.going === 0) this.socket.close();
  }

  /** @param key what a newer packet would say anew; null for nothing @param stays whether it is still true later */
  private write(bytes: Uint8Array, key: number | string | null, stays: boolean): void {
    this.going++;
    this.socket.send(bytes, this.port, this.host, (error) => {
      this.going--;
      if (this.closes) {
        if (this.going === 0) this.socket.close();
      } else if (error) {
        if (key !== null && stays) this.lost.set(key, bytes);
        this.isAway((error as NodeJS.ErrnoException).code ?? error.message);
      } else if (this.away !== null || this.lost.size > 0) {
        if (key !== null) this.lost.delete(key);
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

  private sayAgain(): void {
    const lost = [...this.lost];
    this.lost.clear();
    for (const [key, bytes] of lost) this.write(bytes, key, true);
  }

  /** Asks the system for the way there, without a packet. What else may be wrong only a packet can tell. */
  private look(): void {
    const asked = this.makeSocket();
    asked.on('error', () => undefined);
    const answered = (error?: NodeJS.ErrnoException | null) => {
      asked.close();
      if (this.closes) return;
      const code = error?.code ?? '';
      if (NO_WAY.includes(code)) this.isAway(code);
      else if (this.lost.size > 0) this.sayAgain();
      else if (this.away !== null && NO_WAY.includes(this.away)) this.isAway(null);
    };
    asked.connect(this.port, this.host, answered as () => void);
  }
}
