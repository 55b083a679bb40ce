import { RELEASE_VELOCITY } from '../../core/engine/noteBook';
import { BY_ENDING, BY_PANIC, BY_RETURN, BY_SHOWN, KEEP, whoOf } from '../../core/engine/sink';
import { splitMessages } from '../../core/midi/decode';
import { HOLDING_PEDALS } from '../../core/midi/controllers';
import { HeldValues } from '../../core/midi/heldValues';
import { LoopGuard } from '../../core/midi/loopGuard';
import { STATUS } from '../../core/midi/message';
import { isHeldPedal } from '../../core/voices/oscVoices';
import { isConfiguration, passesFilter } from '../../core/outputs/filter';
import { sameWay, type RigOutput } from '../../core/outputs/kinds';
import type { Heard } from '../../protocol/frames';
import { OPENING } from '../../protocol/live';
import type { Audience } from '../audience';
import { DelayBook } from '../delayBook';
import { DelayMeter } from '../delayMeter';
import { Numbering } from '../numbering';
import { hubTimeMs } from '../time';
import { opener, type OpenOutput } from './open';
import type { Outgoing, OutgoingKind } from './outgoing';
import type { OutputSink } from './sink';
import type { SoundingBook } from './soundingBook';

/** Longer bodies, which are rare, get an array of their own. */
const BODY_BYTES = 64;
/** So few bytes are never two messages: every channel message takes at least two. */
const SHORTEST_TWO = 3;

interface Way {
  output: RigOutput;
  /** Its hub number. */
  number: number;
  sink: OutputSink;
  /** Why nothing can leave there now; null where it can. */
  away: string | null;
  /** What its receiver holds, or will when it is back. */
  held: HeldValues;
  /** What is held as OSC, voices and pedals, and the packet that ends each. */
  heldOsc: Map<string, Uint8Array>;
  /** A bit for each channel that had notes since it is there. */
  noteChannels: number;
  missed: number;
}

/** How an output is. */
export interface WayState {
  id: string;
  away: string | null;
  /** Messages that it missed since the hub began. */
  missed: number;
}

const ALL_NOTES_OFF = 123;
const EVERY_CHANNEL = 0xffff;

/**
 * Everything between those who send and a port: opens and closes the outputs of a rig, keeps the one book of what sounds on
 * each, watches for loops, measures the delay, and shows what leaves to whoever watches.
 */
export class OutputDesk {
  readonly numbers = new Numbering();
  readonly loops = new LoopGuard();
  readonly delay = new DelayMeter();
  readonly delays = new DelayBook();
  messagesOut = 0;
  /** When what leaves now is due. A field, as a number with a fraction among the arguments would be allocated for each message. */
  atMs = 0;
  /** When what it is made of happened; 0 where that is nothing of a performer's, and no delay is measured. */
  causedMs = 0;
  /** When that came here, and how long it was at its page before. */
  arrivedMs = 0;
  onPageMs = 0;
  private measuredMs = 0;
  private isClosed = false;
  private readonly ways = new Map<string, Way>();
  private readonly message: Outgoing = { output: '', kind: 'midi', bytes: new Uint8Array(0), atMs: 0, address: KEEP, by: BY_ENDING, held: undefined };
  private readonly body = new Uint8Array(BODY_BYTES);
  /** By length: the first bytes of the body. */
  private readonly bodies = Array.from({ length: BODY_BYTES + 1 }, (_, length) => this.body.subarray(0, length));

  constructor(
    /** What sounds, by output; an earlier hub may have left something in it. */
    private readonly sounding: SoundingBook,
    private readonly audience: Audience,
    /** The hub number of a mapping, by its index in the plan. */
    private readonly mappingNumber: (mapping: number) => number,
    private readonly openWay: OpenOutput = opener(),
    /** Told when an output comes or goes. */
    private readonly onState: () => void = () => undefined,
  ) {}

  get states(): WayState[] {
    return [...this.ways.values()].map(({ output: { id }, away, missed }) => ({ id, away, missed }));
  }

