import { device, inPlace, type FeedIdentity, type InputBase, type InputKind } from './kind';

/** A microphone of this computer, or of a tablet or phone that joined. */
export interface MicrophoneInput extends InputBase {
  kind: 'microphone';
  device: FeedIdentity;
}

export const microphone: InputKind<MicrophoneInput> = {
  fields: { device },
  words: ({ device: { slot } }) => `Microphone${inPlace(slot)}`,
  found: (base, from) => ({ ...base, kind: 'microphone', device: from }),
  comesWhole: true,
  canBeAway: true,
  streams: [
    { source: 'sung', name: 'sung' },
    { source: 'mouth', name: 'mouth sounds' },
  ],
};
