import { replaceEqualDeep } from '@tanstack/react-query';
import type { Who } from '../../core/engine/sink';
import { decodeCaptured, decodeFacts, decodeHeard, decodeValues, decodeWrite, FRAME, type Fact, type Heard } from '../../protocol/frames';
import type { DelayReport } from '../../protocol/delays';
import type { Activity, InputsState, InTurn, OutputsState, RawLine, ToClient, Turned, Watch } from '../../protocol/live';
import type { MadeEdit } from '../../protocol/madeEdit';
import { NamesBook, type KnownNames } from '../../protocol/names';
import type { PlayingState, RecordingState } from '../../protocol/takes';
import type { MemberShown, TransportState } from '../../protocol/transport';
import { decodeShownVoices, type ShownVoice } from '../../protocol/voiceFrames';
import { Happenings, Slot, SlotsById } from './slots';

/** A message that entered or left, by names. */
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
  /** From what a performer did; null where nobody did anything, and for what comes in. */
  delayMs: number | null;
}

/** How one mapping is; its time is that of `performance.now()`, null for never heard. */
export interface MappingState {
  heardMs: number | null;
  sends: boolean;
}

/** What is introduced now, and its place where it is one of several. */
export interface Introducing {
  mapping: string;
  inTurn: InTurn | null;
}

/** As the id of things that happen in one place alone. */
export const HERE = '';

/** What the line itself answers, and what is said of the rest. */
export type Told = Exclude<ToClient, { kind: 'welcome' | 'pong' }>;

const NOTHING_SAID: ReadonlyMap<string, number> = new Map();

/**
 * What the hub shows, a slot for each fact. It lives outside React; hooks and pictures listen to what they need, and what is
 * listened to is what the page wants to be shown.
 */
export class LiveStore {
  readonly names = new NamesBook();
  /** The rig that plays; its id is empty, and its revision below 0, before the hub said so. */
  readonly rig = new Slot({ id: '', revision: -1, stage: false });
  /** The page and the bank that the host turned this surface to. */
  readonly turned: Slot<Turned>;
  /** How many pages play each surface, and the joined devices that are there, by id. */
  readonly surfaces: Slot<{ playing: Record<string, number>; devices: readonly string[] }>;
  /** What this joined device is to show instead, null for its motion page; undefined for no change. */
  readonly given: Slot<string | null | undefined>;
  /** By id of a mapping or voice mapping; the receivers that hear one voice alone; the members that are off; and the scene that was recalled last. */
  readonly mappingStates: Slot<{ byId: ReadonlyMap<string, MappingState>; alone: readonly string[]; membersOff: readonly string[]; scene: string | null }>;
  readonly activity: Slot<Activity>;
  /** Of what is watched; see `watchDelays`. */
  readonly delays = new Happenings<[report: DelayReport]>();
  /** The mapping that is sent alone now. */
  readonly introducing: Slot<Introducing | null>;
  /** A tablet says that what is introduced in turn was learned. */
  readonly introduceNext = new Happenings<[]>();
  /** How inputs are; null before the hub said so. */
  readonly inputs: Slot<InputsState | null>;
  /** How outputs are, and where others could lead. */
  readonly outputs: Slot<OutputsState | null>;

  /** How recording stands. */
  readonly recording: Slot<RecordingState | null>;
  /** The take that is played. */
  readonly playing: Slot<PlayingState | null>;
  /** How the transport stands, and what the members of the ensemble play. */
  readonly transport: Slot<TransportState | null>;
  readonly members: Slot<readonly MemberShown[]>;
  /** Why something about recording that this page asked for was not done. */
  readonly recordRefused = new Happenings<[sentence: string]>();

  readonly signals: SlotsById<number>;
  readonly levels: SlotsById<number>;
  /** What sounds of a voice mapping, by its id. */
  readonly voices: SlotsById<readonly ShownVoice[]>;
  /** What the receiver of an output holds, by address. */
  readonly heard: SlotsById<ReadonlyMap<string, Heard>>;

