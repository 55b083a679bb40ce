import { RELEASE_VELOCITY } from '../../core/engine/noteBook';
import { BY_ENDING, KEEP, whoOf } from '../../core/engine/sink';
import { LoopGuard } from '../../core/midi/loopGuard';
import { splitMessages } from '../../core/midi/decode';
import { STATUS } from '../../core/midi/message';
import type { RigOutput } from '../../core/rig/document';
import type { Heard } from '../../protocol/frames';
import type { Audience } from '../audience';
import { DelayMeter } from '../delayMeter';
import { Numbering } from '../numbering';
import { hubTimeMs } from '../time';
import { openOutput } from './open';
import type { Outgoing, OutgoingKind } from './outgoing';
import type { OutputSink } from './sink';
import type { SoundingBook } from './soundingBook';

/** Longer bodies, which are rare, get an array of their own. */
const BODY_BYTES = 64;
/** So few bytes are never two messages: every channel message takes at least two. */
const SHORTEST_TWO = 3;

interface Way {
  output: RigOutput;
  sink: OutputSink;
}

type Open = (output: RigOutput, onHeard: (heard: Heard) => void) => OutputSink;

/**
 * Everything between those who send and a port: opens and closes the outputs of a rig, keeps the one book of what sounds on
 * each, watches for loops, measures the delay, and shows what leaves to whoever watches.
 */
export class OutputDesk {
  readonly numbers = new Numbering();
  readonly loops = new LoopGuard();
  readonly delay = new DelayMeter();
  messagesOut = 0;
  /** When what leaves now is due. A field, as a number with a fraction among the arguments would be allocated for each message. */
  atMs = 0;
  /** When what it is made of happened; 0 where that is nothing of a performer's, and no delay is measured. */
  causedMs = 0;
  private measuredMs = 0;
  private readonly ways = new Map<string, Way>();
  private readonly message: Outgoing = { output: '', kind: 'midi', bytes: new Uint8Array(0), atMs: 0, address: KEEP, by: BY_ENDING };
  private readonly body = new Uint8Array(BODY_BYTES);
  /** By length: the first bytes of the body. */
  private readonly bodies = Array.from({ length: BODY_BYTES + 1 }, (_, length) => this.body.subarray(0, length));

  constructor(
    /** What sounds, by output; an earlier hub may have left something in it. */
    private readonly sounding: SoundingBook,
    private readonly audience: Audience,
    /** The hub number of a mapping, by its index in the plan. */
    private readonly mappingNumber: (mapping: number) => number,
    private readonly openWay: Open = openOutput,
  ) {}

  /**
   * Opens what is new among these outputs. One that leads elsewhere now, under the same id, is opened again, and what sounds
   * there ends before; so does what an earlier hub left.
   */
  open(outputs: readonly RigOutput[]): void {
    for (const output of outputs) {
      const way = this.ways.get(output.id);
      if (way && sameWay(way.output, output)) {
        way.output = output;
        continue;
      }
      if (way) {
        this.endNotesOn(output.id);
        way.sink.close();
      }
      const number = this.numbers.take(output.id);
      this.ways.set(output.id, { output, sink: this.openWay(output, (heard) => this.audience.receiverHeard(number, heard)) });
      if (!way) this.endNotesOn(output.id);
    }
  }

  /** Closes all outputs but these; what sounds there ends before. */
  closeOthers(outputs: readonly RigOutput[]): void {
    const stay = new Set(outputs.map(({ id }) => id));
    for (const [id, { sink }] of this.ways) {
      if (stay.has(id)) continue;
      this.endNotesOn(id);
      sink.close();
      this.ways.delete(id);
    }
    this.numbers.retain(stay);
  }

  close(): void {
    for (const { sink } of this.ways.values()) sink.close();
  }

  /**
   * MIDI leaves: whole messages that belong together, in the first `length` bytes. The end of a note that does not sound
   * there does not leave. What an output does not take, a rig cannot ask of it (see `core/rig/references`).
   */
  midi(output: string, by: number, bytes: Uint8Array, length: number, address: number): void {
    const way = this.ways.get(output);
    if (way?.sink.takes !== 'midi' || !this.sounding.admits(output, bytes)) return;
    let body = this.bodies[length];
    if (body) for (let i = 0; i < length; i++) body[i] = bytes[i]!;
    else body = bytes.slice(0, length);
    this.send(way, 'midi', by, body, address);
  }

  /** An OSC packet leaves; it must be made for this call alone. */
  osc(output: string, by: number, packet: Uint8Array, address: number): void {
    const way = this.ways.get(output);
    if (way?.sink.takes === 'osc') this.send(way, 'osc', by, packet, address);
  }

  /** What the receiver of an output holds now. */
  heard(number: number): Iterable<Heard> {
    const id = this.numbers.idOf(number);
    return (id === undefined ? undefined : this.ways.get(id)?.sink.heard?.())?.values() ?? [];
  }

  private send(way: Way, kind: OutgoingKind, by: number, bytes: Uint8Array, address: number): void {
    const { message, audience } = this;
    message.output = way.output.id;
    message.kind = kind;
    message.bytes = bytes;
    message.atMs = this.atMs;
    message.address = address;
    message.by = by;
    way.sink.send(message);
    if (way.sink.mayComeBack) this.loops.sent(way.output.id, bytes, hubTimeMs());
    this.measure();
    const several = kind === 'midi' && bytes.length > SHORTEST_TWO;
    if (!several && !audience.listens) this.messagesOut++;
    else this.show(message, several ? splitMessages(bytes) : [bytes]);
  }

  /** The delay of what leaves first of all that was made of one moment. */
  private measure(): void {
    const { causedMs } = this;
    if (causedMs === 0 || causedMs === this.measuredMs) return;
    this.measuredMs = causedMs;
    this.delay.add(hubTimeMs() - causedMs);
  }

  private show({ output, by, kind }: Outgoing, messages: readonly Uint8Array[]): void {
    this.messagesOut += messages.length;
    if (!this.audience.listens) return;
    const nowMs = hubTimeMs();
    const [number, mapping, who] = [this.numbers.take(output), by < 0 ? null : this.mappingNumber(by), whoOf(by)];
    for (const message of messages) this.audience.fact({ direction: 'out', hubTimeMs: nowMs, output: number, who, mapping, bytes: kind === 'osc' ? message : message.slice() });
  }

  /** Ends what sounds on an output whatever began it: it goes, leads elsewhere, or an earlier hub left it so. */
  private endNotesOn(output: string): void {
    this.atMs = hubTimeMs();
    for (const { channel, note } of this.sounding.on(output)) {
      const off = Uint8Array.of(STATUS.noteOff | channel, note, RELEASE_VELOCITY);
      this.midi(output, BY_ENDING, off, off.length, KEEP);
    }
  }
}

/** Whether two outputs lead to the same place; names and what the engine does with them do not matter. */
function sameWay(a: RigOutput, b: RigOutput): boolean {
  if (a.kind !== b.kind || a.bytesPerS !== b.bytesPerS) return false;
  return a.kind !== 'osc' || b.kind !== 'osc' || (a.host === b.host && a.port === b.port);
}
