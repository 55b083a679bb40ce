import type { Who } from '../../core/engine/sink';
import { decodeCaptured, decodeFacts, decodeHeard, decodeValues, encodeSamples, FRAME, type Captured, type Fact, type Heard } from '../../protocol/frames';
import { LIVE_VERSION, type Activity, type FromPage, type InputsState, type RawLine, type ToPage } from '../../protocol/live';
import type { MadeEdit } from '../../protocol/madeEdit';
import { NamesBook, type KnownNames } from '../../protocol/names';
import type { Problem } from '../../protocol/problem';
import { ClockOffset } from './clockOffset';
import { Line, type LineStatus, type LineWorld, type Waiting } from './line';
import { Subscribers } from './subscribers';
import { WatchList } from './watchList';

export interface NamedFact {
  hubTimeMs: number;
  direction: 'in' | 'out';
  /** Signal or output. */
  where: string;
  /** Who caused what leaves; null for what comes in. */
  who: Who | null;
  mapping: string | null;
  value: number | null;
  bytes: Uint8Array | null;
}

/**
 * The page's end of the live line: reconnects by itself, numbers and sends samples, and hands out what the hub shows.
 * It lives outside React; hooks beside it subscribe to what they need.
 */
export class LiveConnection {
  /** The rig that plays, by its id; empty before the hub said so. */
  rigId = '';
  revision = -1;
  stage = false;
  /** The page and the bank that the host turned this surface to; a new object each time. */
  turned: { page?: string; bank?: number } = {};
  playing: Record<string, number> = {};
  /** The joined devices that are there now, by id. */
  presentDevices: readonly string[] = [];
  /** What this joined device is to show instead, null for its motion page; undefined for no change. */
  given: string | null | undefined = undefined;
  mappingStates: ReadonlyMap<string, MappingState> = new Map();
  /** The scene that was recalled last. */
  scene: string | null = null;
  activity: Activity = { in: 0, out: 0, delayP50Ms: null, delayP99Ms: null };
  /** The mapping that is sent alone now. */
  introducing: string | null = null;
  /** How inputs are; null before the hub said so. */
  inputs: InputsState | null = null;
  readonly clock = new ClockOffset();
  private readonly line: Line;
  private readonly names = new NamesBook();
  private readonly watched = new WatchList(this.names, (message) => this.tell(message));
  private sequence = 0;
  private watchScheduled = false;
  private held: readonly string[] = [];
  private readonly signalValues = new Map<string, number>();
  private readonly mappingLevels = new Map<string, number>();
  private readonly heard = new Map<string, Map<string, Heard>>();
  private readonly signalListeners = new Subscribers<string, [value: number]>();
  private readonly mappingListeners = new Subscribers<string, [level: number]>();
  private readonly heardListeners = new Subscribers<string, [heard: ReadonlyMap<string, Heard>]>();
  private readonly factListeners = new Subscribers<'facts', [facts: NamedFact[], dropped: number]>();
  private readonly changeListeners = new Subscribers<Change, []>();
  private readonly capturedListeners = new Subscribers<string, [timeMs: number, value: number]>();
  private readonly rawListeners = new Subscribers<string, [lines: RawLine[], dropped: number]>();
  private readonly deviceListeners = new Subscribers<'device', [device: string, sources: number[], midi: number]>();
  private readonly editListeners = new Subscribers<'edit', [made: MadeEdit]>();
  private readonly pongListeners = new Subscribers<'pong', [pageTimeMs: number]>();
  private readonly problemListeners = new Subscribers<'problem', [problem: Problem]>();

  constructor(
    world: LineWorld,
    private readonly surface: string | undefined,
    private readonly nowMs: () => number,
  ) {
    this.line = new Line(world, {
      opened: () => {
        this.clock.forget();
        this.tell({ kind: 'hello', version: LIVE_VERSION, ...(this.surface === undefined ? {} : { surface: this.surface }) });
      },
      message: (data) => (typeof data === 'string' ? this.hear(JSON.parse(data) as ToPage) : this.hearFrame(new DataView(data))),
      ping: () => this.tell({ kind: 'ping', pageTimeMs: this.nowMs() }),
      changed: () => {
        if (this.status === 'lost') this.heard.clear();
        this.changeListeners.tell('status');
      },
    });
  }

  get status(): LineStatus {
    return this.line.status;
  }

  /** What a lost line waits for. */
  get waitsFor(): Waiting {
    return this.line.waitsFor;
  }

  start(): void {
    this.line.start();
  }

  stop(): void {
    this.line.stop();
  }

  /** Sends what happened at `pageTimeMs`. False where the line is down or the hub does not know a signal: nothing went. */
  send(samples: readonly { signal: string; value: number }[], pageTimeMs: number): boolean {
    if (this.status !== 'open') return false;
    const numbered: { signal: number; value: number }[] = [];
    for (const { signal, value } of samples) {
      const number = this.names.signals.numberOf(signal);
      if (number === undefined) return false;
      numbered.push({ signal: number, value });
    }
    return this.line.send(encodeSamples(this.sequence++ >>> 0, this.clock.toHub(pageTimeMs), numbered));
  }

