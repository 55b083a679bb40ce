import { CLOSED_NOT_JOINED } from '../../protocol/devices';
import { takeEarlySocket } from './earlySocket';
import type { LineSocket } from './lineSocket';

/**
 * So long after a question the next is asked, by how many still wait for an answer. One that is refused waits no more, and is asked again
 * at once. A network that swallows questions lets all of them wait: the system says each again, but later and later (RFC 6298: after 1, 3, 7,
 * 15, 31, 63 s), and the browser would give a new question to the connection of one that was given up. So none is, and others are begun
 * beside it, spread over the two minutes for which the system tries one.
 */
const ASK_AFTER_MS = [250, 1000, 1500, 2000, 3000, 14_000];
const ASKS_MOST = 12;
const LOOK_MS = 250;
/** A socket may take so long to open: the browser holds it back after failures, by up to 5 s. */
const OPEN_MS = 10_000;
/** After a socket that did not open although somebody answered, the next waits this long, then twice as long, and so on. */
const AGAIN_MS = 250;
const AGAIN_MOST_MS = 4000;
const PING_MS = 500;
/** A line that gave no answer to a ping for this long is lost, whatever the browser thinks of it. */
const SILENCE_MS = 1400;
/** After a sleep a line that still holds answers at once. */
const AWAKE_MS = 600;
/** A tick that comes so late was held up by a sleep or a busy page, and says nothing about the line. */
const LATE_MS = 3 * PING_MS;

/** Dropped: the host does not let this device in. */
export type LineStatus = 'connecting' | 'open' | 'lost' | 'dropped';

/** What a lost line waits for: that anybody answers, or that the socket opens. */
export type Waiting = 'answer' | 'socket' | null;

/** The browser, as far as the line needs it; a test brings its own. */
export interface LineWorld {
  open(): LineSocket;
  /** Whether somebody answers at the place of the line, until it is given up; never rejects. @param nth counted from 0 */
  ask(nth: number, givenUp: AbortSignal): Promise<boolean>;
  nowMs(): number;
  after(ms: number, work: () => void): () => void;
  /** Calls when the page may have slept or the network changed, until the function given back is called. */
  onAwake(listener: () => void): () => void;
}

export interface LineEvents {
  /** The socket is open; the line counts as open once `welcomed` is called. */
  opened(): void;
  message(data: ArrayBuffer | string): void;
  ping(): void;
  changed(): void;
}

const OPEN = 1;

/**
 * One socket to the hub that comes back by itself. While the hub is away it is only asked by a light request, many times a
 * second: browsers hold new sockets back after failed ones. A socket is opened once somebody answers, and given time.
 */
export class Line {
  status: LineStatus = 'connecting';
  waitsFor: Waiting = null;
  private socket: LineSocket | null = null;
  private everOpen = false;
  private failures = 0;
  /** Since when a ping waits for an answer, and how long it may. */
  private pingedMs = NaN;
  private allowMs = SILENCE_MS;
  private tickMs = NaN;
  /** Nothing came in time; what waits to be heard decides. */
  private isLastLook = false;
  private cancels = new Set<() => void>();
  private removeAwake: (() => void) | null = null;
  /** Counts tries, so that a late answer to an old question opens nothing. */
  private turn = 0;
  private asks = new AbortController();

  constructor(
    private readonly world: LineWorld,
    private readonly events: LineEvents,
  ) {}

  start(): void {
    this.removeAwake = this.world.onAwake(() => this.awake());
    this.openSocket();
  }

  stop(): void {
    this.removeAwake?.();
    this.drop();
  }

  /** Sends, where the socket is open. */
  send(data: ArrayBuffer | string): boolean {
    if (this.socket?.readyState !== OPEN) return false;
    this.socket.send(data);
    return true;
  }

  /** The hub has welcomed this page. */
  welcomed(): void {
    this.everOpen = true;
    this.failures = 0;
    this.set('open', null);
  }

  private openSocket(): void {
    this.drop();
    const socket = this.world.open();
    socket.binaryType = 'arraybuffer';
    this.socket = socket;
    socket.onopen = () => {
      // From here the pings watch over it.
      this.clear();
      this.events.opened();
      this.pingedMs = NaN;
      this.isLastLook = false;
      this.tick();
    };
    socket.onmessage = ({ data }) => {
      this.pingedMs = NaN;
      this.allowMs = SILENCE_MS;
      this.events.message(data);
    };
    socket.onclose = ({ code }) => (code === CLOSED_NOT_JOINED ? this.end() : this.lost());
    this.after(OPEN_MS, () => this.lost());
  }

