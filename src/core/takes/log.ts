import type { EngineEvent } from '../engine/event';
import { toLog, type LoggedEvent } from '../engine/eventLog';
import type { Plan } from '../engine/plan';
import type { RigDocument } from '../rig/document';
import { SAYS, type VoiceEvent } from '../voices/event';
import { ByteReader, ByteWriter } from './bytes';
import { applyRigDelta, rigDelta, type RigDelta } from './rigDelta';

/**
 * The log of a take as bytes. It stands in pieces, each of which begins with its time; a record is its kind, the time since the
 * record before, and what it says. Signals and streams go by their place in lists of names, said before and after each edit;
 * an edit is what it made other. Times are whole numbers of 1/128 ms: whoever writes a log gives the engine times of that kind,
 * and never an earlier one than before, so that what is read is what was given.
 */
export const UNITS_PER_MS = 128;

/** The nearest time that a log can say. */
export const loggable = (timeMs: number) => Math.round(timeMs * UNITS_PER_MS) / UNITS_PER_MS;

const KIND = { tick: 0, sampleByte: 1, sampleSingle: 2, sampleDouble: 3, on: 4, move: 5, off: 6, names: 7, rig: 8, other: 9 } as const;
const VOICE_KINDS = ['on', 'move', 'off'] as const;
/** In the mask of what is said of a voice, beside a bit for each field: the numbers are doubles. */
const DOUBLES = 128;

export interface Names {
  signals: readonly string[];
  streams: readonly string[];
}

/** A piece of a log. Times in ms of the clock of the events. */
export interface LogPiece {
  firstMs: number;
  lastMs: number;
  events: number;
  bytes: Uint8Array;
}

/** Keeps what an engine is given. On the hot path nothing is allocated. */
export class LogWriter {
  private readonly out = new ByteWriter();
  private lastUnits = -1;
  private firstUnits = -1;
  private events = 0;
  private plan: Plan | null = null;
  private said: Names = { signals: [], streams: [] };

  get length(): number {
    return this.out.length;
  }

  /** An event before the engine takes it; `plan` is the one in force then. */
  write(event: EngineEvent, plan: Plan): void {
    switch (event.kind) {
      case 'sample':
        if (plan.signalIds[event.signal] === undefined) return;
        return this.sample(event.timeMs, event.signal, event.value, plan);
      case 'tick':
        return this.begin(KIND.tick, event.timeMs);
      case 'on':
      case 'move':
      case 'off':
        if (plan.streamIds[event.stream] === undefined) return;
        return this.voice(event.timeMs, event, plan);
      case 'rig':
        this.begin(KIND.rig, event.timeMs);
        return this.out.text(JSON.stringify(rigDelta(plan.rig, event.rig)));
      default: {
        const logged = toLog(event, plan);
        if (!logged) return;
        this.begin(KIND.other, event.timeMs);
        this.out.text(JSON.stringify(logged));
      }
    }
  }

  /** What was written since the last call; null where that is nothing. */
  take(): LogPiece | null {
    if (this.events === 0) return null;
    const piece = { firstMs: this.firstUnits / UNITS_PER_MS, lastMs: this.lastUnits / UNITS_PER_MS, events: this.events, bytes: this.out.take() };
    this.events = 0;
    return piece;
  }

  private sample(timeMs: number, signal: number, value: number, plan: Plan): void {
    if (plan !== this.plan) this.sayNames(timeMs, plan);
    const kind = value >= 0 && value <= 255 && Number.isInteger(value) && !Object.is(value, -0) ? KIND.sampleByte : Math.fround(value) === value || Number.isNaN(value) ? KIND.sampleSingle : KIND.sampleDouble;
    this.begin(kind, timeMs);
    const { out } = this;
    out.count(signal);
    if (kind === KIND.sampleByte) out.byte(value);
    else if (kind === KIND.sampleSingle) out.float32(value);
    else out.float64(value);
  }

  private voice(timeMs: number, event: VoiceEvent, plan: Plan): void {
    if (plan !== this.plan) this.sayNames(timeMs, plan);
    this.begin(KIND[event.kind], timeMs);
    const { out } = this;
    const says = SAYS[event.kind];
    let mask = 0;
    for (let i = 0; i < says.length; i++) {
      const value = event[says[i]!];
      if (!Number.isFinite(value)) continue;
      mask |= 1 << i;
      if (Math.fround(value) !== value) mask |= DOUBLES;
    }
    out.count(event.stream);
    out.count(event.voice);
    out.byte(mask);
    for (let i = 0; i < says.length; i++) {
      if (!(mask & (1 << i))) continue;
      if (mask & DOUBLES) out.float64(event[says[i]!]);
      else out.float32(event[says[i]!]);
    }
  }