  panic(): boolean {
    return this.tell({ kind: 'panic' });
  }

  signalValue(id: string): number | undefined {
    return this.signalValues.get(id);
  }

  mappingLevel(id: string): number | undefined {
    return this.mappingLevels.get(id);
  }

  onSignal(id: string, listener: (value: number) => void): () => void {
    return this.watching(this.signalListeners.add(id, listener));
  }

  onMapping(id: string, listener: (level: number) => void): () => void {
    return this.watching(this.mappingListeners.add(id, listener));
  }

  onHeard(output: string, listener: (heard: ReadonlyMap<string, Heard>) => void): () => void {
    return this.watching(this.heardListeners.add(output, listener));
  }

  onFacts(listener: (facts: NamedFact[], dropped: number) => void): () => void {
    return this.watching(this.factListeners.add('facts', listener));
  }

  /** Each edit of the rig, for screens of the bench. */
  onEdit(listener: (made: MadeEdit) => void): () => void {
    return this.editListeners.add('edit', listener);
  }

  onProblem(listener: (problem: Problem) => void): () => void {
    return this.problemListeners.add('problem', listener);
  }

  /** Every single raw number of a signal, with the time at which it happened. */
  onCaptured(signal: string, listener: (timeMs: number, value: number) => void): () => void {
    return this.watching(this.capturedListeners.add(signal, listener));
  }

  /** The raw messages of an input; the hub lists one input at a time for each page. */
  onRaw(input: string, listener: (lines: RawLine[], dropped: number) => void): () => void {
    return this.watching(this.rawListeners.add(input, listener));
  }

  /** Under which numbers the hub wants the sources of a device of this page. */
  onDeviceNumbered(listener: (device: string, sources: number[], midi: number) => void): () => void {
    return this.deviceListeners.add('device', listener);
  }

  onChange(what: Change, listener: () => void): () => void {
    return this.watching(this.changeListeners.add(what, listener));
  }

  private watching(remove: () => void): () => void {
    this.scheduleWatch();
    return () => {
      remove();
      this.scheduleWatch();
    };
  }

  /** Signals that this page wants held back, so that something else can be moved alone. */
  get heldBack(): readonly string[] {
    return this.held;
  }

  holdBack(signals: readonly string[]): void {
    this.held = signals;
    this.tell({ kind: 'holdBack', signals: [...signals] });
    this.changeListeners.tell('heldBack');
  }

  /** Sends a binary frame of this page's devices. False where the line is down. */
  sendFrame(frame: (sequence: number, toHubMs: (pageTimeMs: number) => number) => ArrayBuffer): boolean {
    if (this.status !== 'open') return false;
    return this.line.send(frame(this.sequence++ >>> 0, (pageTimeMs) => this.clock.toHub(pageTimeMs)));
  }

  /** Sends a message; false where the line is down. */
  tell(message: FromPage): boolean {
    return this.line.send(JSON.stringify(message));
  }

  /** Done once the hub has heard what was told until now, or the line is down. */
  said(): Promise<void> {
    const pageTimeMs = this.nowMs();
    if (!this.tell({ kind: 'ping', pageTimeMs })) return Promise.resolve();
    return new Promise((resolve) => {
      const ends = [this.pongListeners.add('pong', (of) => of >= pageTimeMs && done()), this.changeListeners.add('status', () => done())];
      const done = () => {
        ends.forEach((end) => end());
        resolve();
      };
    });
  }

  private hear(message: ToPage): void {
    switch (message.kind) {
      case 'welcome':
        // The hub says so right after where one is introduced.
        this.introducing = null;
        this.changeListeners.tell('introducing');
        this.names.forget();
        this.watched.forget();
        this.names.learn(message.names);
        this.setRig(message.rig, message.revision, message.stage);
        this.sendWatch();
        if (this.held.length > 0) this.holdBack(this.held);
        return this.line.welcomed();
      case 'names':
        this.names.learn(message.names);
        return this.watched.namesChanged();
      case 'rig':
        return this.setRig(message.rig, message.revision, message.stage);
      case 'edited':
        this.editListeners.tell('edit', message.made);
        return this.setRig(message.made.id, message.made.revision, this.stage);
      case 'pong':
        this.clock.add(message.pageTimeMs, this.nowMs(), message.hubTimeMs);
        return this.pongListeners.tell('pong', message.pageTimeMs);
      case 'activity':
        this.activity = message.activity;
        return this.changeListeners.tell('activity');
      case 'page':
        this.turned = { ...(message.page === undefined ? {} : { page: message.page }), ...(message.bank === undefined ? {} : { bank: message.bank }) };
        return this.changeListeners.tell('page');
      case 'device':
        return this.deviceListeners.tell('device', message.device, message.sources, message.midi);
      case 'introducing':
        this.introducing = message.mapping;
        return this.changeListeners.tell('introducing');
      case 'inputs':
        this.inputs = message.inputs;
        return this.changeListeners.tell('inputs');
      case 'mappingStates': {
        const { numbers, heardMsAgo, sends, scene } = message.states;
        const nowMs = performance.now();
        this.mappingStates = new Map(
          numbers.map((number, i): [string, MappingState] => [this.names.mappings.idOf(number) ?? '', { heardMs: (heardMsAgo[i] ?? -1) < 0 ? null : nowMs - heardMsAgo[i]!, sends: sends[i] ?? false }]),
        );
        this.scene = scene;
        return this.changeListeners.tell('mappingStates');
      }
      case 'raw':
        return this.rawListeners.tell(message.input, message.lines, message.dropped);
      case 'surfaces':
        this.playing = message.playing;
        this.presentDevices = message.devices;
        return this.changeListeners.tell('surfaces');
      case 'given':
        this.given = message.surface;
        return this.changeListeners.tell('given');
      case 'problem':
        return this.problemListeners.tell('problem', message.problem);
      default:
        return message satisfies never;
    }
  }

