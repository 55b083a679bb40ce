import type { RigSurface } from '../core/rig/document';

/** What a page needs to play a surface; it knows no more of the rig. */
export interface PlayedSurface {
  surface: RigSurface;
  /** By control without a label of its own: what it sends, in words. */
  captions: Record<string, string>;
  /** The id and the revision of the rig that it is of, as one text. */
  played: string;
  stage: boolean;
}
