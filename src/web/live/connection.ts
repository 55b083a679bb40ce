import { encodeSamples, FRAME } from '../../protocol/frames';
import { helloOf, type FromClient, type ToClient } from '../../protocol/live';
import { encodeVoices, type SaidVoice } from '../../protocol/voiceFrames';
import { ClockOffset } from './clockOffset';
import { Line, type LineStatus, type LineWorld, type Waiting } from './line';
import { HERE, LiveStore } from './store';
import { Happenings, Slot } from './slots';
import { WatchList } from './watchList';

/** A Panic that had no answer goes out once the line is back, unless it was pressed longer ago: by then others may play. So does a scene. */
export const PANIC_LASTS_MS = 5000;

/**
 * The page's end of the live line: three things and what joins them. The line comes back by itself, the store keeps what the
 * hub shows, the watch list tells the hub what that shall be.
 */
export class LiveConnection {
  readonly clock = new ClockOffset();
  readonly store: LiveStore;
  /** How the line is, and what a lost one waits for. */
  readonly state = new Slot<{ status: LineStatus; waitsFor: Waiting }>({ status: 'connecting', waitsFor: null });
  /** Signals that this page wants held back, so that something else can be moved alone. */
  readonly heldBack = new Slot<readonly string[]>([]);
  private readonly line: Line;
  private readonly watched: WatchList;
  private readonly pongs = new Happenings<[pageTimeMs: number]>();
  private sequence = 0;
  private watchScheduled = false;
  private tried: string | null = null;
  /** A scene that was recalled and the hub may not have heard of. */
  private recalled: { scene: string; atMs: number } | null = null;
  /** When a Panic was pressed that had no answer yet. */
  private panickedMs = NaN;

  constructor(
    world: LineWorld,
    private readonly surface: string | undefined,
    private readonly nowMs: () => number,
  ) {
    this.store = new LiveStore(
      () => this.scheduleWatch(),
      () => performance.now(),
    );
    this.watched = new WatchList(this.store.names, (message) => this.tell(message));
    this.line = new Line(world, {
      opened: () => {
        this.clock.forget();
        this.line.send(helloOf(this.surface));
      },
      message: (data) => (typeof data === 'string' ? this.hear(JSON.parse(data) as ToClient) : this.store.hearFrame(new DataView(data))),
      ping: () => this.tell({ kind: 'ping', pageTimeMs: this.nowMs() }),
      changed: () => {
        const { status, waitsFor } = this.line;
        if (status === 'lost') this.store.heard.forget();
        this.state.set({ status, waitsFor });
      },
    });
  }

  get status(): LineStatus {
    return this.line.status;
  }

  start(): void {
    this.line.start();
  }

  stop(): void {
    this.line.stop();
  }

  /**
   * Sends what happened at `pageTimeMs`. False where the line is down or the hub does not know a signal: nothing went.
   * @param heldOn whether it is what was held while the line was lost
   */
  send(samples: readonly { signal: string; value: number }[], pageTimeMs: number, heldOn = false): boolean {
    const numbered: { signal: number; value: number }[] = [];
    for (const { signal, value } of samples) {
      const number = this.store.names.signals.numberOf(signal);
      if (number === undefined) return false;
      numbered.push({ signal: number, value });
    }
    return this.sendFrame((sequence, toHubMs) => {
      for (const { signal } of samples) this.store.said.set(signal, sequence);
      return encodeSamples(sequence, toHubMs(pageTimeMs), numbered, heldOn ? FRAME.heldOn : FRAME.samples, this.nowMs() - pageTimeMs);
    });
  }

  /** Sends what happened to voices at `pageTimeMs`. False where the line is down or the hub does not know a stream: nothing went. */
  sendVoices(voices: readonly (Omit<SaidVoice, 'stream'> & { stream: string })[], pageTimeMs: number): boolean {
    const numbered: SaidVoice[] = [];
    for (const voice of voices) {
      const stream = this.store.names.streams.numberOf(voice.stream);
      if (stream === undefined) return false;
      numbered.push({ ...voice, stream });
    }
    return this.sendFrame((sequence, toHubMs) => encodeVoices(sequence, toHubMs(pageTimeMs), numbered, this.nowMs() - pageTimeMs));
  }

  /** Sends a binary frame. False where the line is down. */
  sendFrame(frame: (sequence: number, toHubMs: (pageTimeMs: number) => number) => ArrayBuffer): boolean {
    if (this.status !== 'open') return false;
    return this.line.send(frame(this.sequence++ >>> 0, (pageTimeMs) => this.clock.toHub(pageTimeMs)));
  }

  /** Sends a message; false where the line is down. */
  tell(message: FromClient): boolean {
    return this.line.send(JSON.stringify(message));
  }

