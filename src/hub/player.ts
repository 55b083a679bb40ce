import { Engine } from '../core/engine/engine';
import { RELEASE_VELOCITY } from '../core/engine/noteBook';
import { BY_ENDING, BY_SCENE, BY_THRU, KEEP, whoOf, type MessageSink } from '../core/engine/sink';
import { LoopGuard } from '../core/midi/loopGuard';
import { splitMessages } from '../core/midi/decode';
import { STATUS } from '../core/midi/message';
import type { RigDocument, RigOutput } from '../core/rig/document';
import type { Fact, Heard } from '../protocol/frames';
import type { IntroduceHow, MappingStates } from '../protocol/live';
import { DelayMeter } from './delayMeter';
import { Introduction } from './introduction';
import { Numbering } from './numbering';
import { openOutput } from './outputs/open';
import type { OutputSink } from './outputs/sink';
import type { SoundingBook } from './outputs/soundingBook';
import { encodeOsc, fillArguments } from './osc/codec';
import { hubTimeMs } from './time';
import type { LiveState, Watcher } from './watcher';

/** As the number of a signal where no page sent one. */
const NOBODY_SENT = -1;
/** So few bytes are never two messages: every channel message takes at least two. */
const SHORTEST_TWO = 3;

/**
 * The rig that plays: the engine, the outputs it writes to, and the watchers that are shown what happens. Signals,
 * mappings and outputs are named by hub numbers on the outside and by plan indices on the inside.
 */
export class Player implements LiveState, MessageSink {
  readonly watchers = new Set<Watcher>();
  /** Those of them that want every message, and every raw number of some signals: few, and asked for every sample. */
  private monitors: Watcher[] = [];
  private capturers: Watcher[] = [];
  readonly delay = new DelayMeter();
  readonly loops = new LoopGuard();
  readonly signals = new Numbering();
  readonly mappings = new Numbering();
  readonly outputs = new Numbering();
  /** By number of a gate: the page that pressed it last. */
  readonly pressedBy = new Map<number, Watcher>();
  rig: RigDocument | null = null;
  rigId = '';
  revision = 0;
  stage = false;
  /** By surface: the page and the bank that a scene turned to. */
  readonly turned = new Map<string, { page?: string; bank?: number }>();
  private lastScene: string | null = null;
  /** By hub number: when the level of a mapping was computed last, 0 for never. */
  private heardMs: number[] = [];
  samplesIn = 0;
  messagesOut = 0;

  private engine: Engine | null = null;
  private sinks = new Map<string, OutputSink>();
  /** Plan index by hub number, and back. */
  private signalIndex: number[] = [];
  private signalNumber: number[] = [];
  private mappingNumber: number[] = [];
  private mappingIndex: number[] = [];
  private numberedSignals: readonly string[] | null = null;
  private sampleTimeMs = 0;
  introduction: Introduction | null = null;
  private heldBack: ReadonlySet<number> = new Set();

  constructor(
    /** What sounds, by output; an earlier hub may have left something in it. */
    private readonly sounding: SoundingBook,
    /** Told whether ticks are needed, and when one is wanted besides those at an even rate. */
    private readonly onPending: (pending: boolean, dueMs: number) => void,
    /** Told when an introduction ends by itself. */
    private readonly onIntroduced: () => void = () => undefined,
    /** Told when a scene was recalled, by whatever. */
    private readonly onRecalled: () => void = () => undefined,
  ) {}

  /** A watcher came, went, or wants to see something else. */
  watchersChanged(): void {
    this.monitors = [...this.watchers].filter(({ monitor }) => monitor);
    this.capturers = [...this.watchers].filter(({ captures }) => captures);
  }

  /**
   * Takes a rig. `values` are the last known signal values, used for signals that this hub has not heard yet: their
   * mappings send them, so that receivers agree with what the surfaces show.
   */
  load(rig: RigDocument, revision: number, stage: boolean, values: Record<string, number>): void {
    if (this.endIntroduction()) this.onIntroduced();
    const timeMs = hubTimeMs();
    this.sampleTimeMs = 0;
    this.openOutputs(rig);
    if (this.engine) this.engine.take({ kind: 'rig', rig, timeMs });
    else {
      this.engine = new Engine(rig, this);
      this.engine.take({ kind: 'start', timeMs });
    }
    this.rig = rig;
    this.revision = revision;
    this.stage = stage;
    this.renumber();
    this.closeUnusedOutputs(rig);
    for (const [id, value] of Object.entries(values)) {
      const index = this.engine.plan.signalIds.indexOf(id);
      // Gates are never restored, derived signals follow from the others.
      const restored = rig.signals[index]?.kind === 'continuous';
      if (restored && Number.isNaN(this.engine.values[index]!)) this.engine.take({ kind: 'restore', signal: index, timeMs, value });
    }
    this.showMoved(NOBODY_SENT, null);
    this.onPending(this.engine.pending, this.engine.dueMs);
  }