  /**
   * Opens what is new among these outputs. One that leads elsewhere now, under the same id, is opened again, and what sounds
   * there ends before; so does what an earlier hub left.
   */
  open(outputs: readonly RigOutput[]): void {
    if (this.isClosed) return;
    for (const output of outputs) {
      const way = this.ways.get(output.id);
      if (way && sameWay(way.output, output)) this.change(way, output);
      else this.openAnew(output, way);
    }
  }

  private change(way: Way, output: RigOutput): void {
    const wasMuted = way.output.muted;
    if (output.muted && !wasMuted) this.endNotesOn(way);
    way.output = output;
    if (wasMuted && !output.muted) this.tellAgain(way);
  }

  private openAnew(output: RigOutput, before: Way | undefined): void {
    if (before) {
      this.endNotesOn(before);
      before.sink.close();
    }
    const number = this.numbers.take(output.id);
    let way: Way | null = null;
    // It may say how it is while it is being opened.
    let first: string | null = null;
    const sink = this.openWay(output, {
      heard: (heard) => this.audience.receiverHeard(number, heard),
      state: (away) => {
        if (way) this.isAway(way, away);
        else first = away;
      },
    });
    way = { output, number, sink, away: first, held: before?.held ?? new HeldValues(), heldOsc: new Map(), noteChannels: before ? 0 : onTheWay(output), missed: before?.missed ?? 0 };
    this.ways.set(output.id, way);
    if (first !== null) this.onState();
    else this.tellAgain(way);
  }

  /** A way comes or goes. One that was replaced meanwhile says nothing any more. */
  private isAway(way: Way, away: string | null): void {
    if (this.ways.get(way.output.id) !== way) return;
    const wasAway = way.away !== null;
    way.away = away;
    if (wasAway && away === null) this.tellAgain(way);
    this.onState();
  }

  /** Whatever sounds there is ended, and what it should hold is said: it was away, or heard nothing for a while. */
  private tellAgain(way: Way): void {
    if (isShut(way) || way.sink.takes !== 'midi') return;
    this.endNotesOn(way);
    this.causedMs = 0;
    this.atMs = hubTimeMs();
    // What was on its way when it went may have begun a note, or not ended one, or not lifted a pedal that nobody knows of any more.
    for (let channel = 0; channel < 16; channel++) {
      if ((way.noteChannels & (1 << channel)) === 0) continue;
      const pedals = waits(way.output) ? HOLDING_PEDALS.filter((pedal) => way.held.controller(channel + 1, pedal) === null) : [];
      for (const controller of [...pedals, ALL_NOTES_OFF]) this.send(way, 'midi', BY_ENDING, Uint8Array.of(STATUS.controlChange | channel, controller, 0), KEEP);
    }
    way.noteChannels = 0;
    for (const message of way.held.messages()) {
      if (way.output.filter && !passesFilter(way.output.filter, message)) continue;
      this.sounding.admits(way.output.id, message);
      this.send(way, 'midi', BY_RETURN, message, KEEP);
    }
  }

  /** Closes all outputs but these; what sounds there ends before. */
  closeOthers(outputs: readonly RigOutput[]): void {
    const stay = new Set(outputs.map(({ id }) => id));
    for (const [id, way] of this.ways) {
      if (stay.has(id)) continue;
      this.endNotesOn(way);
      way.sink.close();
      this.ways.delete(id);
    }
    this.numbers.retain(stay);
  }

  /** How many notes sound there, and voices of OSC. */
  private soundsAt({ output: { id }, heldOsc }: Way): number {
    return this.sounding.on(id).length + [...heldOsc.keys()].filter((held) => !isHeldPedal(held)).length;
  }

  /**
   * Ends every note of the book, whoever began it, and does `more` about it first. Says how many notes ended by that; those at an
   * output that is away end when it is back.
   */
  panic(more: () => void): number {
    const sounding = () => [...this.ways.values()].reduce((count, way) => count + (isShut(way) ? 0 : this.soundsAt(way)), 0);
    const before = sounding();
    // Before a slow port seconds of notes may wait.
    for (const { sink } of this.ways.values()) sink.hush?.();
    more();
    for (const way of this.ways.values()) this.endNotesOn(way, BY_PANIC);
    return before - sounding();
  }

