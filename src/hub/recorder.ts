import { randomUUID } from 'node:crypto';
import type { Engine } from '../core/engine/engine';
import type { EngineState } from '../core/engine/state';
import type { EngineEvent } from '../core/engine/event';
import { packKept } from '../core/engine/snapshot';
import type { RigDocument } from '../core/rig/document';
import { loggable, LogWriter, type LogPiece } from '../core/takes/log';
import type { RecordingState, TakeRecord } from '../protocol/takes';
import { calendarMs, hubTimeMs } from './time';

/** The log of every few seconds begins with all that the engine remembers, so that a take can begin there. */
const STRETCH_MS = 5000;
/** So much is always kept. */
const PRE_ROLL_MS = 30_000;
/** But no more than this, where a flood came. */
const PRE_ROLL_BYTES = 32 * 1024 * 1024;
/** Log that waits to be written down; when there is more, recording ends. */
const WAITING_MOST = 64 * 1024 * 1024;
const RETRY_MS = 1000;

/** A stretch of the log that can be played by itself. */
interface Stretch {
  startMs: number;
  rig: RigDocument;
  seed: number;
  state: EngineState;
  writer: LogWriter;
  pieces: LogPiece[];
  bytes: number;
}

type Unnumbered = TakeRecord extends infer R ? (R extends TakeRecord ? Omit<R, 'take' | 'number'> : never) : never;

/** What is being recorded. */
interface Running {
  id: string;
  startMs: number;
  beatsFromMs: number;
  lastMs: number;
  next: number;
  events: number;
  bytes: number;
  marks: number;
}

/**
 * Keeps the last half minute of what the engine is given, always; and while a take is recorded hands everything over, in
 * numbered records that are kept here until they are written down.
 */
export class Recorder {
  private readonly stretches: Stretch[] = [];
  private running: Running | null = null;
  private readonly waiting: { record: TakeRecord; bytes: number }[] = [];
  private waitingBytes = 0;
  private problem: string | null = null;
  /** A record was refused: only the first is said again, until it is taken. */
  private refusing = false;
  private refusedMs = -Infinity;
  private engine: Engine | null = null;

  constructor(
    private readonly rigId: () => string,
    /** Hands a record over; nothing where nobody is there to take it. */
    private readonly send: (record: TakeRecord) => void,
    private readonly onChange: () => void,
    private readonly nowMs = hubTimeMs,
  ) {}

  get state(): RecordingState {
    const { running, waitingBytes, problem } = this;
    return { take: running?.id ?? null, sinceHubMs: running?.startMs ?? 0, beatsFromHubMs: running?.beatsFromMs ?? 0, events: running?.events ?? 0, bytes: running?.bytes ?? 0, marks: running?.marks ?? 0, waiting: waitingBytes, problem, counting: null };
  }

  /** An event, before the engine takes it. */
  hear(event: EngineEvent, engine: Engine): void {
    this.engine = engine;
    let stretch = this.stretches.at(-1);
    if (!stretch || event.timeMs - stretch.startMs >= STRETCH_MS) stretch = this.beginStretch(event.timeMs, engine);
    stretch.writer.write(event, engine.plan);
  }

  /**
   * Begins a take; false where one is being recorded, or there is no rig yet.
   * @param countedToMs where the count before it ended, if one did
   */
  begin(countedToMs?: number): boolean {
    const { engine } = this;
    if (this.running || !engine) return false;
    this.takeOver();
    this.beginTake(this.beginStretch(loggable(this.nowMs()), engine), countedToMs);
    this.onChange();
    return true;
  }

  /** Makes a take of the last half minute; false where nothing happened in it. */
  keepLast(): boolean {
    if (this.running) return false;
    this.takeOver();
    const from = this.stretches.filter(({ startMs, pieces }) => startMs >= this.nowMs() - PRE_ROLL_MS - STRETCH_MS && pieces.length > 0);
    if (from.length === 0) return false;
    this.beginTake(from[0]!);
    for (const { pieces } of from) for (const piece of pieces) this.handOverPiece(piece);
    return this.end();
  }

  /** Ends the take; false where none is recorded. */
  end(): boolean {
    if (!this.running) return false;
    this.takeOver();
    this.handOver({ kind: 'ends', lastMs: Math.max(this.running.lastMs, this.running.startMs) });
    this.running = null;
    this.onChange();
    return true;
  }