  /** One sample by hub number. False where the rig has no such signal now. */
  sample(number: number, timeMs: number, value: number, from: Watcher | null): boolean {
    const index = this.signalIndex[number];
    if (index === undefined || !this.engine) return false;
    this.samplesIn++;
    this.feed(index, timeMs, value, from);
    if (this.engine.pending) this.onPending(true, this.engine.dueMs);
    return true;
  }

  tick(): void {
    if (!this.engine) return;
    this.sampleTimeMs = 0;
    this.engine.take({ kind: 'tick', timeMs: hubTimeMs() });
    this.tickIntroduction();
    this.showMoved(NOBODY_SENT, null);
    this.onPending(this.engine.pending || this.introduction !== null, this.engine.dueMs);
  }

  private tickIntroduction(): void {
    const { introduction, engine } = this;
    if (!introduction) return;
    const nowMs = hubTimeMs();
    if (introduction.isOver(nowMs)) {
      this.endIntroduction();
      return this.onIntroduced();
    }
    const { mapping } = introduction;
    if (introduction.how === 'sweep') engine!.take({ kind: 'show', mapping, level: introduction.level(nowMs, engine!.plan.mappings[mapping]!.gateMessage), timeMs: nowMs });
  }

  panic(): void {
    this.sampleTimeMs = 0;
    this.engine?.take({ kind: 'panic', timeMs: hubTimeMs() });
  }

  /** Ends what sounds and closes the outputs. */
  stop(): void {
    this.engine?.take({ kind: 'release', timeMs: hubTimeMs() });
    for (const sink of this.sinks.values()) sink.close();
  }

  /** Ends what sounds on an output whatever began it: it goes, leads elsewhere, or an earlier hub left it so. */
  private endNotesOn(output: string): void {
    for (const { channel, note } of this.sounding.on(output)) {
      const off = Uint8Array.of(STATUS.noteOff | channel, note, RELEASE_VELOCITY);
      if (this.sounding.admits(output, off)) this.write(output, BY_ENDING, off, KEEP);
    }
  }

  /** Recalls a scene; false where the rig has none of this id. */
  recall(scene: string): boolean {
    this.sampleTimeMs = 0;
    const recalled = this.engine?.take({ kind: 'recall', scene, timeMs: hubTimeMs() }) ?? false;
    if (!recalled) return false;
    this.showMoved(NOBODY_SENT, null);
    this.onPending(this.engine!.pending, this.engine!.dueMs);
    return true;
  }

  /** The engine says that a scene was recalled. */
  recalled(scene: string): void {
    const { pages, banks = {} } = this.rig!.scenes.find(({ id }) => id === scene)!;
    for (const [surface, page] of Object.entries(pages)) this.turned.set(surface, { ...this.turned.get(surface), page });
    for (const [surface, bank] of Object.entries(banks)) this.turned.set(surface, { ...this.turned.get(surface), bank });
    this.lastScene = scene;
    this.onRecalled();
  }

  get mappingStates(): MappingStates {
    const nowMs = hubTimeMs();
    return {
      numbers: this.mappingNumber,
      heardMsAgo: this.mappingNumber.map((number) => (this.heardMs[number] ? Math.round(nowMs - this.heardMs[number]) : -1)),
      sends: this.mappingNumber.map((_, m) => Boolean(this.engine?.on[m])),
      scene: this.lastScene,
    };
  }

  /**
   * Sends one mapping alone from now on; everything else is held back. False where the rig has no such mapping or it is on
   * Stage.
   */
  introduce(mappingId: string, how: IntroduceHow): boolean {
    const m = this.engine?.plan.mappings.findIndex(({ rig }) => rig.id === mappingId) ?? -1;
    if (m < 0 || this.stage) return false;
    this.endIntroduction();
    this.introduction = new Introduction(m, mappingId, how, hubTimeMs());
    this.onPending(true, this.engine!.dueMs);
    return true;
  }

