import type { HandsSettings, WhenLost } from './handsInput';
import type { TaughtPose } from './poses';

/** How hands are seen and understood on a computer or a device. Plain data, kept. */
export interface HandsProfile {
  /** Whether the picture is shown as in a mirror; the numbers are those of the performer either way. */
  mirrored: boolean;
  /** Whether the points that were found are drawn. */
  drawn: boolean;
  /** The smaller and faster model, or the larger and more exact one. */
  model: 'fast' | 'exact';
  /** How many hands are looked for: one is faster. */
  hands: 1 | 2;
  whenLost: WhenLost;
  steady: boolean;
  poses: TaughtPose[];
}

export const FRESH_HANDS: HandsProfile = { mirrored: true, drawn: true, model: 'fast', hands: 2, whenLost: 'hold', steady: true, poses: [] };

/** What hands as an input are set to by a profile. */
export const settingsOf = ({ whenLost, steady, poses }: HandsProfile): HandsSettings => ({ whenLost, steady, poses });
