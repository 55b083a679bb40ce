import type { Heard } from '../../protocol/frames';

/** A way out. It writes what it is given, in order, and decides nothing. */
export interface OutputSink {
  /** One whole message. The bytes are the caller's again when the call returns. */
  send(bytes: Uint8Array, hubTimeMs: number): void;
  /** What each address holds now, by a key of the sink's own, for outputs that can tell. */
  heard?(): ReadonlyMap<string, Heard>;
  close(): void;
}
