import { createSocket, type Socket } from 'node:dgram';
import type { Logger } from 'pino';
import { isPattern, matcherOf } from '../../core/osc/addressPattern';
import { ownAddresses, type OwnAddress } from '../../core/osc/namespace';
import type { RigDocument } from '../../core/rig/document';
import type { InputSettings } from '../../protocol/inputSettings';
import type { InputsState, OscPortState } from '../../protocol/live';
import { LIMITS } from '../../protocol/limits';
import { isLoopback } from '../../protocol/origin';
import type { Loop } from '../../core/midi/loopGuard';
import { hexOf } from '../../core/midi/describe';
import { decodeOsc, type OscMessage, type OscValue } from '../../net/osc/codec';
import type { Player } from '../player';
import { calendarMs, hubTimeMs } from '../time';
import type { Intake } from './intake';
import { OscSenders, type OscPlace } from './oscSenders';
import type { PointsInputs } from './points';

/** Asked of the system, so that a burst during a stall is kept; what it gave is in the log and on the Inputs screen. */
const RECEIVE_BUFFER_BYTES = 4 * 1024 * 1024;
/** Packets that are left out are counted, and said no more often than this. */
const COMPLAIN_MS = 5000;

/** One port that is listened on. */
interface Listening {
  socket: Socket;
  host: string;
  state: OscPortState;
}

/** Listens for OSC over UDP and hands every number that arrives to the intake, and what is meant for Pumice itself on. */
export class OscInput {
  private readonly ports = new Map<number, Listening>();
  private readonly senders: OscSenders;
  private allowed: ReadonlySet<string> = new Set();
  /** The host that was let in last. */
  private letIn = '';
  private indexed: RigDocument | null = null;
  private own: ReadonlyMap<string, OwnAddress> = new Map();
  private readonly leftOut = { broken: 0, strangers: 0, loops: 0, ignored: 0 };
  private readonly complainedMs = { loop: 0, broken: 0, stranger: 0 };
  private readonly later = new Set<NodeJS.Timeout>();

  constructor(
    private readonly player: Player,
    private readonly intake: Intake,
    private readonly points: PointsInputs,
    private readonly log: Logger,
    private readonly onScene: (scene: string) => void,
    private readonly onRecord: (does: 'begin' | 'end' | 'toggle' | 'mark') => void,
  ) {
    this.senders = new OscSenders(intake);
  }

  /** Listens on exactly the ports that are set. One that is taken says so in its state; the others listen. */
  async set({ oscPorts, oscSenders, oscRules }: Pick<InputSettings, 'oscPorts' | 'oscSenders' | 'oscRules'>): Promise<void> {
    this.allowed = new Set(oscSenders);
    this.letIn = '';
    this.senders.rules = oscRules;
    this.senders.forget();
    const host = oscSenders.every(isLoopback) ? '127.0.0.1' : '0.0.0.0';
    for (const [port, listening] of this.ports) {
      if (oscPorts.includes(port) && listening.host === host && listening.state.problem === null) continue;
      this.ports.delete(port);
      await new Promise<void>((resolve) => listening.socket.close(resolve));
    }
    await Promise.all(oscPorts.filter((port) => !this.ports.has(port)).map((port) => this.listen(port, host)));
  }

  get portStates(): OscPortState[] {
    return [...this.ports.values()].map(({ state }) => state);
  }

  get leftOutCounts(): InputsState['leftOut'] {
    return { ...this.leftOut, tooMany: this.senders.tooMany };
  }

  close(): void {
    for (const timer of this.later) clearTimeout(timer);
    for (const { socket } of this.ports.values()) socket.close();
    this.ports.clear();
  }

  private listen(port: number, host: string): Promise<void> {
    const socket = createSocket('udp4');
    const state: OscPortState = { port, problem: null, askedBufferBytes: RECEIVE_BUFFER_BYTES, bufferBytes: null };
    this.ports.set(port, { socket, host, state });
    socket.on('message', (packet, { address, port: from }) => this.receive(packet, address, from));
    return new Promise((resolve) => {
      socket.on('error', (error: NodeJS.ErrnoException) => {
        state.problem =
          error.code === 'EADDRINUSE'
            ? `UDP port ${port} is in use by another program: close that one, or listen on another port.`
            : `UDP port ${port} cannot be listened on: ${error.message}.`;
        this.log.error(state.problem);
        resolve();
      });
      socket.bind(port, host, () => {
        try {
          socket.setRecvBufferSize(RECEIVE_BUFFER_BYTES);
        } catch {
          // Where that is more than it gives at all, a system gives what it gives to everybody.
        }
        // Linux doubles what is asked for its own keeping (socket(7), SO_RCVBUF), so half of what it says was given.
        state.bufferBytes = socket.getRecvBufferSize() / (process.platform === 'linux' ? 2 : 1);
        this.log.info({ port, host, receiveBufferBytes: state.bufferBytes }, 'listening for OSC');
        resolve();
      });
    });
  }

  private receive(packet: Uint8Array, host: string, port: number): void {
    if (host !== this.letIn && !this.isLetIn(host)) {
      this.leftOut.strangers++;
      return this.complain('stranger', `OSC from ${host} was left out: let this sender in on the Inputs screen if it is yours.`);
    }
    const timeMs = hubTimeMs();
    const times = this.player.outputs.loops.received('OSC', packet, timeMs);
    if (times === 0) return;
    let messages: OscMessage[];
    try {
      messages = decodeOsc(packet);
    } catch (error) {
      this.leftOut.broken++;
      return this.complain('broken', `a broken OSC packet of ${packet.length} bytes from ${host} was left out: ${(error as Error).message}.`);
    }
    for (let i = 0; i < times; i++) for (const message of messages) this.due(message, host, port, timeMs);
  }

