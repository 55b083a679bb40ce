import type { Logger } from 'pino';
import { splitMessages } from '../../core/midi/decode';
import { HeldValues } from '../../core/midi/heldValues';
import { STATUS } from '../../core/midi/message';
import { LIMITS } from '../../protocol/limits';
import type { NetworkState } from '../../protocol/live';
import { defaultNetworkSettings, type NetworkSettings } from '../../protocol/networkSettings';
import { hubTimeMs } from '../time';
import { Announcements, announcedName, type Announced } from './announcements';
import { NetworkSession, type SessionPeer } from './networkSession';

const TICK_MS = 20;
/** All notes off, on every channel. */
const NOTES_OFF = Array.from({ length: 16 }, (_, channel) => Uint8Array.of(STATUS.controlChange | channel, 123, 0));
/** Who asked and does not ask any more is not waiting either. */
const ASKS_MS = 10_000;

/** Who is wanted at the other end: everybody in a session of ours, or one alone. */
export interface NetworkTarget {
  session: string;
  peer?: string;
}

export interface NetworkHandle {
  /** Sends whole messages that belong together. */
  send(bytes: Uint8Array): void;
  close(): void;
}

/** Whoever speaks to us is an input. */
export interface NetworkEvents {
  peerOpened(id: string, name: string, address: string): void;
  peerClosed(id: string): void;
  message(id: string, bytes: Uint8Array, timeMs: number): void;
  changed(): void;
}

interface Wanted {
  target: NetworkTarget;
  state: (away: string | null) => void;
  away: string | null | undefined;
  /** What a session was sent, for those who come to it later. */
  held: HeldValues;
}

interface Asking {
  name: string;
  address: string;
  session: string;
  atMs: number;
}

/** Network MIDI (RTP-MIDI): the sessions of this computer, whom it invites, who may connect, and what they are sent. */
export class NetworkMidi {
  private settings: NetworkSettings = defaultNetworkSettings(0);
  private readonly sessions = new Map<string, NetworkSession>();
  private readonly wanted = new Set<Wanted>();
  private readonly asking: Asking[] = [];
  private readonly waiting = new Map<SessionPeer, Uint8Array[][]>();
  private readonly announcements: Announcements;
  private readonly address: string | null;
  private timer: NodeJS.Timeout | null = null;
  private setting: Promise<void> = Promise.resolve();

  constructor(
    private readonly log: Logger,
    /** Addresses of this computer that were chosen; where it is not one, all are used. */
    chosen: readonly string[],
    private readonly events: NetworkEvents,
  ) {
    this.address = chosen.length === 1 ? chosen[0]! : null;
    this.announcements = new Announcements(this.address, () => {
      this.invite();
      this.events.changed();
    });
  }

  /** Settings come into force one after another. */
  set(settings: NetworkSettings): Promise<void> {
    return (this.setting = this.setting.then(() => this.apply(settings)));
  }

  get state(): NetworkState {
    const { settings } = this;
    const nowMs = hubTimeMs();
    return {
      on: settings.on,
      problem: settings.on ? this.announcements.problem : null,
      sessions: settings.sessions.map(({ name, port }) => {
        const session = this.sessions.get(name);
        return {
          name,
          port,
          announced: announcedName(name),
          problem: session?.problem ?? null,
          peers: (session?.peers ?? []).map(({ id, peer, name: of, where, invited }) => ({ id, name: of, address: where.control.address, port: where.control.port, invited, open: peer.state === 'open', wayMs: peer.wayMs, lost: peer.receiver.counts.lost })),
        };
      }),
      asking: this.asking.filter(({ atMs }) => nowMs - atMs < ASKS_MS).map(({ name, address, session }) => ({ name, address, session })),
      announced: settings.on ? this.found.map(({ name, at }) => ({ name, ...at })) : [],
    };
  }

