import type { Heard } from '../../protocol/frames';

/** A way out. It writes what it is given, in order, and decides nothing. */
export interface OutputSink {
  /** Whether what is sent could come back at an input, so that loops must be watched for. */
  readonly mayComeBack: boolean;
  /**
   * Whole messages that belong together, the caller's no longer.
   * @param address a newer value of one address may replace an older that still waits; KEEP where nothing may
   */
  send(bytes: Uint8Array, hubTimeMs: number, address: number): void;
  /** What each address holds now, by a key of the sink's own, for outputs that can tell. */
  heard?(): ReadonlyMap<number, Heard>;
  close(): void;
}
