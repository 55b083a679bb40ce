import type { Logger } from 'pino';
import { WebSocket } from 'ws';
import type { Who } from '../core/engine/sink';
import { describeBytes, hexOf } from '../core/midi/describe';
import { msPerBeat } from '../core/time/musicalTime';
import type { Found } from '../core/inputs/feed';
import { systemMs } from '../net/systemMs';
import { decodeFacts, decodeValues, FRAME, type Fact } from '../protocol/frames';
import { LIMITS } from '../protocol/limits';
import type { FromWeb, Standing, ToWeb } from '../protocol/live';
import { NamesBook } from '../protocol/names';
import type { TakeRecord } from '../protocol/takes';

const RETRY_MS = 100;
const OBEYED_MS = 1000;
/** A hub that died is back in less than a second, as a rule. */
const COMES_BACK_MS = 3000;
/** A piece that stood for longer goes on when somebody says so. */
const GOES_ON_MS = 5000;

/** A fact with names in place of numbers, as a line of /api/monitor. */
export type NamedFact =
  | { timeMs: number; direction: 'in'; input: string; signal: string; value: number }
  | { timeMs: number; direction: 'out'; output: string; message: string; bytes: string; who: Who; mapping: string | null };

export interface MonitorListener {
  fact(fact: NamedFact): void;
  dropped(count: number): void;
  /** From here on it hears everything: the hub has said so. Once, or again after the line was lost. */
  listens?(): void;
}

export interface HubLinkEvents {
  /** The hub is there (again) and must be given its work. */
  connected(recording: string | null): void;
  value(signalId: string, value: number): void;
  /** Something arrived that this rig does not know. */
  found(rig: string, found: Found[]): void;
  /** Something of a take, to be written down. */
  take(record: TakeRecord): void;
  /** The take that plays needs its messages after this. */
  takeWants(play: number, untilMs: number): void;
  /** An edit did not fit there. */
  wantsAll(): void;
  /** The input that a signal belongs to. */
  inputOf(signalId: string): string;
}

/** The web process's end of the line to the hub; reconnects by itself. */
export class HubLink {
  private socket: WebSocket | null = null;
  private readonly names = new NamesBook();
  private readonly listeners = new Set<MonitorListener>();
  private stopped = false;
  private readonly asked = new Map<number, (heard: boolean) => void>();
  /** Whoever waits for it to play a rig. */
  private readonly waiting = new Set<() => void>();
  private questions = 0;
  /** The hub's process, null before it said so. */
  hubPid: number | null = null;
  /** What the hub says that it plays, null before it said so. */
  plays: { rig: string; revision: number } | null = null;
  /** How a rig stood when the hub last said so. */
  private stands: { rig: string; standing: Standing } | null = null;
  /** Since when there is no hub. */
  private lostMs = NaN;

  constructor(
    private readonly url: string,
    private readonly token: string,
    private readonly log: Logger,
    private readonly events: HubLinkEvents,
  ) {}

  get connected(): boolean {
    return this.socket?.readyState === WebSocket.OPEN;
  }

  connect(): void {
    const socket = new WebSocket(this.url, {
      headers: { 'x-pumice-link': this.token },
      perMessageDeflate: false,
      maxPayload: LIMITS.linkFrameBytes,
    });
    socket.binaryType = 'arraybuffer';
    this.socket = socket;
    // A failed try ends in `close` like a lost line; the error itself says nothing more.
    socket.on('error', () => undefined);
    socket.on('message', (data, isBinary) => {
      if (isBinary) this.hearFrame(new DataView(data as ArrayBuffer));
      else this.hear(JSON.parse(new TextDecoder().decode(data as ArrayBuffer)) as ToWeb);
    });
    socket.on('close', () => {
      this.plays = null;
      if (Number.isNaN(this.lostMs)) this.lostMs = systemMs();
      for (const lost of this.asked.values()) lost(false);
      if (!this.stopped) setTimeout(() => this.connect(), RETRY_MS);
    });
  }

  /** How a rig stood when a hub that is gone was heard last, for the next one: its piece goes on where there was none for a moment only. */
  asItStood(rig: string): { standing?: Standing } {
    const { stands, lostMs } = this;
    if (stands?.rig !== rig) return {};
    const { standing } = stands;
    const { piece } = standing;
    if (!piece.running || !(systemMs() - lostMs >= GOES_ON_MS)) return { standing };
    const beat = piece.beat + (lostMs - piece.atSystemMs) / msPerBeat(piece.bpm);
    return { standing: { ...standing, piece: { ...piece, running: false, beat: Math.max(0, beat) } } };
  }

