import { Engine } from '../core/engine/engine';
import type { EngineEvent, EventNow } from '../core/engine/event';
import type { MidiMessage } from '../core/midi/message';
import type { RigDocument } from '../core/rig/document';
import type { InTurn, IntroduceHow, PieceStanding, Standing } from '../protocol/live';
import { BY_TAKE, KEEP } from '../core/engine/sink';
import { loggable } from '../core/takes/log';
import { voiceEvent, type VoiceEvent } from '../core/voices/event';
import { Audience } from './audience';
import { ComingBack } from './comeBack';
import { Introducing } from './introducing';
import type { Introduction } from './introduction';
import { Leaving } from './leaving';
import { OutputDesk } from './outputs/desk';
import { opener, type OpenOutput } from './outputs/open';
import type { SoundingBook } from './outputs/soundingBook';
import { PlanNumbers } from './planNumbers';
import { Shown } from './shown';
import { ShownOnControllers } from './shownOn';
import { TakePlayer } from './takePlayer';
import { takeWorld } from './takeWorld';
import { SongTime } from './songTime';
import { StandsBy, toNothing, toPiece, toStanding } from './standing';
import { hubTimeMs } from './time';
import type { Watcher } from './watcher';

/** Whom a player tells what. */
export interface PlayerEvents {
  /** Whether ticks at an even rate are needed, and when one is wanted besides those. */
  pending(evenly: boolean, dueMs: number): void;
  /** An introduction has ended by itself. */
  introduced(): void;
  /** A scene was recalled, by whatever. */
  recalled(scene: string): void;
  /** An output has come or gone. */
  outputs(): void;
}

/**
 * The rig that plays: gives the engine what happens, and the output desk what comes of it. Signals and mappings go by hub
 * numbers on the outside and by plan indices on the inside.
 */
export class Player {
  readonly audience = new Audience();
  readonly outputs: OutputDesk;
  private readonly numbers = new PlanNumbers();
  readonly signals = this.numbers.signals;
  readonly mappings = this.numbers.mappings;
  readonly streams = this.numbers.streams;
  /** By number of a gate: the page that pressed it last. */
  readonly pressedBy = new Map<number, Watcher>();
  /** Numbers of gates that were let go of with a lost line: a finger may be on them still. */
  readonly lost = new Set<number>();
  rig: RigDocument | null = null;
  rigId = '';
  revision = 0;
  stage = false;
  readonly standsBy = new StandsBy();
  samplesIn = 0;
  /** Told of everything that the engine is given, before it takes it; null while nobody keeps a log. */
  journal: { hear(event: EngineEvent, engine: Engine): void } | null = null;
  readonly song: SongTime = new SongTime(
    () => this.engine,
    (event) => {
      const done = this.happens(event);
      if (this.engine) this.tellPending();
      return done;
    },
  );
  /** Plays takes to the outputs. */
  readonly takes: TakePlayer = new TakePlayer(
    takeWorld({
      happens: (event) => this.happens(event),
      osc: (output, packet) => this.outputs.osc(output, BY_TAKE, packet, KEEP),
      oscVoice: (output, packet, held, end) => this.outputs.oscVoice(output, BY_TAKE, packet, held, end),
      outputs: () => this.rig?.outputs ?? [],
      song: this.song,
      told: () => this.onTake,
      settled: () => this.engine && this.tellPending(),
    }),
  );
  /** Told of Start, Continue and Stop of a MIDI input, and when the transport starts or stops. */
  onTransport: (kind: 'start' | 'continue' | 'stop') => void = () => undefined;
  /** Told when the take that plays needs more, and when one begins or ends. */
  onTake: { wants(play: number, untilMs: number): void; changed(): void; punch(isIn: boolean): void } = { wants: () => undefined, changed: () => undefined, punch: () => undefined };
  private engine: Engine | null = null;
  private readonly events: PlayerEvents;
  readonly leaving: Leaving;
  private readonly comingBack: ComingBack;
  private readonly shownOn: ShownOnControllers;
  /** What can be seen of what plays. */
  readonly shown: Shown;
  private readonly introducing: Introducing;
  private heldBack: ReadonlySet<number> = new Set();
  private voices = 0;
  /** What the clock was told last. */
  private quietUntilMs = Infinity;
  private dueMs = Infinity;
  /** Whether the transport ran when that was told last. */
  private ran = false;
  /** Used again for every sample. */
  private readonly event = { kind: 'sample' as 'sample' | 'heldOn', signal: 0, timeMs: 0, value: 0 };
  private readonly voiceEvent = { ...voiceEvent(), timeMs: 0 };