  /** Ends an introduction; what was held back is sent at its present value. True where there was one. */
  endIntroduction(): boolean {
    const { introduction, engine } = this;
    if (!introduction || !engine) return false;
    this.introduction = null;
    this.sampleTimeMs = 0;
    const timeMs = hubTimeMs();
    const { mapping, withheld } = introduction;
    if (engine.plan.mappings[mapping]!.gateMessage) engine.take({ kind: 'show', mapping, level: 0, timeMs });
    engine.take({ kind: 'sayAgain', mappings: [mapping, ...withheld], timeMs });
    this.showMoved(NOBODY_SENT, null);
    return true;
  }

  midi(output: number, mapping: number, bytes: Uint8Array, length: number, address: number): void {
    const { plan } = this.engine!;
    if (!plan.midiOutput[output] || (this.holdsBack(mapping) && (bytes[0]! & 0xf0) !== STATUS.noteOff)) return;
    const id = plan.outputIds[output]!;
    if (this.sounding.admits(id, bytes)) this.write(id, mapping, bytes.slice(0, length), address);
  }

  /** A message of an input that goes through as it came, past the mappings. Nothing where there is no such output. */
  pass(from: string, output: string, bytes: Uint8Array): void {
    this.sampleTimeMs = 0;
    this.engine?.take({ kind: 'pass', input: from, output, bytes, timeMs: hubTimeMs() });
  }

  /** Ends the notes of an input that went through. */
  endThru(from: string): void {
    this.sampleTimeMs = 0;
    this.engine?.take({ kind: 'endThru', input: from, timeMs: hubTimeMs() });
  }

  /** Follows a clock that comes in; null goes back to the tempo of the rig. */
  setTempo(bpm: number | null): void {
    this.engine?.take({ kind: 'tempo', bpm, timeMs: hubTimeMs() });
  }

  /** Signals that are not let through now; what was let through before stays as it is. */
  holdBack(numbers: ReadonlySet<number>): void {
    this.heldBack = numbers;
  }

  osc(output: number, mapping: number, value: number, address: number): void {
    const { message } = this.engine!.plan.mappings[mapping]!.rig;
    if (message.kind !== 'osc' || this.holdsBack(mapping)) return;
    this.write(this.engine!.plan.outputIds[output]!, mapping, encodeOsc(message.address, fillArguments(message.arguments, value)), address);
  }

  /** What the receiver of an output holds now. */
  heard(outputNumber: number): Iterable<Heard> {
    const id = this.outputs.idOf(outputNumber);
    return (id === undefined ? undefined : this.sinks.get(id)?.heard?.())?.values() ?? [];
  }

  /** By hub number; a signal that never moved shows its rest. NaN where there is none of this number. */
  signalValue(number: number): number {
    const index = this.signalIndex[number];
    if (index === undefined || !this.engine) return NaN;
    const value = this.engine.values[index]!;
    return Number.isNaN(value) ? this.engine.plan.signalRest[index]! : value;
  }

  /** The hub numbers of the signals that have a value of their own by now. */
  movedSignals(): number[] {
    return this.signalNumber.filter((_, index) => !Number.isNaN(this.engine?.values[index] ?? NaN));
  }

  mappingLevel(number: number): number {
    const index = this.mappingIndex[number];
    return index === undefined || !this.engine ? NaN : this.engine.levels[index]!;
  }

  /**
   * Whether a message is silent because a mapping is introduced alone; a mapping is remembered for the end of that. Panic and
   * clock go on.
   */
  private holdsBack(mapping: number): boolean {
    const { introduction } = this;
    if (!introduction || mapping === introduction.mapping || (mapping < 0 && mapping !== BY_SCENE && mapping !== BY_THRU)) return false;
    if (mapping >= 0) introduction.withheld.add(mapping);
    return true;
  }

  private feed(index: number, timeMs: number, value: number, from: Watcher | null): void {
    const { engine } = this;
    const number = this.signalNumber[index]!;
    for (const watcher of this.capturers) watcher.rawNumber(number, timeMs, value);
    if (this.heldBack.size > 0 && this.heldBack.has(number) && !this.letsGo(index, value)) return;
    this.sampleTimeMs = timeMs;
    if (this.monitors.length > 0) this.tell({ direction: 'in', hubTimeMs: hubTimeMs(), signal: number, value });
    engine!.take({ kind: 'sample', signal: index, timeMs, value });
    this.showMoved(number, from);
  }

  /** Whether a value lets go of a gate that is held: that is never held back, or what it holds would stay for ever. */
  private letsGo(index: number, value: number): boolean {
    const { plan, values } = this.engine!;
    return plan.rig.signals[index]!.kind === 'gate' && !(value > 0) && values[index]! > 0;
  }