  /** Wants to send there from now on; `state` is told whether it can. */
  want(target: NetworkTarget, state: (away: string | null) => void): NetworkHandle {
    const wanted: Wanted = { target, state, away: undefined, held: new HeldValues() };
    this.wanted.add(wanted);
    this.invite();
    this.tell(wanted);
    return {
      send: (bytes) => this.send(wanted, bytes),
      // Whom nobody wants any more is dropped with the next look, when what was sent last has left.
      close: () => void this.wanted.delete(wanted),
    };
  }

  async close(): Promise<void> {
    this.flush();
    this.announcements.stop();
    if (this.timer) clearInterval(this.timer);
    await Promise.all([...this.sessions.values()].map((session) => session.close()));
  }

  private async apply(settings: NetworkSettings): Promise<void> {
    const before = this.settings;
    this.settings = settings;
    const wanted = settings.on ? settings.sessions : [];
    const stays = (name: string, session: NetworkSession) => wanted.some((one) => one.name === name && one.port === session.port);
    const gone = [...this.sessions].filter(([name, session]) => !stays(name, session));
    for (const [name] of gone) this.sessions.delete(name);
    await Promise.all(gone.map(([, session]) => session.close()));
    const fresh = wanted.filter(({ name }) => !this.sessions.has(name));
    await Promise.all(fresh.map(({ name, port }) => this.openSession(name, port)));
    if (!settings.on) this.announcements.stop();
    else if (!before.on || gone.length + fresh.length > 0) this.announcements.start([...this.sessions].filter(([, session]) => session.isOpen).map(([name, { port }]) => ({ name: announcedName(name), port })));
    // Who may not any more is out.
    for (const session of this.sessions.values()) {
      for (const peer of [...session.peers]) if (!peer.invited && this.mayConnect(peer.name, peer.where.control.address) !== true) session.drop(peer);
    }
    for (const asked of [...this.asking]) if (this.mayConnect(asked.name, asked.address) !== null) this.asking.splice(this.asking.indexOf(asked), 1);
    this.timer ??= setInterval(() => this.tick(), TICK_MS);
    if (!settings.on) {
      clearInterval(this.timer);
      this.timer = null;
    }
    this.invite();
    this.tellAll();
    this.events.changed();
  }

  private async openSession(name: string, port: number): Promise<void> {
    const session = new NetworkSession(announcedName(name), port, this.address, {
      mayConnect: (guest, address) => this.ask(guest, address, name),
      guestAt: (address) => this.settings.known.find((one) => one.may && one.address === address)?.name ?? null,
      opened: (peer) => this.opened(name, peer),
      closed: (peer) => this.closedPeer(peer),
      message: (peer, bytes, timeMs) => this.events.message(peer.id, bytes, timeMs),
      changed: () => this.events.changed(),
    });
    this.sessions.set(name, session);
    await session.open();
    if (session.problem) this.log.warn({ session: name }, session.problem);
  }

  /** Sessions of others that announce themselves. */
  private get found(): Announced[] {
    return this.announcements.found(new Set(this.settings.sessions.map(({ name }) => announcedName(name))));
  }

  private mayConnect(name: string, address: string): boolean | null {
    return this.settings.known.find((one) => one.name === name && one.address === address)?.may ?? null;
  }

  private ask(name: string, address: string, session: string): boolean | null {
    const may = this.mayConnect(name, address);
    if (may !== null) return may;
    const nowMs = hubTimeMs();
    const asked = this.asking.find((one) => one.name === name && one.address === address);
    if (asked) asked.atMs = nowMs;
    else {
      for (const old of this.asking.filter(({ atMs }) => nowMs - atMs >= ASKS_MS)) this.asking.splice(this.asking.indexOf(old), 1);
      if (this.asking.length < LIMITS.networkAsking && this.asking.filter((one) => one.address === address).length < LIMITS.networkAsksOfOne) this.asking.push({ name, address, session, atMs: nowMs });
    }
    this.events.changed();
    return null;
  }

