import { Engine } from '../core/engine/engine';
import type { EventNow } from '../core/engine/event';
import type { MidiMessage } from '../core/midi/message';
import type { RigDocument } from '../core/rig/document';
import type { InTurn, IntroduceHow, Standing } from '../protocol/live';
import { BY_TAKE, KEEP } from '../core/engine/sink';
import { Audience } from './audience';
import { ComingBack } from './comeBack';
import { EngineDoor } from './engineDoor';
import { Incoming } from './incoming';
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
 * The rig that plays, and what is done to it as a whole: loaded, recalled, silenced, introduced. What inputs say is `incoming`, what comes of it
 * goes by the output desk. Signals and mappings go by hub numbers on the outside and by plan indices on the inside.
 */
export class Player {
  readonly audience = new Audience();
  readonly outputs: OutputDesk;
  private readonly numbers = new PlanNumbers();
  readonly signals = this.numbers.signals;
  readonly mappings = this.numbers.mappings;
  readonly streams = this.numbers.streams;
  rig: RigDocument | null = null;
  rigId = '';
  revision = 0;
  stage = false;
  readonly standsBy = new StandsBy();
  readonly song: SongTime = new SongTime(
    () => this.engine,
    (event) => {
      const done = this.happens(event);
      if (this.engine) this.door.sayPending();
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
      settled: () => this.engine && this.door.sayPending(),
    }),
  );
  /** Told when the take that plays needs more, and when one begins or ends. */
  onTake: { wants(play: number, untilMs: number): void; changed(): void; punch(isIn: boolean): void } = { wants: () => undefined, changed: () => undefined, punch: () => undefined };
  readonly door: EngineDoor;
  readonly incoming: Incoming;
  private readonly events: PlayerEvents;
  readonly leaving: Leaving;
  private readonly comingBack: ComingBack;
  private readonly shownOn: ShownOnControllers;
  /** What can be seen of what plays. */
  readonly shown: Shown;
  private readonly introducing: Introducing;

  constructor(
    sounding: SoundingBook,
    events: Partial<PlayerEvents> = {},
    open: OpenOutput = opener(),
  ) {
    const nothing = () => undefined;
    this.events = { pending: nothing, introduced: nothing, recalled: nothing, outputs: nothing, ...events };
    this.door = new EngineDoor({ dueMs: () => this.takes.dueMs, evenly: () => this.introduction !== null || this.takes.plays }, (evenly, dueMs) => {
      this.shown.dueMs = this.door.dueMs;
      this.events.pending(evenly, dueMs);
    });
    // While a rig is loaded the numbers are still those of the one before.
    this.outputs = new OutputDesk(sounding, this.audience, (by) => this.numbers.mapperNumber(this.engine!.plan, by), open, () => {
      if (this.engine) this.shownOn.follow(this.outputs.states, this.engine.levels);
      this.events.outputs();
    });
    this.leaving = new Leaving(this.outputs, () => this.engine!, () => this.introduction, (scene) => this.recalled(scene));
    this.comingBack = new ComingBack(this.outputs, () => this.engine, (event) => void this.happens(event));
    this.shownOn = new ShownOnControllers(this.outputs);
    this.shown = new Shown(this.numbers, this.audience, () => this.engine, (m, level) => this.shownOn.moved(m, level), this.standsBy);
    this.incoming = new Incoming(this.door, this.numbers, this.audience, this.outputs, this.shown);
    this.introducing = new Introducing(
      {
        plan: () => this.engine?.plan ?? null,
        isLocked: () => this.stage,
        happens: (event) => void this.happens(event),
        changed: () => {
          this.shown.tell();
          this.door.sayPending();
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
    if (this.engine) for (const event of toNothing(this.engine, this.song.isLed)) this.door.give({ ...event, timeMs: hubTimeMs() });
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
    if (this.engine) this.door.give({ kind: 'rig', rig, timeMs });
    else {
      this.door.engine = new Engine(rig, this.leaving);
      this.door.give({ kind: 'start', timeMs });
      if (asItStood) this.stand(rig, asItStood);
    }
    Object.assign(this, { rig, revision, stage });
    const engine = this.engine!;
    const gone = this.numbers.follow(engine.plan);
    this.incoming.forget(gone.signals);
    this.shown.forget(gone.mappings);
    // Lamps of what goes are put out while their outputs are still there.
    this.shownOn.load(rig.mappings, rig);
    this.outputs.closeOthers(rig.outputs);
    this.comingBack.load(rig);
    engine.levels.forEach((level, m) => this.shownOn.moved(m, level));
    this.restore(rig, values);
    if (asItStood) this.door.goOn(toPiece(asItStood.piece).map((event) => ({ ...event, timeMs: hubTimeMs() })));
    inTurn?.();
    this.shown.tell();
    this.door.sayPending();
  }

  /** How the rig stands by scenes and taps; null before there is one. */
  get standing(): Standing | null {
    return this.engine && { ...this.standsBy.now(this.engine), piece: this.song.standing };
  }

  private stand(rig: RigDocument, standing: Standing): void {
    for (const event of toStanding(rig, standing)) this.door.give({ ...event, timeMs: hubTimeMs() });
    this.standsBy.takeUp(rig, standing);
  }

  private restore(rig: RigDocument, values: Record<string, number>): void {
    const { plan, values: heard } = this.engine!;
    for (const [id, value] of Object.entries(values)) {
      const index = plan.signalIds.indexOf(id);
      // Gates are never restored, derived signals follow from the others.
      const restored = rig.signals[index]?.kind === 'continuous';
      if (restored && Number.isNaN(heard[index]!)) this.door.give({ kind: 'restore', signal: index, timeMs: hubTimeMs(), value });
    }
  }

  tick(): void {
    if (!this.engine) return;
    this.takes.tick();
    this.happens({ kind: 'tick' });
    this.introducing.tick();
    this.shown.tell();
    this.door.sayPending();
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
    this.door.sayPending();
    return true;
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
    const done = this.door.give({ ...event, timeMs: hubTimeMs() });
    this.door.settle();
    return done;
  }

  private get engine(): Engine | null {
    return this.door.engine;
  }
}