  /** Tells the watchers what moved; the page that sent a value is not told its own. */
  private showMoved(sent: number, from: Watcher | null): void {
    const { movedMappings, movedSignals } = this.engine!;
    const heardMs = movedMappings.size > 0 ? this.sampleTimeMs || hubTimeMs() : 0;
    for (let i = 0; i < movedMappings.size; i++) {
      const number = this.mappingNumber[movedMappings.at(i)]!;
      this.heardMs[number] = heardMs;
      this.levelChanged(number);
    }
    for (let i = 0; i < movedSignals.size; i++) {
      const number = this.signalNumber[movedSignals.at(i)]!;
      for (const watcher of this.watchers) if (number !== sent || watcher !== from) watcher.signalChanged(number);
    }
    movedMappings.clear();
    movedSignals.clear();
  }

  private levelChanged(number: number): void {
    for (const watcher of this.watchers) watcher.mappingChanged(number);
  }

  /** Writes whole messages that belong together, and tells the watchers of each. */
  private write(output: string, mapping: number, bytes: Uint8Array, address: number): void {
    const nowMs = hubTimeMs();
    const sink = this.sinks.get(output);
    sink?.send(bytes, nowMs, address);
    if (sink?.mayComeBack) this.loops.sent(output, bytes, nowMs);
    if (this.sampleTimeMs > 0) this.delay.add(nowMs - this.sampleTimeMs);
    if (this.monitors.length === 0 && bytes.length <= SHORTEST_TWO) {
      this.messagesOut++;
      return;
    }
    const who = whoOf(mapping);
    const number = mapping < 0 ? null : this.mappings.take(this.engine!.plan.mappings[mapping]!.rig.id);
    for (const message of splitMessages(bytes)) {
      this.messagesOut++;
      this.tell({ direction: 'out', hubTimeMs: nowMs, output: this.outputs.take(output), who, mapping: number, bytes: message });
    }
  }

  private tell(fact: Fact): void {
    for (const watcher of this.monitors) watcher.fact(fact);
  }

  /** Opens what is new; an output that is another now, under the same id, is opened again, and what sounds there ends before. */
  private openOutputs(rig: RigDocument): void {
    for (const output of rig.outputs) {
      const before = this.rig?.outputs.find(({ id }) => id === output.id);
      if (this.sinks.has(output.id) && before && sameWay(before, output)) continue;
      if (this.sinks.has(output.id)) this.endNotesOn(output.id);
      this.sinks.get(output.id)?.close();
      const number = this.outputs.take(output.id);
      const onHeard = (heard: Heard) => {
        for (const watcher of this.watchers) watcher.receiverHeard(number, heard);
      };
      const isNew = !this.sinks.has(output.id);
      this.sinks.set(output.id, openOutput(output, onHeard));
      // What sounds on an output that was not open was left by an earlier hub.
      if (isNew) this.endNotesOn(output.id);
    }
  }

  private closeUnusedOutputs(rig: RigDocument): void {
    for (const [id, sink] of this.sinks) {
      if (rig.outputs.some((output) => output.id === id)) continue;
      this.endNotesOn(id);
      sink.close();
      this.sinks.delete(id);
    }
  }

  /** Numbers for what is new, and numbers given back of what went. */
  private renumber(): void {
    const { plan } = this.engine!;
    if (plan.signalIds !== this.numberedSignals) {
      this.numberedSignals = plan.signalIds;
      for (const number of this.signals.retain(new Set(plan.signalIds))) {
        delete this.signalIndex[number];
        this.pressedBy.delete(number);
      }
      this.signalNumber = plan.signalIds.map((id) => this.signals.take(id));
      this.signalNumber.forEach((number, index) => (this.signalIndex[number] = index));
    }
    const known = this.mappingNumber.length === plan.mappings.length && plan.mappings.every(({ rig }, m) => this.mappings.idOf(this.mappingNumber[m]!) === rig.id);
    if (!known) {
      for (const number of this.mappings.retain(new Set(plan.mappings.map(({ rig }) => rig.id)))) {
        delete this.mappingIndex[number];
        delete this.heardMs[number];
      }
      this.mappingNumber = plan.mappings.map(({ rig }) => this.mappings.take(rig.id));
      this.mappingNumber.forEach((number, index) => (this.mappingIndex[number] = index));
    }
    this.outputs.retain(new Set(plan.outputIds));
  }
}

/** Whether two outputs lead to the same place; names and what the engine does with them do not matter. */
function sameWay(a: RigOutput, b: RigOutput): boolean {
  if (a.kind !== b.kind || a.bytesPerS !== b.bytesPerS) return false;
  return a.kind !== 'osc' || b.kind !== 'osc' || (a.host === b.host && a.port === b.port);
}