  send(message: FromWeb): void {
    if (this.connected) this.socket!.send(JSON.stringify(message));
  }

  /** Resolves once the hub has obeyed all that was sent; at the latest after a second. False, and at once, where it is away or dies over it. */
  async obeyed(): Promise<boolean> {
    if (!this.connected) return false;
    const number = this.questions++;
    const heard = await new Promise<boolean>((resolve) => {
      this.asked.set(number, resolve);
      setTimeout(resolve, OBEYED_MS, true);
      this.send({ kind: 'obeyed', number });
    });
    this.asked.delete(number);
    return heard;
  }

  /** Sends what a person wants done, once the hub plays a rig, and again where it died before it had obeyed. False where it does not come back in time. */
  async surely(message: FromWeb): Promise<boolean> {
    const untilMs = Date.now() + COMES_BACK_MS;
    for (let leftMs = COMES_BACK_MS; leftMs > 0; leftMs = untilMs - Date.now()) {
      if (!(await this.playsWithin(leftMs))) return false;
      this.send(message);
      if (await this.obeyed()) return true;
    }
    return false;
  }

  /** Resolves once the hub plays a rig; at the latest after so long, with false where it does not. */
  async playsWithin(ms: number): Promise<boolean> {
    // A socket that is closing has not said yet that it is closed.
    if (this.connected && this.plays) return true;
    let go!: () => void;
    await new Promise<void>((resolve) => {
      this.waiting.add((go = resolve));
      setTimeout(resolve, ms);
    });
    this.waiting.delete(go);
    return this.connected && this.plays !== null;
  }

  /** Listens to what enters and leaves until the returned function is called. */
  listen(listener: MonitorListener): () => void {
    this.listeners.add(listener);
    this.send({ kind: 'monitor', on: true });
    return () => {
      this.listeners.delete(listener);
      if (this.listeners.size === 0) this.send({ kind: 'monitor', on: false });
    };
  }

  stop(): void {
    this.stopped = true;
    this.socket?.close();
  }

  private hear(message: ToWeb): void {
    if (message.kind === 'found') return this.events.found(message.rig, message.found);
    if (message.kind === 'plays') {
      this.plays = message;
      return this.waiting.forEach((go) => go());
    }
    if (message.kind === 'stands') return void (this.stands = message);
    if (message.kind === 'takeWants') return this.events.takeWants(message.play, message.untilMs);
    if (message.kind === 'obeyed') return this.asked.get(message.number)?.(true);
    if (message.kind === 'take') return this.events.take(message.record);
    if (message.kind === 'resend') return this.events.wantsAll();
    if (message.kind === 'monitors') return this.listeners.forEach((listener) => listener.listens?.());
    if (message.kind === 'hello') this.names.forget();
    this.names.learn(message.names);
    if (message.kind !== 'hello') return;
    this.hubPid = message.pid;
    this.log.info('connected to the hub');
    // First the monitor, so that it misses nothing of what the load makes leave.
    if (this.listeners.size > 0) this.send({ kind: 'monitor', on: true });
    this.events.connected(message.recording);
    this.lostMs = NaN;
  }

  private hearFrame(view: DataView): void {
    const kind = view.getUint8(0);
    if (kind === FRAME.values) {
      const frame = decodeValues(view);
      frame?.numbers.forEach((number, i) => {
        const id = this.names.signals.idOf(number);
        if (id !== undefined) this.events.value(id, frame.values[i]!);
      });
    } else if (kind === FRAME.facts) {
      const frame = decodeFacts(view);
      if (!frame) return;
      for (const listener of this.listeners) {
        if (frame.dropped > 0) listener.dropped(frame.dropped);
        for (const fact of frame.facts) listener.fact(this.named(fact));
      }
    }
  }

  private named(fact: Fact): NamedFact {
    const timeMs = Math.round(fact.hubTimeMs * 1000) / 1000;
    if (fact.direction === 'in') {
      const signal = this.names.signals.idOf(fact.signal) ?? '?';
      return { timeMs, direction: 'in', input: this.events.inputOf(signal), signal, value: fact.value };
    }
    return {
      timeMs,
      direction: 'out',
      output: this.names.outputs.idOf(fact.output) ?? '?',
      message: describeBytes(fact.bytes),
      bytes: hexOf(fact.bytes),
      who: fact.who,
      mapping: fact.mapping === null ? null : (this.names.mappings.idOf(fact.mapping) ?? '?'),
    };
  }
}
