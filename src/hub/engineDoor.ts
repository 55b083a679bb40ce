import type { Engine } from '../core/engine/engine';
import type { EngineEvent } from '../core/engine/event';
import { loggable } from '../core/takes/log';
import { hubTimeMs } from './time';

/** What plays beside the engine and wants ticks as well. */
export interface Beside {
  dueMs(): number;
  /** Whether it wants them at an even rate. */
  evenly(): boolean;
}

/** The one way into the engine that plays: what goes in is all that a log of it needs. Says when ticks are wanted. */
export class EngineDoor {
  /** Null before there is a rig. */
  engine: Engine | null = null;
  /** Told of everything that the engine is given, before it takes it; null while nobody keeps a log. */
  journal: { hear(event: EngineEvent, engine: Engine): void } | null = null;
  /** Told when the transport starts or stops, and by MIDI inputs of Start, Continue and Stop that they hear. */
  onTransport: (kind: 'start' | 'continue' | 'stop') => void = () => undefined;
  /** When something is due, as was said last. */
  dueMs = Infinity;
  private quietUntilMs = Infinity;
  /** Whether the transport ran when that was told last. */
  private ran = false;

  constructor(
    private readonly beside: Beside,
    /** Whether ticks at an even rate are needed, and when one is wanted besides those. */
    private readonly pending: (evenly: boolean, dueMs: number) => void,
  ) {}

  /** False where the event names what the rig does not have. */
  give(event: EngineEvent): boolean {
    const done = this.put(event);
    // Told after the event, so that whoever begins a take by it finds the engine between two.
    if (this.engine!.running !== this.ran) {
      this.ran = !this.ran;
      this.onTransport(this.ran ? 'start' : 'stop');
    }
    return done;
  }

  /** What is taken up of a hub that died goes on: nobody starts anything, so nothing is recorded by it. */
  goOn(events: readonly EngineEvent[]): void {
    for (const event of events) this.put(event);
    this.ran = this.engine!.running;
  }

  /** Says when ticks are wanted, where that is otherwise than was said last. */
  settle(): void {
    const { quietUntilMs, dueMs } = this.engine!;
    if (quietUntilMs !== this.quietUntilMs || dueMs !== this.dueMs) this.sayPending();
  }

  sayPending(): void {
    const { quietUntilMs, dueMs } = this.engine!;
    this.quietUntilMs = quietUntilMs;
    this.dueMs = Math.min(dueMs, this.beside.dueMs());
    const evenly = quietUntilMs <= hubTimeMs() || this.beside.evenly();
    this.pending(evenly, evenly ? this.dueMs : Math.min(this.dueMs, quietUntilMs));
  }

  private put(event: EngineEvent): boolean {
    const { engine, journal } = this;
    if (journal) {
      event.timeMs = loggable(event.timeMs);
      journal.hear(event, engine!);
    }
    return engine!.take(event);
  }
}
