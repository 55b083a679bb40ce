import type { RigEdit } from '../core/rig/edit';

/** Which edit of which window: by it a window knows its own again. */
export interface EditMaker {
  window: string;
  number: number;
}

/** How the open rig stands, without its document. */
export interface RigStanding {
  /** Of the rig. */
  id: string;
  revision: number;
  savedAtMs: number;
  /** What would be taken back and made again, in words; null where there is nothing. */
  undo: string | null;
  redo: string | null;
}

/** An edit that was applied, as every page is told: it makes `revision` of the one before. */
export interface MadeEdit extends RigStanding {
  edit: RigEdit;
  by?: EditMaker;
}