  constructor(
    sounding: SoundingBook,
    events: Partial<PlayerEvents> = {},
    open: OpenOutput = opener(),
  ) {
    const nothing = () => undefined;
    this.events = { pending: nothing, introduced: nothing, recalled: nothing, outputs: nothing, ...events };
    // While a rig is loaded the numbers are still those of the one before.
    this.outputs = new OutputDesk(sounding, this.audience, (by) => this.numbers.mapperNumber(this.engine!.plan, by), open, () => {
      if (this.engine) this.shownOn.follow(this.outputs.states, this.engine.levels);
      this.events.outputs();
    });
    this.leaving = new Leaving(this.outputs, () => this.engine!, () => this.introduction, (scene) => this.recalled(scene));
    this.comingBack = new ComingBack(this.outputs, () => this.engine, (event) => void this.happens(event));
    this.shownOn = new ShownOnControllers(this.outputs);
    this.shown = new Shown(this.numbers, this.audience, () => this.engine, (m, level) => this.shownOn.moved(m, level), this.standsBy);
    this.introducing = new Introducing(
      {
        plan: () => this.engine?.plan ?? null,
        isLocked: () => this.stage,
        happens: (event) => void this.happens(event),
        changed: () => {
          this.shown.tell();
          this.tellPending();
        },
      },
      () => this.events.introduced(),
    );
  }

  /** Another rig follows, though its parts may be called as those of the one before: what that did ends with it. False where it is the same. */
  opens(id: string): boolean {
    if (id === this.rigId) return false;
    this.rigId = id;
    this.takes.stop();
    if (this.endIntroduction()) this.events.introduced();
    this.standsBy.forget();
    this.shown.forget([...this.numbers.mappingNumbers, ...this.numbers.voiceNumbers]);
    if (this.engine) for (const event of toNothing(this.engine, this.song.isLed)) this.give({ ...event, timeMs: hubTimeMs() });
    return true;
  }

  /**
   * Takes a rig. `values` are the last known signal values, used for signals that this hub has not heard yet: their
   * mappings send them, so that receivers agree with what the surfaces show. A hub that has just begun takes up how it stood.
   */
  load(rig: RigDocument, revision: number, stage: boolean, values: Record<string, number>, standing?: Standing): void {
    const inTurn = this.introducing.setAside();
    const timeMs = hubTimeMs();
    const asItStood = this.engine ? null : (standing ?? null);
    this.outputs.causedMs = 0;
    this.outputs.open(rig.outputs);
    if (this.engine) this.give({ kind: 'rig', rig, timeMs });
    else {
      this.engine = new Engine(rig, this.leaving);
      this.give({ kind: 'start', timeMs });
      if (asItStood) this.stand(rig, asItStood);
    }
    Object.assign(this, { rig, revision, stage });
    const gone = this.numbers.follow(this.engine.plan);
    for (const number of gone.signals) for (const known of [this.pressedBy, this.lost]) known.delete(number);
    this.shown.forget(gone.mappings);
    // Lamps of what goes are put out while their outputs are still there.
    this.shownOn.load(rig.mappings, rig);
    this.outputs.closeOthers(rig.outputs);
    this.comingBack.load(rig);
    this.engine.levels.forEach((level, m) => this.shownOn.moved(m, level));
    this.restore(rig, values);
    if (asItStood) this.goOn(asItStood.piece);
    inTurn?.();
    this.shown.tell();
    this.tellPending();
  }

  /** How the rig stands by scenes and taps; null before there is one. */
  get standing(): Standing | null {
    return this.engine && { ...this.standsBy.now(this.engine), piece: this.song.standing };
  }

  private stand(rig: RigDocument, standing: Standing): void {
    for (const event of toStanding(rig, standing)) this.give({ ...event, timeMs: hubTimeMs() });
    this.standsBy.takeUp(rig, standing);
  }

  private goOn(piece: PieceStanding): void {
    for (const event of toPiece(piece)) this.put({ ...event, timeMs: hubTimeMs() });
    // It goes on: nobody starts anything, so nothing is recorded by it.
    this.ran = this.engine!.running;
  }

