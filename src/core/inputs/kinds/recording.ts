import { number, yesOrNo } from '../../messages/shapes';
import type { InputBase, InputKind } from './kind';

/** A recording played as if its sensor were there. */
export interface RecordingInput extends InputBase {
  kind: 'recording';
  /** Kept outside of the rig. */
  recording: string;
  speed: number;
  loop: boolean;
}

export const recording: InputKind<RecordingInput> = {
  fields: { recording: { is: 'id', of: null }, speed: number(0.05, 20), loop: yesOrNo },
  words: () => 'Recording',
  canBeAway: false,
};
