import { randomInt } from 'node:crypto';
import { Peer } from '../../core/rtpMidi/peer';
import { decodeSession, encodeSession, isSessionPacket, type SessionPacket } from '../../core/rtpMidi/session';
import { LIMITS } from '../../protocol/limits';
import { Rate } from '../rate';
import { hubTimeMs } from '../time';
import { UdpPair, type Place, type Which } from './udpPair';

/** What is still on its way at the end is waited for so long at most. */
const LAST_MS = 250;
const LOOK_MS = 10;
const REST_MS = 2000;
/** One that still thinks that it is in is called back for so long; then it must say something again. */
const CALL_BACK_MS = 7000;
const ROUND_32 = 2 ** 32;

export interface SessionEvents {
  /** Whether a guest may connect; null: a person is asked. */
  mayConnect(name: string, address: string): boolean | null;
  /** Who at this address may connect, as far as anybody was asked about. */
  guestAt(address: string): string | null;
  opened(peer: SessionPeer): void;
  closed(peer: SessionPeer): void;
  message(peer: SessionPeer, bytes: Uint8Array, timeMs: number): void;
  /** Something changed that is shown. */
  changed(): void;
}

/** A participant at the other end, and where it is. */
export interface SessionPeer {
  readonly id: string;
  readonly peer: Peer;
  /** Where its two ports are. */
  readonly where: Record<Which, Place>;
  /** What it says of itself; before it said so, what it is invited as. */
  name: string;
  /** Whether it is here because we want it, whoever of the two invited the other. */
  readonly invited: boolean;
  readonly rate: Rate;
  /** Since when it is tried, or there. */
  readonly sinceMs: number;
}

let nextId = 1;

/** One session of network MIDI of this computer: its two ports, and all who are in it. */
export class NetworkSession {
  readonly peers: SessionPeer[] = [];
  /** Why it cannot be; null where it is. */
  problem: string | null = null;
  private readonly ssrc = randomInt(ROUND_32);
  private pair: UdpPair | null = null;
  private closed = false;
  /** Until when one is not invited again: it refused, or left. By where it is. */
  private readonly rests = new Map<string, number>();
  private readonly asks = new Rate(LIMITS.networkAsksPerSecond);

  constructor(
    /** As it is said to others. */
    private readonly announced: string,
    readonly port: number,
    private readonly address: string | null,
    private readonly events: SessionEvents,
  ) {}

  async open(): Promise<void> {
    try {
      const pair = await UdpPair.open(this.port, this.address, (bytes, from, which) => this.hear(bytes, from, which));
      if (this.closed) await pair.close();
      else this.pair = pair;
    } catch (error) {
      this.problem = (error as NodeJS.ErrnoException).code === 'EADDRINUSE' ? `UDP ports ${this.port} and ${this.port + 1} are in use by another program: end it, or start Pumice with PUMICE_MIDI_PORT set to another` : `cannot listen on UDP port ${this.port} (${(error as Error).message})`;
    }
    this.events.changed();
  }

  /** Whether it can be connected to and from. */
  get isOpen(): boolean {
    return this.pair !== null;
  }

  /** Invites one, as long as it is not in already. */
  invite(name: string, at: Place): void {
    const restsUntilMs = this.rests.get(keyOf(at)) ?? 0;
    if (!this.pair || hubTimeMs() < restsUntilMs || this.peers.length >= LIMITS.networkPeers || this.peers.some(({ where }) => samePlace(where.control, at))) return;
    this.add({ name, at, invited: true, token: randomInt(ROUND_32), byUs: true });
  }

  /** Ends what is there with one, or tries no longer to reach it. */
  drop(peer: SessionPeer): void {
    peer.peer.close();
    this.gone(peer);
  }

  /** Called often: invitations, clocks, guards and feedback are said when they are due. */
  tick(nowMs: number): void {
    for (const member of [...this.peers]) {
      const isCalledBack = !member.invited && member.peer.state === 'control';
      if (isCalledBack && nowMs - member.sinceMs > CALL_BACK_MS) this.drop(member);
      else member.peer.tick(nowMs);
    }
  }

  /** What was sent last arrives, where it can, before everybody is told that it is over. */
  async close(): Promise<void> {
    this.closed = true;
    const untilMs = hubTimeMs() + LAST_MS;
    const isUntold = () => this.peers.some(({ peer }) => peer.state === 'open' && peer.sender.hasUntold);
    while (isUntold() && hubTimeMs() < untilMs) {
      this.tick(hubTimeMs());
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    }
    for (const peer of [...this.peers]) this.drop(peer);
    const { pair } = this;
    this.pair = null;
    await pair?.close();
  }