  /** Marks this moment; false where no take is recorded. */
  mark(): boolean {
    const { running } = this;
    if (!running) return false;
    running.marks++;
    this.handOver({ kind: 'mark', mark: { atMs: Math.round((this.nowMs() - running.startMs) * 1000) / 1000, name: `Mark ${running.marks}` } });
    this.onChange();
    return true;
  }

  /** Called at even intervals: hands over what was written since. */
  flush(): void {
    this.takeOver();
    if (this.refusing && this.nowMs() - this.refusedMs >= RETRY_MS) {
      this.refusedMs = this.nowMs();
      this.send(this.waiting[0]!.record);
    }
    if (this.waitingBytes > WAITING_MOST && this.running) {
      this.end();
      this.problem = `Recording has ended: ${Math.round(this.waitingBytes / 1024 / 1024)} MB could not be written down. They are kept until they can be.`;
      this.onChange();
    }
  }

  /** Somebody is there (again) to write down. */
  sendWaiting(): void {
    this.refusing = false;
    for (const { record } of this.waiting) this.send(record);
  }

  /** A record, and all before it of its take, is written down. */
  stored(take: string, number: number, warning: string | null): void {
    while (this.waiting[0]?.record.take === take && this.waiting[0].record.number <= number) this.waitingBytes -= this.waiting.shift()!.bytes;
    if (this.refusing) this.sendWaiting();
    // What stood in the way is over once everything was written down.
    const problem = this.waiting.length > 0 ? (this.problem ?? warning) : warning;
    if (problem === this.problem) return;
    this.problem = problem;
    this.onChange();
  }

  /** A record could not be written down, for this reason; it is handed over again in a while. */
  refused(reason: string): void {
    this.refusing = this.waiting.length > 0;
    this.refusedMs = this.nowMs();
    if (this.problem === reason) return;
    this.problem = reason;
    this.onChange();
  }

  /** What was written since goes to its stretch, and to the take that is recorded. */
  private takeOver(): void {
    const stretch = this.stretches.at(-1);
    const piece = stretch?.writer.take();
    if (!piece) return;
    stretch!.pieces.push(piece);
    stretch!.bytes += piece.bytes.length;
    if (this.running) this.handOverPiece(piece);
    for (let bytes = this.stretches.reduce((sum, each) => sum + each.bytes, 0); bytes > PRE_ROLL_BYTES && this.stretches.length > 1; ) bytes -= this.stretches.shift()!.bytes;
  }

  private beginStretch(timeMs: number, engine: Engine): Stretch {
    this.takeOver();
    const stretch: Stretch = { startMs: timeMs, rig: engine.plan.rig, seed: engine.plan.seed, state: engine.state, writer: new LogWriter(), pieces: [], bytes: 0 };
    this.stretches.push(stretch);
    while (this.stretches.length > 1 && this.stretches[1]!.startMs < timeMs - PRE_ROLL_MS) this.stretches.shift();
    return stretch;
  }

  private beginTake({ startMs, rig, seed, state }: Stretch, beatsFromMs = startMs): void {
    this.running = { id: randomUUID(), startMs, beatsFromMs, lastMs: startMs, next: 0, events: 0, bytes: 0, marks: 0 };
    const agoMs = this.nowMs() - startMs;
    this.handOver({
      kind: 'begins',
      startMs,
      startedAtMs: Math.round(calendarMs() - agoMs),
      rigId: this.rigId(),
      rigName: rig.name,
      rig: JSON.stringify(rig),
      seed,
      addresses: state.addresses,
      state: base64(packKept(state.kept)),
    });
  }

  private handOverPiece({ firstMs, lastMs, events, bytes }: LogPiece): void {
    const running = this.running!;
    running.events += events;
    running.bytes += bytes.length;
    running.lastMs = lastMs;
    this.handOver({ kind: 'piece', firstMs, lastMs, events, bytes: base64(bytes) });
  }

  private handOver(said: Unnumbered): void {
    const running = this.running!;
    const record = { ...said, take: running.id, number: running.next++ } as TakeRecord;
    const bytes = record.kind === 'piece' ? record.bytes.length : record.kind === 'begins' ? record.rig.length + (record.state?.length ?? 0) : 100;
    this.waiting.push({ record, bytes });
    this.waitingBytes += bytes;
    if (!this.refusing) this.send(record);
  }
}

const base64 = (bytes: Uint8Array) => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('base64');