  /** Tells what a person wants done at once. False where nobody would do it: the line is down, or the hub has no rig yet. */
  tellNow(message: FromClient): boolean {
    return this.status === 'open' && this.tell(message);
  }

  /** The hub's time now; 0 before it is known. */
  get hubMs(): number {
    return this.clock.toHub(this.nowMs());
  }

  /** Silences everything. False where that waits for the line to come back. */
  panic(): boolean {
    this.panickedMs = this.nowMs();
    return this.tellNow({ kind: 'panic' });
  }

  /** Whether a Panic has had no answer, and would still go out if the line came back now. */
  get panicWaits(): boolean {
    return this.nowMs() - this.panickedMs < PANIC_LASTS_MS;
  }

  /**
   * Recalls a scene. Where the line is down, or is lost before the hub heard of it, it is said again once that is back: once too often does less
   * harm than never. False where it waits for the line.
   */
  recall(scene: string): boolean {
    const atMs = this.nowMs();
    this.recalled = { scene, atMs };
    return this.tellNow({ kind: 'recall', scene }) && this.tell({ kind: 'ping', pageTimeMs: atMs });
  }

  holdBack(signals: readonly string[]): void {
    this.tell({ kind: 'holdBack', signals: [...signals] });
    this.heldBack.set(signals);
  }

  /** This page plays a surface from now on, without being its play page, also over a line that was lost meanwhile; null ends it. */
  try(surface: string | null): void {
    this.tell({ kind: 'try', surface });
    this.tried = surface;
  }

  /** Done once the hub has heard what was told until now, or the line is down. */
  said(): Promise<void> {
    const pageTimeMs = this.nowMs();
    if (!this.tell({ kind: 'ping', pageTimeMs })) return Promise.resolve();
    return new Promise((resolve) => {
      const ends = [this.pongs.listen(HERE, (of) => of >= pageTimeMs && done()), this.state.listen(() => done())];
      const done = () => {
        ends.forEach((end) => end());
        resolve();
      };
    });
  }

  private hear(message: ToClient): void {
    const { store } = this;
    switch (message.kind) {
      case 'welcome':
        // The hub says so right after where one is introduced.
        store.introducing.set(null);
        store.names.forget();
        store.said.clear();
        this.watched.forget();
        store.hear({ kind: 'names', names: message.names });
        store.hear({ kind: 'rig', rig: message.rig, revision: message.revision, stage: message.stage });
        this.sendWatch();
        if (this.heldBack.value.length > 0) this.holdBack(this.heldBack.value);
        // What fingers hold is said again as soon as the line is open: by then the hub must know what this page plays.
        if (this.tried !== null) this.try(this.tried);
        return this.countsAsOpen();
      case 'pong':
        this.clock.add(message.pageTimeMs, this.nowMs(), message.hubTimeMs);
        // On a line that has just begun it was not said yet, whatever is answered there.
        if (this.recalled && this.status === 'open' && message.pageTimeMs >= this.recalled.atMs) this.recalled = null;
        return this.pongs.tell(HERE, message.pageTimeMs);
      default:
        if (message.kind === 'panicked') this.panickedMs = NaN;
        store.hear(message);
        if (message.kind === 'names') this.watched.namesChanged();
        if (message.kind === 'rig') this.countsAsOpen();
    }
  }

  /** A hub that has just begun has no rig yet: what fingers do would be lost there, so it is as if the line were not back. */
  private countsAsOpen(): void {
    if (this.store.rig.value.id === '' || this.status === 'open') return;
    const { panicWaits, panickedMs, recalled } = this;
    this.line.welcomed();
    // After what fingers hold was said again, so that it has the last word; of both what was pressed last.
    const panic = () => panicWaits && this.tell({ kind: 'panic' });
    const isLast = recalled !== null && recalled.atMs > panickedMs;
    if (isLast) panic();
    if (recalled && this.nowMs() - recalled.atMs < PANIC_LASTS_MS) this.recall(recalled.scene);
    if (!isLast) panic();
  }

  /** Tells the hub once, after everything that mounts together has mounted, what is on screen now. */
  private scheduleWatch(): void {
    if (this.watchScheduled) return;
    this.watchScheduled = true;
    setTimeout(() => {
      this.watchScheduled = false;
      this.sendWatch();
    });
  }

  private sendWatch(): void {
    const { signals, levels, voices, heard, captured, watch } = this.store;
    this.watched.want('signals', signals.watched);
    this.watched.want('mappings', levels.watched);
    this.watched.want('voices', voices.watched);
    this.watched.want('outputs', heard.watched);
    this.watched.want('captured', captured.watched);
    this.tell({ kind: 'watch', watch });
  }
}