  private restore(rig: RigDocument, values: Record<string, number>): void {
    const { plan, values: heard } = this.engine!;
    for (const [id, value] of Object.entries(values)) {
      const index = plan.signalIds.indexOf(id);
      // Gates are never restored, derived signals follow from the others.
      const restored = rig.signals[index]?.kind === 'continuous';
      if (restored && Number.isNaN(heard[index]!)) this.give({ kind: 'restore', signal: index, timeMs: hubTimeMs(), value });
    }
  }

  /**
   * One sample by hub number. False where the rig has no such signal now.
   * @param heldOn whether it says that what was let go of with a lost line was held all the while
   */
  sample(number: number, timeMs: number, value: number, from: Watcher | null, heldOn = false): boolean {
    const { engine } = this;
    const index = this.numbers.signalIndex(number);
    if (index === undefined || !engine) return false;
    this.samplesIn++;
    this.audience.rawNumber(number, timeMs, value);
    if (this.heldBack.size > 0 && this.heldBack.has(number) && !this.letsGo(index, value)) return true;
    const { outputs } = this;
    outputs.causedMs = timeMs;
    // What no page sent has come no way that could be told from its own time.
    if (!from) {
      outputs.arrivedMs = timeMs;
      outputs.onPageMs = 0;
    }
    if (this.audience.listens) this.audience.fact({ direction: 'in', hubTimeMs: hubTimeMs(), signal: number, value });
    const { event } = this;
    // Also a hub that has just begun hears it: there nothing was pressed, so that this is the press.
    const wasLost = this.lost.size > 0 && this.lost.delete(number);
    event.kind = heldOn && wasLost ? 'heldOn' : 'sample';
    event.signal = index;
    event.timeMs = timeMs;
    event.value = value;
    this.give(event);
    if (from) this.shown.tell(number, from);
    else this.shown.soon();
    this.tellIfOther(engine);
    return true;
  }

  /**
   * One event of a voice, its stream by hub number; it may be used again after the call. False where the rig has no such stream
   * now.
   */
  voice(number: number, timeMs: number, said: Readonly<Omit<VoiceEvent, 'stream'>>): boolean {
    const { engine, outputs, voiceEvent: event } = this;
    const stream = this.numbers.streamIndex(number);
    if (stream === undefined || !engine) return false;
    this.samplesIn++;
    outputs.causedMs = timeMs;
    event.kind = said.kind;
    event.stream = stream;
    event.voice = said.voice;
    event.timeMs = timeMs;
    event.pitch = said.pitch;
    event.strike = said.strike;
    event.pressure = said.pressure;
    event.slide = said.slide;
    event.release = said.release;
    this.give(event);
    this.shown.soon();
    this.tellIfOther(engine);
    return true;
  }

  /** A number for a voice that nobody has. */
  freshVoice(): number {
    this.voices = (this.voices + 1) & 0x3fffffff;
    return this.voices;
  }

  /** A pedal of a stream, by hub number. */
  pedal(number: number, timeMs: number, controller: number, value: number): void {
    const stream = this.numbers.streamIndex(number);
    if (stream === undefined) return;
    this.outputs.causedMs = timeMs;
    this.give({ kind: 'pedal', timeMs, stream, controller, value });
    this.tellIfOther(this.engine!);
  }

  /** A stream went. */
  endStream(number: number): void {
    const stream = this.numbers.streamIndex(number);
    if (stream !== undefined) this.happens({ kind: 'endStream', stream });
  }

  tick(): void {
    if (!this.engine) return;
    this.takes.tick();
    this.happens({ kind: 'tick' });
    this.introducing.tick();
    this.shown.tell();
    this.tellPending();
  }

  /** Silences everything; says how many notes ended by that. */
  panic(): number {
    this.takes.stop();
    // Or it would press its note again.
    if (this.endIntroduction()) this.events.introduced();
    const ended = this.outputs.panic(() => this.happens({ kind: 'panic' }));
    this.shownOn.allOut();
    return ended;
  }

  /** Sets the receiver of an output up; false where there is no such MIDI output, or it is on Stage. */
  setUp(output: string): boolean {
    return !this.stage && this.happens({ kind: 'setUp', output });
  }