  private sayNames(timeMs: number, plan: Plan): void {
    this.plan = plan;
    const { signalIds: signals, streamIds: streams } = plan;
    if (isSame(signals, this.said.signals) && isSame(streams, this.said.streams)) return;
    this.said = { signals: [...signals], streams: [...streams] };
    this.begin(KIND.names, timeMs);
    this.events--;
    this.out.text(JSON.stringify(this.said));
  }

  private begin(kind: number, timeMs: number): void {
    const { out } = this;
    const units = Math.max(this.lastUnits, Math.round(timeMs * UNITS_PER_MS));
    if (out.length === 0) {
      this.firstUnits = this.lastUnits = units;
      out.count(units);
    }
    this.events++;
    out.byte(kind);
    out.count(units - this.lastUnits);
    this.lastUnits = units;
  }
}

const isSame = (a: readonly string[], b: readonly string[]) => a === b || (a.length === b.length && a.every((name, i) => name === b[i]));

/** Is told what stands in a log. Signals and streams go by their place in the names that were told last. */
export interface LogVisitor {
  names(names: Names): void;
  sample(timeMs: number, signal: number, value: number): void;
  tick(timeMs: number): void;
  /** The event is used again after the call; its stream is the place in the names. */
  voice(event: VoiceEvent & { timeMs: number }): void;
  /** The document after an edit, as it was written: one of an earlier version of Pumice is not brought up to date. */
  rig(timeMs: number, rig: RigDocument): void;
  other(event: LoggedEvent): void;
}

const NOTHING = () => undefined;
/** For whoever looks for some of it alone. */
export const BLIND_VISITOR: LogVisitor = { names: NOTHING, sample: NOTHING, tick: NOTHING, voice: NOTHING, rig: NOTHING, other: NOTHING };

/** Reads the pieces of a log in their order. */
export class LogReader {
  private readonly event: VoiceEvent & { timeMs: number } = { kind: 'on', timeMs: 0, stream: 0, voice: 0, pitch: NaN, strike: NaN, pressure: NaN, slide: NaN, release: NaN };

  /** @param rig the document that was in force when the log begins, as it was then */
  constructor(private rig: RigDocument) {}

  /** Throws where the bytes are no piece of a log. */
  read(piece: Uint8Array, visitor: LogVisitor): void {
    const from = new ByteReader(piece);
    let units = from.count();
    while (!from.ended) {
      const kind = from.byte();
      units += from.count();
      const timeMs = units / UNITS_PER_MS;
      switch (kind) {
        case KIND.tick:
          visitor.tick(timeMs);
          break;
        case KIND.sampleByte:
          visitor.sample(timeMs, from.count(), from.byte());
          break;
        case KIND.sampleSingle:
          visitor.sample(timeMs, from.count(), from.float32());
          break;
        case KIND.sampleDouble:
          visitor.sample(timeMs, from.count(), from.float64());
          break;
        case KIND.on:
        case KIND.move:
        case KIND.off:
          visitor.voice(this.voice(VOICE_KINDS[kind - KIND.on]!, timeMs, from));
          break;
        case KIND.names:
          visitor.names(JSON.parse(from.text()) as Names);
          break;
        case KIND.rig:
          this.rig = applyRigDelta(this.rig, JSON.parse(from.text()) as RigDelta);
          visitor.rig(timeMs, this.rig);
          break;
        case KIND.other:
          visitor.other({ ...(JSON.parse(from.text()) as LoggedEvent), timeMs });
          break;
        default:
          throw new Error(`It has a record of kind ${kind}, which this version of Pumice does not know.`);
      }
    }
  }

  private voice(kind: (typeof VOICE_KINDS)[number], timeMs: number, from: ByteReader): VoiceEvent & { timeMs: number } {
    const { event } = this;
    event.kind = kind;
    event.timeMs = timeMs;
    event.pitch = event.strike = event.pressure = event.slide = event.release = NaN;
    event.stream = from.count();
    event.voice = from.count();
    const mask = from.byte();
    SAYS[kind].forEach((field, i) => {
      if (mask & (1 << i)) event[field] = mask & DOUBLES ? from.float64() : from.float32();
    });
    return event;
  }
}

/** The document after the last edit of a log, as it was written; null where none was made. @param rig that it began with */
export function lastRig(rig: RigDocument, pieces: readonly Uint8Array[]): RigDocument | null {
  let last: RigDocument | null = null;
  const reader = new LogReader(rig);
  for (const piece of pieces) reader.read(piece, { ...BLIND_VISITOR, rig: (_, after) => void (last = after) });
  return last;
}
