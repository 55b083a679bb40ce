import { Engine } from '../engine/engine';
import type { EngineEvent, SampleEvent } from '../engine/event';
import { fromLog, type LoggedEvent } from '../engine/eventLog';
import type { Plan } from '../engine/plan';
import { VOICE_BASE, whoOf, type MessageSink } from '../engine/sink';
import type { OscSent } from '../messages/osc';
import type { RigDocument } from '../rig/document';
import type { VoiceEvent } from '../voices/event';
import { LogReader, type LogVisitor, type Names } from './log';
import type { MessageSource } from './score';
import type { TakeBeginning } from './take';

/** What a take sends when it is played through a rig again. */
export interface RenderTarget {
  /** The bytes lie in a buffer that is used again after the call; they may be several messages that belong together. */
  midi(timeMs: number, source: MessageSource, bytes: Uint8Array, length: number): void;
  osc(timeMs: number, source: MessageSource, path: string, args: readonly OscSent[]): void;
}

export interface RenderOptions {
  /** Another rig, as if it had been loaded when the take began; the edits of the take are left out then. */
  through?: RigDocument;
  /** Brings a document of the take up to date; throws where it cannot be read any more. */
  read?: (rig: RigDocument) => RigDocument;
}

const ABSENT = -1;

/**
 * Plays the log of a take through an engine, piece by piece. Without another rig the messages are those that were sent, byte
 * for byte and with the same times (engine.md: the same rig fed the same samples gives the same messages).
 */
export class TakeRenderer implements LogVisitor {
  /** Events that name what the rig does not have, by what they name. */
  readonly leftOut = new Map<string, number>();
  private readonly engine: Engine;
  private readonly reader: LogReader;
  private readonly through: boolean;
  private readonly readRig: (rig: RigDocument) => RigDocument;
  private spoken: Names = { signals: [], streams: [] };
  private signals: number[] = [];
  private streams: number[] = [];
  private readonly sampleEvent: SampleEvent & { timeMs: number } = { kind: 'sample', signal: 0, value: 0, timeMs: 0 };
  private readonly tickEvent = { kind: 'tick' as const, timeMs: 0 };
  /** By number of who caused a message, and its output: who that was. */
  private readonly sources = new Map<number, MessageSource[]>();
  private sourcesOf: Plan | null = null;
  lastMs: number;

  constructor({ startMs, rig, seed, state }: TakeBeginning, target: RenderTarget, { through, read = (same) => same }: RenderOptions = {}) {
    this.through = through !== undefined;
    this.readRig = read;
    this.reader = new LogReader(rig);
    this.lastMs = startMs;
    const sink: MessageSink = {
      midi: (output, by, bytes, length) => {
        target.midi(this.engine.messageMs, this.sourceOf(output, by), bytes, length);
      },
      osc: (output, by, path, args) => {
        target.osc(this.engine.messageMs, this.sourceOf(output, by), path, args);
      },
    };
    this.engine = this.resumed(read(rig), sink, seed, state);
    if (this.leftOut.size > 0) this.give({ kind: 'start', timeMs: startMs });
    if (through) this.give({ kind: 'rig', timeMs: startMs, rig: through });
    this.places();
  }

  /** What another version of Pumice remembered may be laid out otherwise: then it begins with nothing, which is said. */
  private resumed(rig: RigDocument, sink: MessageSink, seed: number, state: TakeBeginning['state']): Engine {
    try {
      return new Engine(rig, sink, seed, state);
    } catch (error) {
      if (state === null) throw error;
      this.leaveOut('what was held when it began');
      return new Engine(rig, sink, seed);
    }
  }

  /** Throws where the bytes are no piece of a log, or hold a rig that cannot be read. */
  piece(bytes: Uint8Array): void {
    this.reader.read(bytes, this);
  }

  /** The take is over: everything that sounds ends. */
  end(timeMs = this.lastMs): void {
    this.give({ kind: 'release', timeMs });
  }

  names(names: Names): void {
    this.spoken = names;
    this.places();
  }

  sample(timeMs: number, signal: number, value: number): void {
    const place = this.signals[signal] ?? ABSENT;
    if (place === ABSENT) return this.leaveOut(this.spoken.signals[signal]);
    this.sampleEvent.signal = place;
    this.sampleEvent.value = value;
    this.sampleEvent.timeMs = timeMs;
    this.give(this.sampleEvent);
  }

  tick(timeMs: number): void {
    this.tickEvent.timeMs = timeMs;
    this.give(this.tickEvent);
  }

  voice(event: VoiceEvent & { timeMs: number }): void {
    const place = this.streams[event.stream] ?? ABSENT;
    if (place === ABSENT) return this.leaveOut(this.spoken.streams[event.stream]);
    event.stream = place;
    this.give(event);
  }

  rig(timeMs: number, rig: RigDocument): void {
    if (this.through) return;
    this.give({ kind: 'rig', timeMs, rig: this.readRig(rig) });
    this.places();
  }

  other(logged: LoggedEvent): void {
    const event = fromLog(logged, this.engine.plan);
    if (!event || !this.give(event)) this.leaveOut(logged.kind);
  }

  private give(event: EngineEvent): boolean {
    if (event.timeMs > this.lastMs) this.lastMs = event.timeMs;
    return this.engine.take(event);
  }

  /** Where the names of the log stand in the rig that plays. */
  private places(): void {
    const { signalIndex, streamIndex } = this.engine.plan;
    this.signals = this.spoken.signals.map((id) => signalIndex.get(id) ?? ABSENT);
    this.streams = this.spoken.streams.map((id) => streamIndex.get(id) ?? ABSENT);
  }

  private leaveOut(what = '?'): void {
    this.leftOut.set(what, (this.leftOut.get(what) ?? 0) + 1);
  }

  private sourceOf(output: number, by: number): MessageSource {
    const { plan } = this.engine;
    // In the middle of an edit the plan becomes another.
    if (plan !== this.sourcesOf) this.sources.clear();
    this.sourcesOf = plan;
    const known = this.sources.get(by)?.[output];
    if (known) return known;
    const mapper = by >= VOICE_BASE ? plan.voices[by - VOICE_BASE] : plan.mappings[by];
    const source = { output: plan.outputIds[output]!, who: whoOf(by), mapping: mapper?.rig.id ?? null };
    const ofThis = this.sources.get(by) ?? [];
    ofThis[output] = source;
    this.sources.set(by, ofThis);
    return source;
  }
}