  /** Ends what sounds and closes the outputs. */
  stop(): void {
    this.takes.stop();
    this.happens({ kind: 'release' });
    this.shownOn.allOut();
    this.outputs.close();
  }

  /** A message of an input that goes through as it came, past the mappings. Nothing where there is no such output. */
  pass(from: string, output: string, bytes: Uint8Array): void {
    this.happens({ kind: 'pass', input: from, output, bytes });
  }

  /** A message that a person sends; false where there is no such MIDI output, or it is on Stage. */
  sendByHand(output: string, bytes: Uint8Array): boolean {
    return !this.stage && this.happens({ kind: 'send', output, bytes });
  }

  /**
   * A message of an input that may be what a receiver says of itself: then what no finger holds follows it, and nothing leaves.
   * False where it is none, and is played like any other.
   */
  cameBack(input: string | null, message: MidiMessage): boolean {
    const isBack = input !== null && this.comingBack.take(input, message);
    if (isBack) this.shown.soon();
    return isBack;
  }

  /** Ends the notes of an input that went through. */
  endThru(from: string): void {
    this.happens({ kind: 'endThru', input: from });
  }

  /** Recalls a scene; false where the rig has none of this id. */
  recall(scene: string): boolean {
    if (!this.happens({ kind: 'recall', scene })) return false;
    this.shown.tell();
    this.tellPending();
    return true;
  }

  /** Signals that are not let through now; what was let through before stays as it is. */
  holdBack(numbers: ReadonlySet<number>): void {
    this.heldBack = numbers;
  }

  /**
   * Sends one mapping alone from now on; everything else is held back. False where the rig has no such mapping or it is on
   * Stage.
   */
  introduce(mappingId: string, how: IntroduceHow, inTurn: InTurn | null = null): boolean {
    return this.introducing.begin(mappingId, how, inTurn);
  }

  /** Ends an introduction; what was held back is sent at its present value. True where there was one. */
  endIntroduction(): boolean {
    return this.introducing.end();
  }

  get introduction(): Introduction | null {
    return this.introducing.now;
  }

  /** The engine says that a scene was recalled. */
  private recalled(id: string): void {
    const scene = this.rig?.scenes.find((one) => one.id === id);
    // It stands as it stood: nothing was recalled.
    if (!scene) return;
    this.standsBy.recalled(scene, hubTimeMs());
    this.events.recalled(id);
  }

  /** Something that is no sample happens now; false where it names what the rig does not have, or there is none. */
  private happens(event: EventNow): boolean {
    this.outputs.causedMs = 0;
    if (!this.engine) return false;
    const done = this.give({ ...event, timeMs: hubTimeMs() });
    this.tellIfOther(this.engine);
    return done;
  }

  /** The one way into the engine; what goes in is all that a log of it needs. */
  private put(event: EngineEvent): boolean {
    const { engine, journal } = this;
    if (journal) {
      event.timeMs = loggable(event.timeMs);
      journal.hear(event, engine!);
    }
    return engine!.take(event);
  }

  private give(event: EngineEvent): boolean {
    const done = this.put(event);
    // Told after the event, so that whoever begins a take by it finds the engine between two.
    if (this.engine!.running !== this.ran) {
      this.ran = !this.ran;
      this.onTransport(this.ran ? 'start' : 'stop');
    }
    return done;
  }

  /** Ticks may be needed otherwise than was said last. */
  private tellIfOther({ quietUntilMs, dueMs }: Engine): void {
    if (quietUntilMs !== this.quietUntilMs || dueMs !== this.dueMs) this.tellPending();
  }

  private tellPending(): void {
    const { quietUntilMs, dueMs } = this.engine!;
    this.quietUntilMs = quietUntilMs;
    this.dueMs = Math.min(dueMs, this.takes.dueMs);
    this.shown.dueMs = this.dueMs;
    const evenly = quietUntilMs <= hubTimeMs() || this.introduction !== null || this.takes.plays;
    this.events.pending(evenly, evenly ? this.dueMs : Math.min(this.dueMs, quietUntilMs));
  }

  /** Whether a value lets go of a gate that is held: that is never held back, or what it holds would stay for ever. */
  private letsGo(index: number, value: number): boolean {
    const { plan, values } = this.engine!;
    return plan.rig.signals[index]!.kind === 'gate' && !(value > 0) && values[index]! > 0;
  }
}