  private opened(session: string, peer: SessionPeer): void {
    this.log.info({ session, peer: peer.name, address: peer.where.control.address }, 'a peer of network MIDI is there');
    this.events.peerOpened(peer.id, peer.name, peer.where.control.address);
    for (const wanted of this.wanted) {
      // Others in the session need not hear again what this one has missed: the ends of notes, where it was in before, and values.
      if (wanted.target.session === session && wanted.target.peer === undefined && wanted.away === null) peer.peer.send([...NOTES_OFF.map((message) => [message]), wanted.held.messages()], hubTimeMs());
    }
    this.tellAll();
    this.events.changed();
  }

  private closedPeer(peer: SessionPeer): void {
    this.waiting.delete(peer);
    this.events.peerClosed(peer.id);
    this.tellAll();
    this.events.changed();
  }

  private tick(): void {
    const nowMs = hubTimeMs();
    for (const session of this.sessions.values()) session.tick(nowMs);
    this.invite();
  }

  /** Invites whoever is wanted and known where, and drops whom nobody wants any more. */
  private invite(): void {
    if (!this.settings.on) return;
    const { found } = this;
    const wanted = [...this.settings.invited.map(({ session, name, at }) => ({ session, name, at })), ...[...this.wanted].flatMap(({ target: { session, peer } }) => (peer === undefined ? [] : [{ session, name: peer, at: undefined }]))];
    for (const [name, session] of this.sessions) {
      const ofSession = wanted.filter((one) => one.session === name);
      for (const { name: peer, at } of ofSession) {
        const place = at ?? found.find((one) => one.name === peer)?.at;
        // It is somewhere else than where it was looked for.
        for (const lost of session.peers.filter((one) => one.name === peer && one.invited && one.peer.state === 'control')) if (place && (place.address !== lost.where.control.address || place.port !== lost.where.control.port)) session.drop(lost);
        if (place && !session.peers.some((one) => one.name === peer)) session.invite(peer, place);
      }
      for (const peer of [...session.peers]) {
        const isWanted = ofSession.some(({ name: of, at }) => of === peer.name || (at && at.address === peer.where.control.address && at.port === peer.where.control.port));
        if (peer.invited && !isWanted) session.drop(peer);
      }
    }
  }

  private send(wanted: Wanted, bytes: Uint8Array): void {
    const messages = splitMessages(bytes.slice());
    if (wanted.target.peer === undefined) wanted.held.sent(bytes);
    if (this.waiting.size === 0) queueMicrotask(() => this.flush());
    for (const peer of this.membersOf(wanted.target)) {
      const groups = this.waiting.get(peer);
      if (groups) groups.push(messages);
      else this.waiting.set(peer, [messages]);
    }
  }

  /** What is said in one turn leaves together. */
  private flush(): void {
    const nowMs = hubTimeMs();
    for (const [{ peer }, groups] of this.waiting) peer.send(groups, nowMs);
    this.waiting.clear();
  }

  private membersOf({ session, peer }: NetworkTarget): SessionPeer[] {
    const open = (this.sessions.get(session)?.peers ?? []).filter((one) => one.peer.state === 'open');
    return peer === undefined ? open : open.filter(({ name }) => name === peer).slice(0, 1);
  }

  private tellAll(): void {
    for (const wanted of this.wanted) this.tell(wanted);
  }

  private tell(wanted: Wanted): void {
    const away = this.awayOf(wanted.target);
    if (wanted.away === away) return;
    wanted.away = away;
    wanted.state(away);
  }

  private awayOf(target: NetworkTarget): string | null {
    if (this.membersOf(target).length > 0) return null;
    if (!this.settings.on) return 'cannot be reached: network MIDI is off';
    const session = this.sessions.get(target.session);
    if (!session) return `cannot be reached: this computer has no session ${target.session}`;
    return session.problem ?? (target.peer === undefined ? 'has nobody in it' : 'is not connected');
  }
}
