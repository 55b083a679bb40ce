import type { Heard } from '../../protocol/frames';
import type { Outgoing, OutgoingKind } from './outgoing';

/** A way out. It writes what it is given, in order, and decides nothing. */
export interface OutputSink {
  /** What it takes; it is given nothing else. */
  readonly takes: OutgoingKind;
  /** Whether what is sent could come back at an input, so that loops must be watched for. */
  readonly mayComeBack: boolean;
  send(message: Outgoing): void;
  /** What each address holds now, for outputs that can tell. */
  heard?(): readonly Heard[];
  /** Panic, of one where messages wait: what waits begins no note. */
  hush?(): void;
  close(): void;
}

/** What a way out tells of itself. */
export interface SinkEvents {
  /** The object may be used again after the call. */
  heard(heard: Readonly<Heard>): void;
  /** Null: it is there. Else why nothing can leave there now, as the end of a sentence. One that never says so is always there. */
  state(away: string | null): void;
}