  /** Asks until somebody answers. */
  private look(): void {
    const turn = ++this.turn;
    this.asks.abort();
    this.asks = new AbortController();
    let [asked, waiting, askedMs] = [0, 0, -Infinity];
    const ask = () => {
      this.after(LOOK_MS, ask);
      const nowMs = this.world.nowMs();
      if (waiting >= ASKS_MOST || nowMs - askedMs < ASK_AFTER_MS[Math.min(waiting, ASK_AFTER_MS.length - 1)]!) return;
      askedMs = nowMs;
      waiting++;
      void this.world.ask(asked++, this.asks.signal).then((isThere) => {
        waiting--;
        if (turn !== this.turn || !isThere) return;
        this.turn++;
        this.set(this.status, 'socket');
        this.openSocket();
      });
    };
    ask();
  }

  private lost(): void {
    const wasWelcome = this.status === 'open';
    this.drop();
    this.failures = wasWelcome ? 0 : this.failures + 1;
    this.set(this.everOpen ? 'lost' : 'connecting', 'answer');
    const waitMs = this.failures < 2 ? 0 : Math.min(AGAIN_MOST_MS, AGAIN_MS * 2 ** (this.failures - 2));
    this.after(waitMs, () => this.look());
  }

  /** The host does not let this device in (any more): no use in trying again. */
  private end(): void {
    this.drop();
    this.set('dropped', null);
  }

  /** Lets go of the socket and of all that was to come. */
  private drop(): void {
    this.turn++;
    this.asks.abort();
    this.clear();
    const { socket } = this;
    this.socket = null;
    if (!socket) return;
    socket.onopen = socket.onmessage = socket.onclose = null;
    socket.close();
  }

  private tick(): void {
    const nowMs = this.world.nowMs();
    // After a sleep nothing can be said of the past: one more ping decides.
    if (nowMs - this.tickMs > LATE_MS && !Number.isNaN(this.pingedMs)) this.askAgain(nowMs);
    else if (nowMs - this.pingedMs >= this.allowMs) {
      if (this.isLastLook) return this.lost();
      // What came while the page was busy waits behind this: it is heard first.
      this.isLastLook = true;
      return this.after(0, () => this.tick());
    }
    this.isLastLook = false;
    this.tickMs = nowMs;
    if (Number.isNaN(this.pingedMs)) this.pingedMs = nowMs;
    this.events.ping();
    this.after(Math.min(PING_MS, this.allowMs / 2), () => this.tick());
  }

  private askAgain(nowMs: number): void {
    this.pingedMs = nowMs;
    this.allowMs = AWAKE_MS;
  }

  /** The page came back to the front, or the network did. */
  private awake(): void {
    if (this.status === 'dropped') return;
    this.failures = 0;
    if (this.socket?.readyState === OPEN) {
      this.clear();
      this.askAgain(this.world.nowMs());
      this.tickMs = NaN;
      this.tick();
    } else if (this.waitsFor === 'answer') {
      this.clear();
      this.look();
    }
  }

  private set(status: LineStatus, waitsFor: Waiting): void {
    if (status === this.status && waitsFor === this.waitsFor) return;
    this.status = status;
    this.waitsFor = waitsFor;
    this.events.changed();
  }

  private after(ms: number, work: () => void): void {
    const cancel = this.world.after(ms, () => {
      this.cancels.delete(cancel);
      work();
    });
    this.cancels.add(cancel);
  }

  private clear(): void {
    for (const cancel of this.cancels) cancel();
    this.cancels.clear();
  }
}

/** The line of this browser window, or of a worker of it, to the hub. */
export function browserLineWorld(url: string, nowMs: () => number): LineWorld {
  const place = url.replace(/^ws/, 'http').replace(/\/live$/, '/here');
  return {
    open: () => takeEarlySocket(url) ?? (new WebSocket(url) as unknown as LineSocket),
    // Of another origin: that there is an answer is all that can be seen of it, and all that is asked. Browsers have six connections to one place
    // for what says who it is, and six for what does not.
    ask: (nth, givenUp) => fetch(place, { mode: 'no-cors', credentials: nth % 2 === 0 ? 'omit' : 'include', cache: 'no-store', signal: givenUp }).then(() => true, () => false),
    nowMs,
    after: (ms, work) => {
      const timer = setTimeout(work, ms);
      return () => clearTimeout(timer);
    },
    onAwake(listener) {
      // A worker has no page that comes back, but the network does.
      if (typeof document === 'undefined') return listening(globalThis, ['online'], listener);
      const ends = [listening(document, ['visibilitychange'], () => document.visibilityState === 'visible' && listener()), listening(window, ['pageshow', 'online'], listener)];
      return () => ends.forEach((end) => end());
    },
  };
}

function listening(target: EventTarget, kinds: readonly string[], listener: () => void): () => void {
  for (const kind of kinds) target.addEventListener(kind, listener);
  return () => {
    for (const kind of kinds) target.removeEventListener(kind, listener);
  };
}
