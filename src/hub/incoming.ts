import { voiceEvent, type VoiceEvent } from '../core/voices/event';
import type { Audience } from './audience';
import type { EngineDoor } from './engineDoor';
import type { OutputDesk } from './outputs/desk';
import type { PlanNumbers } from './planNumbers';
import type { Shown } from './shown';
import { hubTimeMs } from './time';
import type { Watcher } from './watcher';

/** What inputs say, by hub numbers, on its way to the engine: samples, voices and pedals. What is held back goes no further. */
export class Incoming {
  /** By number of a gate: the page that pressed it last. */
  readonly pressedBy = new Map<number, Watcher>();
  /** Numbers of gates that were let go of with a lost line: a finger may be on them still. */
  readonly lost = new Set<number>();
  /** Samples and voice events so far; whoever counts them begins anew. */
  samples = 0;
  private heldBack: ReadonlySet<number> = new Set();
  private voices = 0;
  /** Used again for every sample. */
  private readonly event = { kind: 'sample' as 'sample' | 'heldOn', signal: 0, timeMs: 0, value: 0 };
  private readonly voiceEvent = { ...voiceEvent(), timeMs: 0 };

  constructor(
    private readonly door: EngineDoor,
    private readonly numbers: PlanNumbers,
    private readonly audience: Audience,
    private readonly outputs: OutputDesk,
    private readonly shown: Shown,
  ) {}

  /** These signals are gone, and their numbers may mean others. */
  forget(signals: readonly number[]): void {
    for (const number of signals) for (const known of [this.pressedBy, this.lost]) known.delete(number);
  }

  /** Signals that are not let through now; what was let through before stays as it is. */
  holdBack(numbers: ReadonlySet<number>): void {
    this.heldBack = numbers;
  }

  /**
   * One sample by hub number. False where the rig has no such signal now.
   * @param heldOn whether it says that what was let go of with a lost line was held all the while
   */
  sample(number: number, timeMs: number, value: number, from: Watcher | null, heldOn = false): boolean {
    const { door, outputs } = this;
    const index = this.numbers.signalIndex(number);
    if (index === undefined || !door.engine) return false;
    this.samples++;
    this.audience.rawNumber(number, timeMs, value);
    if (this.heldBack.size > 0 && this.heldBack.has(number) && !this.letsGo(index, value)) return true;
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
    door.give(event);
    if (from) this.shown.tell(number, from);
    else this.shown.soon();
    door.settle();
    return true;
  }

  /**
   * One event of a voice, its stream by hub number; it may be used again after the call. False where the rig has no such stream
   * now.
   */
  voice(number: number, timeMs: number, said: Readonly<Omit<VoiceEvent, 'stream'>>): boolean {
    const { door, voiceEvent: event } = this;
    const stream = this.numbers.streamIndex(number);
    if (stream === undefined || !door.engine) return false;
    this.samples++;
    this.outputs.causedMs = timeMs;
    event.kind = said.kind;
    event.stream = stream;
    event.voice = said.voice;
    event.timeMs = timeMs;
    event.pitch = said.pitch;
    event.strike = said.strike;
    event.pressure = said.pressure;
    event.slide = said.slide;
    event.release = said.release;
    door.give(event);
    this.shown.soon();
    door.settle();
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
    this.door.give({ kind: 'pedal', timeMs, stream, controller, value });
    this.door.settle();
  }

  /** A stream went. */
  endStream(number: number): void {
    const stream = this.numbers.streamIndex(number);
    if (stream === undefined) return;
    this.outputs.causedMs = 0;
    this.door.give({ kind: 'endStream', timeMs: hubTimeMs(), stream });
    this.door.settle();
  }

  /** Whether a value lets go of a gate that is held: that is never held back, or what it holds would stay for ever. */
  private letsGo(index: number, value: number): boolean {
    const { plan, values } = this.door.engine!;
    return plan.rig.signals[index]!.kind === 'gate' && !(value > 0) && values[index]! > 0;
  }
}
