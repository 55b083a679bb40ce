import { device, inPlace, type FeedIdentity, type InputBase, type InputKind } from './kind';

/** Hands before a camera of this computer, or of a tablet or phone that joined. */
export interface HandsInput extends InputBase {
  kind: 'hands';
  device: FeedIdentity;
}

export const hands: InputKind<HandsInput> = {
  fields: { device },
  words: ({ device: { slot } }) => `Hands before a camera${inPlace(slot)}`,
  found: (base, from) => ({ ...base, kind: 'hands', device: from }),
  comesWhole: true,
  canBeAway: true,
};