  /**
   * Ends what still sounds, and lets go of bends and pressure: the next program would be out of tune. Nothing leaves any more, whatever
   * still comes: nobody would be there to end it.
   */
  close(): void {
    for (const way of this.ways.values()) {
      this.endNotesOn(way);
      if (!isShut(way) && way.sink.takes === 'midi') for (const message of way.held.backToRest()) this.send(way, 'midi', BY_ENDING, message, KEEP);
      way.sink.close();
    }
    this.isClosed = true;
    this.ways.clear();
  }

  /**
   * MIDI leaves: whole messages that belong together, in the first `length` bytes. The end of a note that does not sound
   * there does not leave. What an output does not take, a rig cannot ask of it (see `core/rig/references`).
   */
  midi(output: string, by: number, bytes: Uint8Array, length: number, address: number): void {
    const way = this.wayOf(output, bytes);
    if (way?.sink.takes !== 'midi') return;
    const kind = bytes[0]! & 0xf0;
    // A lamp that is lit by a note sounds nowhere: it is no note of the book.
    const isNote = by !== BY_SHOWN && (kind === STATUS.noteOn || kind === STATUS.noteOff);
    const begins = isNote && kind === STATUS.noteOn && bytes[2]! > 0;
    // What began must end, whatever a filter says by now.
    if (way.output.filter && (!isNote || begins) && !passesFilter(way.output.filter, bytes)) return;
    const body = this.bodyOf(bytes, length);
    if (!isNote) way.held.sent(body);
    if (isShut(way)) {
      if (way.away !== null && way.away !== OPENING) way.missed++;
      return;
    }
    if (by !== BY_SHOWN && !this.sounding.admits(way.output.id, bytes)) return;
    if (begins) way.noteChannels |= 1 << (bytes[0]! & 0x0f);
    this.send(way, 'midi', by, body, address);
  }

  /** Where a message for an output leaves: what sets a receiver up may have another way, or none. */
  private wayOf(output: string, bytes: Uint8Array): Way | undefined {
    const way = this.ways.get(output);
    const { configuration } = way?.output ?? {};
    if (configuration === undefined || !isConfiguration(bytes)) return way;
    return configuration === 'blocked' ? undefined : this.ways.get(configuration.to);
  }

  private bodyOf(bytes: Uint8Array, length: number): Uint8Array {
    const body = this.bodies[length];
    if (!body) return bytes.slice(0, length);
    for (let i = 0; i < length; i++) body[i] = bytes[i]!;
    return body;
  }

  /** An OSC packet leaves; it must be made for this call alone. */
  osc(output: string, by: number, packet: Uint8Array, address: number): void {
    const way = this.ways.get(output);
    if (way?.sink.takes === 'osc' && !isShut(way)) this.send(way, 'osc', by, packet, address);
  }

  /**
   * A voice begins or ends as OSC, or a pedal goes down or up. What began is in the book until it ends: an end that ends nothing does not leave.
   * @param end the packet that will end it, kept; null where this is its end
   */
  oscVoice(output: string, by: number, packet: Uint8Array, held: string, end: Uint8Array | null): void {
    const way = this.ways.get(output);
    if (way?.sink.takes !== 'osc' || isShut(way)) return;
    if (end) way.heldOsc.set(held, end);
    else if (!way.heldOsc.delete(held)) return;
    this.send(way, 'osc', by, packet, KEEP, { what: held, ends: end === null });
  }

  /** The receiver of an output says itself what it holds: that is what it is told when it was away. */
  stands(output: string, bytes: Uint8Array): void {
    this.ways.get(output)?.held.stands(bytes);
  }

  /** The value of a controller that was sent there last; null where none was. @param channel 1 to 16 */
  heldController(output: string, channel: number, controller: number): number | null {
    return this.ways.get(output)?.held.controller(channel, controller) ?? null;
  }

  /** What the receiver of an output holds now. */
  heard(number: number): readonly Heard[] {
    const id = this.numbers.idOf(number);
    return (id === undefined ? undefined : this.ways.get(id)?.sink.heard?.()) ?? [];
  }