  readonly facts: Happenings<[facts: NamedFact[], dropped: number]>;
  /** Every single raw number of a signal, with the time at which it happened. */
  readonly captured: Happenings<[timeMs: number, value: number]>;
  /** The raw messages of an input; the hub lists one input at a time for each page. */
  readonly raw: Happenings<[lines: RawLine[], dropped: number]>;
  /** How many notes ended by a Panic of this page. */
  readonly panicked = new Happenings<[notes: number]>();
  /** Bytes for a port that this page lends. */
  readonly written = new Happenings<[port: number, bytes: Uint8Array]>();
  /** Under which numbers the hub wants the sources of a device of this page. */
  readonly feedNumbered = new Happenings<[device: string, sources: number[], midi: number, streams: number[]]>();
  /** Each edit of the rig, for screens of the bench. */
  readonly edited = new Happenings<[made: MadeEdit]>();

  /** By signal: the sequence of the frame in which this page moved it last. */
  readonly said = new Map<string, number>();

  private delaysOf: NonNullable<Watch['delays']> | null = null;

  constructor(
    /** Called when something else is listened to. */
    private readonly onWanted: () => void,
    private readonly nowMs: () => number,
  ) {
    const slot = <T>(first: T) => new Slot<T>(first, onWanted);
    this.turned = slot<Turned>({});
    this.surfaces = slot({ playing: {}, devices: [] as readonly string[] });
    this.given = slot<string | null | undefined>(undefined);
    this.mappingStates = slot({ byId: new Map() as ReadonlyMap<string, MappingState>, alone: [] as readonly string[], membersOff: [] as readonly string[], scene: null as string | null });
    this.activity = slot<Activity>({ in: 0, out: 0, delayP50Ms: null, delayP99Ms: null });
    this.introducing = slot<Introducing | null>(null);
    this.inputs = slot<InputsState | null>(null);
    this.outputs = slot<OutputsState | null>(null);
    this.recording = slot<RecordingState | null>(null);
    this.playing = slot<PlayingState | null>(null);
    this.transport = slot<TransportState | null>(null);
    this.members = slot<readonly MemberShown[]>([]);
    this.signals = new SlotsById(onWanted);
    this.levels = new SlotsById(onWanted);
    this.voices = new SlotsById(onWanted);
    this.heard = new SlotsById(onWanted);
    this.facts = new Happenings(onWanted);
    this.captured = new Happenings(onWanted);
    this.raw = new Happenings(onWanted);
  }

  /** Whose delays are told from now on; null for none. */
  watchDelays(of: NonNullable<Watch['delays']> | null): void {
    this.delaysOf = of;
    this.onWanted();
  }

  /** What the page wants to be shown besides what is watched one by one. */
  get watch(): Watch {
    const [raw] = this.raw.watched;
    return {
      monitor: this.facts.watched.length > 0,
      activity: this.activity.isWatched || this.surfaces.isWatched,
      inputs: this.inputs.isWatched,
      outputStates: this.outputs.isWatched,
      mappingStates: this.mappingStates.isWatched,
      ensemble: this.members.isWatched,
      ...(this.delaysOf === null ? {} : { delays: this.delaysOf }),
      ...(raw === undefined ? {} : { raw }),
    };
  }