  private hearFrame(view: DataView): void {
    switch (view.getUint8(0)) {
      case FRAME.values:
        return this.hearValues(view, this.names.signals, this.signalValues, this.signalListeners);
      case FRAME.levels:
        return this.hearValues(view, this.names.mappings, this.mappingLevels, this.mappingListeners);
      case FRAME.heard:
        return this.hearReceiver(view);
      case FRAME.captured:
        return this.hearCaptured(decodeCaptured(view)?.captured ?? []);
      case FRAME.facts: {
        const frame = decodeFacts(view);
        if (frame) this.factListeners.tell('facts', frame.facts.map((fact) => this.named(fact)), frame.dropped);
      }
    }
  }

  private hearValues(view: DataView, ids: KnownNames, values: Map<string, number>, listeners: Subscribers<string, [number]>): void {
    const frame = decodeValues(view);
    frame?.numbers.forEach((number, i) => {
      const id = ids.idOf(number);
      if (id === undefined) return;
      values.set(id, frame.values[i]!);
      listeners.tell(id, frame.values[i]!);
    });
  }

  private hearCaptured(captured: readonly Captured[]): void {
    for (const { signal, timeMs, value } of captured) {
      const id = this.names.signals.idOf(signal);
      if (id !== undefined) this.capturedListeners.tell(id, timeMs, value);
    }
  }

  private hearReceiver(view: DataView): void {
    const frame = decodeHeard(view);
    if (!frame) return;
    const output = this.names.outputs.idOf(frame.output);
    if (output === undefined) return;
    const known = this.heard.get(output) ?? new Map<string, Heard>();
    const next = new Map(known);
    for (const heard of frame.heard) next.set(`${heard.kind} ${heard.channel} ${heard.number}`, heard);
    this.heard.set(output, next);
    this.heardListeners.tell(output, next);
  }

  private named(fact: Fact): NamedFact {
    const { hubTimeMs, direction } = fact;
    if (fact.direction === 'in') {
      return { hubTimeMs, direction, where: this.names.signals.idOf(fact.signal) ?? '?', who: null, mapping: null, value: fact.value, bytes: null };
    }
    const mapping = fact.mapping === null ? null : (this.names.mappings.idOf(fact.mapping) ?? '?');
    return { hubTimeMs, direction, where: this.names.outputs.idOf(fact.output) ?? '?', who: fact.who, mapping, value: null, bytes: fact.bytes };
  }

  private setRig(rigId: string, revision: number, stage: boolean): void {
    this.rigId = rigId;
    this.revision = revision;
    this.stage = stage;
    this.changeListeners.tell('rig');
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
    const [rawInput] = this.rawListeners.keys();
    this.watched.want('signals', this.signalListeners.keys());
    this.watched.want('mappings', this.mappingListeners.keys());
    this.watched.want('outputs', this.heardListeners.keys());
    this.watched.want('captured', this.capturedListeners.keys());
    this.tell({
      kind: 'watch',
      watch: {
        monitor: this.factListeners.has('facts'),
        activity: this.changeListeners.has('activity') || this.changeListeners.has('surfaces'),
        inputs: this.changeListeners.has('inputs'),
        mappingStates: this.changeListeners.has('mappingStates'),
        ...(rawInput === undefined ? {} : { raw: rawInput }),
      },
    });
  }
}

export type { LineStatus, Waiting } from './line';

/** What else can change on the line. */
export type Change = 'status' | 'rig' | 'page' | 'activity' | 'surfaces' | 'inputs' | 'heldBack' | 'introducing' | 'mappingStates' | 'given';

/** How one mapping is; its time is that of `performance.now()`, null for never heard. */
export interface MappingState {
  heardMs: number | null;
  sends: boolean;
}