  private isLetIn(host: string): boolean {
    if (!isLoopback(host) && !this.allowed.has(host)) return false;
    this.letIn = host;
    return true;
  }

  /** A loop was found and cut. */
  loopFound({ output, input }: Loop): void {
    this.leftOut.loops++;
    this.complain('loop', `what ${output} sends comes back at the ${input} port and is held back: send it elsewhere.`);
  }

  /** Now, or when its bundle says (OSC 1.0, "Temporal Semantics and OSC Time Tags"); what is late is played at once. */
  private due(message: OscMessage, host: string, port: number, nowMs: number): void {
    const waitMs = message.atMs === 0 ? 0 : Math.min(LIMITS.oscAheadMs, message.atMs - calendarMs());
    if (waitMs <= 0) return this.hear(message, host, port, nowMs);
    if (this.later.size >= LIMITS.oscAddressesPerSender) {
      this.senders.tooMany++;
      return;
    }
    const timer = setTimeout(() => {
      this.later.delete(timer);
      this.hear(message, host, port, hubTimeMs());
    }, waitMs);
    this.later.add(timer);
  }

  private hear(message: OscMessage, host: string, port: number, timeMs: number): void {
    const { address, arguments: values } = message;
    const place = this.senders.known(host, port, address) ?? this.newPlace(message, host, port, timeMs);
    if (!place) return;
    const { feed } = place;
    if (this.intake.listsRaw) this.intake.showRaw(feed, () => ({ hubTimeMs: timeMs, text: wordsOf(message) }));
    if (this.points.take(address, values, timeMs)) return this.intake.heard(feed, timeMs);
    let numbers = 0;
    for (let i = 0; i < values.length; i++) {
      const value = toNumber(values[i]!);
      if (value === null) continue;
      this.intake.value(this.senders.source(place, address, i, values[i]!), timeMs, value);
      numbers++;
    }
    if (numbers === 0) this.intake.heard(feed, timeMs);
  }

  /** The place of a message that is none of Pumice's own and no pattern; null where it is dealt with already or left out. */
  private newPlace(message: OscMessage, host: string, port: number, timeMs: number): OscPlace | null {
    const { address, arguments: values } = message;
    if (isPattern(address)) this.hearPattern(message, timeMs);
    else if (address.startsWith('/pumice/')) this.hearOwn(this.ownByAddress().get(address), values, timeMs);
    else {
      const place = this.senders.place(host, port, address);
      if (!place) this.leftOut.ignored++;
      return place;
    }
    return null;
  }

  /** A pattern moves every signal of the rig and everything of Pumice's own whose address it matches. */
  private hearPattern({ address: pattern, arguments: values }: OscMessage, timeMs: number): void {
    const matches = matcherOf(pattern);
    for (const [address, own] of this.ownByAddress()) if (matches(address)) this.hearOwn(own, values, timeMs);
    for (const { id, osc } of this.player.rig?.signals ?? []) {
      if (!osc || !matches(osc.address)) continue;
      const value = toNumber(values[osc.argument] ?? null);
      const number = this.player.signals.find(id);
      if (value !== null && number !== undefined) this.player.incoming.sample(number, timeMs, value, null);
    }
  }

  private hearOwn(own: OwnAddress | undefined, values: readonly OscValue[], timeMs: number): void {
    if (!own) {
      this.leftOut.ignored++;
      return;
    }
    const value = toNumber(values[0] ?? null);
    if (own.kind === 'scene') {
      // Without an argument, or with one that says yes.
      if (values.length === 0 || (value !== null && value > 0)) this.onScene(own.scene);
      return;
    }
    if (own.kind === 'record') return this.onRecord(value === null ? 'toggle' : value > 0 ? 'begin' : 'end');
    if (own.kind === 'mark') return values.length === 0 || (value !== null && value > 0) ? this.onRecord('mark') : undefined;
    if (own.kind === 'transport') return this.player.song.does({ does: (value === null ? this.player.song.state?.running !== true : value > 0) ? 'start' : 'stop' });
    if (own.kind === 'tempo') return value !== null && value >= 20 && value <= 400 ? this.player.song.does({ does: 'tempo', bpm: value }) : undefined;
    const number = this.player.signals.find(own.signal.id);
    if (value !== null && number !== undefined) this.player.incoming.sample(number, timeMs, value, null);
  }

  private ownByAddress(): ReadonlyMap<string, OwnAddress> {
    const { rig } = this.player;
    if (rig !== this.indexed) {
      this.indexed = rig;
      this.own = new Map(rig ? ownAddresses(rig).map((own) => [own.address, own]) : []);
    }
    return this.own;
  }

  private complain(about: 'loop' | 'broken' | 'stranger', sentence: string): void {
    const nowMs = hubTimeMs();
    if (nowMs - this.complainedMs[about] < COMPLAIN_MS) return;
    this.complainedMs[about] = nowMs;
    this.log.warn({ leftOut: this.leftOut }, sentence);
  }
}

function toNumber(value: OscValue): number | null {
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  return typeof value === 'boolean' ? Number(value) : null;
}

/** A message as the list of raw messages shows it. */
function wordsOf({ address, arguments: values }: OscMessage): string {
  const words = values.map((value) => {
    if (typeof value === 'number') return Number.isInteger(value) ? String(value) : value.toPrecision(6);
    return typeof value === 'string' ? JSON.stringify(value) : value instanceof Uint8Array ? `[${hexOf(value)}]` : String(value);
  });
  return [address, ...words].join(' ');
}
