import type { EngineState } from '../engine/state';
import type { RigDocument } from '../rig/document';

/** What the log of a take begins with: the rig that was in force and what the engine remembered, in ms of the events' clock. */
export interface TakeBeginning {
  startMs: number;
  rig: RigDocument;
  seed: number;
  /** Null: nothing; the engine began then. */
  state: EngineState | null;
}

/** A place in a take that somebody found worth a name. Counted from its beginning. */
export interface Mark {
  atMs: number;
  name: string;
}