  private send(way: Way, kind: OutgoingKind, by: number, bytes: Uint8Array, address: number, held?: Outgoing['held']): void {
    const { message, audience } = this;
    message.output = way.output.id;
    message.kind = kind;
    message.bytes = bytes;
    message.atMs = this.atMs;
    message.address = address;
    message.by = by;
    message.held = held;
    way.sink.send(message);
    // What a controller is shown it may say again, and nobody plays that.
    if (way.sink.mayComeBack && by !== BY_SHOWN) this.loops.sent(way.output.id, bytes, hubTimeMs());
    this.measure(way, by);
    const several = kind === 'midi' && bytes.length > SHORTEST_TWO;
    if (!several && !audience.listens) this.messagesOut++;
    else this.show(message, several ? splitMessages(bytes) : [bytes]);
  }

  /** Notes the delay; for the top bar that of what leaves first of all that was made of one moment. */
  private measure({ number }: Way, by: number): void {
    const { causedMs, onPageMs } = this;
    if (causedMs === 0) return;
    const nowMs = hubTimeMs();
    const totalMs = nowMs - causedMs;
    this.delays.add(nowMs, number, by < 0 ? -1 : this.mappingNumber(by), totalMs, onPageMs, Math.max(0, this.arrivedMs - causedMs - onPageMs));
    if (causedMs === this.measuredMs) return;
    this.measuredMs = causedMs;
    this.delay.add(totalMs);
  }

  private show({ output, by, kind }: Outgoing, messages: readonly Uint8Array[]): void {
    this.messagesOut += messages.length;
    if (!this.audience.listens) return;
    const nowMs = hubTimeMs();
    const [number, mapping, who] = [this.numbers.take(output), by < 0 ? null : this.mappingNumber(by), whoOf(by)];
    for (const message of messages) this.audience.fact({ direction: 'out', hubTimeMs: nowMs, output: number, who, mapping, delayMs: this.causedMs === 0 ? null : nowMs - this.causedMs, bytes: kind === 'osc' ? message : message.slice() });
  }

  /** Ends what sounds on an output, and lifts the pedals that hold notes, whatever began it: it goes, leads elsewhere, or an earlier hub left it so. */
  private endNotesOn(way: Way, by = BY_ENDING): void {
    if (isShut(way)) return;
    this.atMs = hubTimeMs();
    for (const { channel, note } of this.sounding.on(way.output.id)) {
      const off = Uint8Array.of(STATUS.noteOff | channel, note, RELEASE_VELOCITY);
      this.midi(way.output.id, by, off, off.length, KEEP);
    }
    // Past filters, and but for Panic without a word to what it holds: where it only goes for a while, a pedal that is still down is said again.
    for (const { channel, controller } of this.sounding.pedalsOn(way.output.id)) {
      const up = Uint8Array.of(STATUS.controlChange | channel, controller, 0);
      if (by === BY_PANIC) way.held.sent(up);
      this.sounding.admits(way.output.id, up);
      this.send(way, 'midi', by, up, KEEP);
    }
    for (const [what, end] of way.heldOsc) this.send(way, 'osc', by, end, KEEP, { what, ends: true });
    way.heldOsc.clear();
  }
}

/**
 * The channels on which an earlier hub may have left a note: where things wait before they leave, the end of one may have been
 * among what waited when it died, though the book had it written down already.
 */
function onTheWay(output: RigOutput): number {
  return waits(output) ? EVERY_CHANNEL : 0;
}

/** Whether what leaves waits before it is written. */
function waits({ delayMs, bytesPerS }: RigOutput): boolean {
  return Boolean(delayMs) || bytesPerS !== undefined;
}

/**
 * Whether nothing leaves there now. What sounded when it was shut stays in the book, and is ended when it opens. OSC is sent to one that
 * is away all the same: nobody knows that it is back before something arrives, and its sink says again what was lost.
 */
function isShut({ away, output, sink }: Way): boolean {
  return (away !== null && sink.takes === 'midi') || output.muted === true;
}