  private hear(bytes: Uint8Array, from: Place, which: Which): void {
    const nowMs = hubTimeMs();
    const known = this.peers.find((peer) => samePlace(peer.where[which], from));
    if (!isSessionPacket(bytes)) {
      if (which === 'data' && known?.rate.allows(nowMs)) known.peer.stream(bytes, nowMs);
      return;
    }
    const packet = decodeSession(bytes);
    if (!packet || !(known?.rate ?? this.asks).allows(nowMs)) return;
    if (packet.kind === 'invitation' && which === 'control') return this.asked(packet, from, nowMs);
    // A guest says for the first time from where it streams: the port beside, but not all keep to that.
    const guest = packet.kind === 'invitation' && !known ? this.peers.find(({ peer, where }) => peer.token === packet.token && where.control.address === from.address) : known;
    if (!guest) return this.callBack(packet, from, which);
    if (packet.kind === 'invitation') guest.where.data = from;
    guest.peer.session(packet, which, nowMs);
  }

  /**
   * One that is not in measures its clock: it was, before this hub died, and has not noticed. What it was left with, a note that
   * sounds say, is put right when it is in again, so that it is invited.
   */
  private callBack({ kind }: SessionPacket, { address, port }: Place, which: Which): void {
    const name = kind === 'clock' && which === 'data' ? this.events.guestAt(address) : null;
    const at = { address, port: port - 1 };
    if (name === null || this.peers.length >= LIMITS.networkPeers || this.peers.some(({ where }) => samePlace(where.control, at))) return;
    this.add({ name, at, invited: false, token: randomInt(ROUND_32), byUs: true });
  }

  private asked({ token, ssrc, name = 'Without a name' }: { token: number; ssrc: number; name?: string }, from: Place, nowMs: number): void {
    const known = this.peers.find(({ where }) => samePlace(where.control, from));
    if (known?.peer.token === token) return known.peer.session({ kind: 'invitation', token, ssrc, name }, 'control', nowMs);
    // Both invite each other at once: one of the two invitations counts, the same for both ends.
    if (known?.invited && known.peer.state !== 'open' && this.ssrc < ssrc) return;
    // Whom we invite may come, and goes on under the name that it is wanted by.
    const may = known?.invited === true || this.events.mayConnect(name, from.address);
    // While a person is asked nothing is said: it will ask again.
    if (may === null) return;
    if (!may || this.peers.length >= LIMITS.networkPeers) return this.pair?.send('control', encodeSession({ kind: 'refused', token, ssrc: this.ssrc }), from);
    // It began anew; what was before is over.
    if (known) this.gone(known);
    this.add({ name: known?.invited ? known.name : name, at: from, invited: known?.invited === true, token, byUs: false });
  }

  private add({ name, at: control, invited, token, byUs }: { name: string; at: Place; invited: boolean; token: number; byUs: boolean }): void {
    const { pair } = this;
    // Who comes while it ends would be told nothing any more.
    if (!pair || this.closed) return;
    const where = { control, data: { address: control.address, port: control.port + 1 } };
    const peer = new Peer(
      { invites: byUs, ourName: this.announced, ssrc: this.ssrc, token, firstSequence: randomInt(0x10000) },
      { control: (bytes) => pair.send('control', bytes, where.control), data: (bytes) => pair.send('data', bytes, where.data) },
      {
        message: (bytes, timeMs) => this.events.message(member, bytes, timeMs),
        opened: () => {
          // One that is invited goes by the name that it is wanted by, whatever else it calls itself.
          if (!invited) member.name = peer.name ?? member.name;
          // It may have said another name by now than the one that it was let in under.
          if (!invited && this.events.mayConnect(member.name, control.address) !== true) return this.drop(member);
          this.events.opened(member);
        },
        closed: () => {
          this.rests.set(keyOf(where.control), hubTimeMs() + REST_MS);
          this.gone(member);
        },
      },
      hubTimeMs(),
    );
    const member: SessionPeer = { id: `peer-${nextId++}`, peer, where, name, invited, rate: new Rate(LIMITS.networkPacketsPerSecond), sinceMs: hubTimeMs() };
    this.peers.push(member);
    peer.tick(hubTimeMs());
    this.events.changed();
  }

  private gone(member: SessionPeer): void {
    const at = this.peers.indexOf(member);
    if (at < 0) return;
    this.peers.splice(at, 1);
    this.events.closed(member);
  }
}

const keyOf = ({ address, port }: Place) => `${address} ${port}`;
const samePlace = (a: Place, b: Place): boolean => a.port === b.port && a.address === b.address;
