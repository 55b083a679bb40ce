import type { RigSurface } from '../core/rig/document';
import type { Scale } from '../core/surface/captions';

/** What a page needs to play a surface; it knows no more of the rig. */
export interface PlayedSurface {
  surface: RigSurface;
  /** For each bank, by control without a label of its own: what it sends, in words. */
  captions: Record<string, string>[];
  /** What the numbers of the signals that it shows mean. */
  scales: Record<string, Scale>;
  /** The id and the revision of the rig that it is of, as one text. */
  played: string;
  stage: boolean;
}
