import { device, inPlace, type FeedIdentity, type InputBase, type InputKind } from './kind';

/** The motion sensors of a tablet or phone. */
export interface MotionInput extends InputBase {
  kind: 'motion';
  device: FeedIdentity;
}

export const motion: InputKind<MotionInput> = {
  fields: { device },
  words: ({ device: { slot } }) => `Motion${inPlace(slot)}`,
  found: (base, from) => ({ ...base, kind: 'motion', device: from }),
  comesWhole: true,
  canBeAway: true,
};