  hear(message: Told): void {
    switch (message.kind) {
      case 'names':
        return this.names.learn(message.names);
      case 'rig':
        // Another one may call its mappings the same.
        if (message.rig !== this.rig.value.id) for (const shown of [this.levels, this.voices]) shown.forget();
        return this.rig.set({ id: message.rig, revision: message.revision, stage: message.stage });
      case 'edited': {
        const { made } = message;
        this.edited.tell(HERE, made);
        return this.rig.set({ id: made.id, revision: made.revision, stage: this.rig.value.stage });
      }
      case 'activity':
        return this.activity.set(message.activity);
      case 'page':
        return this.turned.set(message.turned);
      case 'feed':
        return this.feedNumbered.tell(HERE, message.feed, message.sources, message.midi, message.streams);
      case 'introducing':
        return this.introducing.set(message.mapping === null ? null : { mapping: message.mapping, inTurn: message.inTurn });
      case 'delays':
        return this.delays.tell(HERE, message.delays);
      case 'introduceNext':
        return this.introduceNext.tell(HERE);
      case 'inputs':
        return this.inputs.set(replaceEqualDeep(this.inputs.value, message.inputs));
      case 'panicked':
        return this.panicked.tell(HERE, message.notes);
      case 'outputs':
        return this.outputs.set(message.outputs);
      case 'mappingStates': {
        const { numbers, heardMsAgo, sends, alone, membersOff, scene } = message.states;
        const nowMs = this.nowMs();
        const state = (i: number): MappingState => ({ heardMs: (heardMsAgo[i] ?? -1) < 0 ? null : nowMs - heardMsAgo[i]!, sends: sends[i] ?? false });
        return this.mappingStates.set({ byId: new Map(numbers.map((number, i) => [this.names.mappings.idOf(number) ?? '', state(i)])), alone, membersOff, scene });
      }
      case 'raw':
        return this.raw.tell(message.input, message.lines, message.dropped);
      case 'surfaces':
        return this.surfaces.set({ playing: message.playing, devices: message.devices });
      case 'given':
        return this.given.set(message.surface);
      case 'playing':
        return this.playing.set(message.playing);
      case 'transport':
        return this.transport.set(message.transport);
      case 'ensemble':
        return this.members.set(message.members);
      case 'recording':
        return this.recording.set(message.recording);
      case 'problem':
        // What a page did wrong is in the hub's log; it can do nothing about it, but for what a person asked for.
        if (message.problem.field === 'record') this.recordRefused.tell(HERE, message.problem.message);
        return;
      default:
        return message satisfies never;
    }
  }

  hearFrame(view: DataView): void {
    const { names } = this;
    switch (view.getUint8(0)) {
      case FRAME.values:
        return hearValues(view, names.signals, this.signals, this.said);
      case FRAME.levels:
        return hearValues(view, names.mappings, this.levels, NOTHING_SAID);
      case FRAME.shownVoices: {
        const frame = decodeShownVoices(view);
        const id = frame ? names.mappings.idOf(frame.mapping) : undefined;
        if (frame && id !== undefined) this.voices.set(id, frame.voices);
        return;
      }
      case FRAME.heard:
        return this.hearReceiver(view);
      case FRAME.captured:
        for (const { signal, timeMs, value } of decodeCaptured(view)?.captured ?? []) {
          const id = names.signals.idOf(signal);
          if (id !== undefined) this.captured.tell(id, timeMs, value);
        }
        return;
      case FRAME.write: {
        const frame = decodeWrite(view);
        if (frame) this.written.tell(HERE, frame.port, frame.bytes);
        return;
      }
      case FRAME.facts: {
        const frame = decodeFacts(view);
        if (frame) this.facts.tell(HERE, frame.facts.map((fact) => this.named(fact)), frame.dropped);
      }
    }
  }

  private hearReceiver(view: DataView): void {
    const frame = decodeHeard(view);
    const output = frame && this.names.outputs.idOf(frame.output);
    if (!frame || output === undefined || output === null) return;
    const next = new Map(this.heard.value(output));
    for (const heard of frame.heard) next.set(`${heard.kind} ${heard.channel} ${heard.number}`, heard);
    this.heard.set(output, next);
  }

  private named(fact: Fact): NamedFact {
    const { hubTimeMs, direction } = fact;
    if (fact.direction === 'in') {
      return { hubTimeMs, direction, where: this.names.signals.idOf(fact.signal) ?? '?', who: null, mapping: null, value: fact.value, bytes: null, delayMs: null };
    }
    const mapping = fact.mapping === null ? null : (this.names.mappings.idOf(fact.mapping) ?? '?');
    return { hubTimeMs, direction, where: this.names.outputs.idOf(fact.output) ?? '?', who: fact.who, mapping, value: null, bytes: fact.bytes, delayMs: fact.delayMs };
  }
}

function hearValues(view: DataView, ids: KnownNames, slots: SlotsById<number>, said: ReadonlyMap<string, number>): void {
  const frame = decodeValues(view);
  frame?.numbers.forEach((number, i) => {
    const id = ids.idOf(number);
    if (id === undefined) return;
    // The page has moved it since, and the hub has yet to hear of that: what is told is older.
    if ((said.get(id) ?? -1) >= frame.heardUpTo) return;
    // It is watched now, and lies nowhere yet.
    if (Number.isNaN(frame.values[i]!)) slots.silent.add(id);
    else slots.set(id, frame.values[i]!);
  });
}
