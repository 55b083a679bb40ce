import { device, inPlace, type DeviceIdentity, type InputBase, type InputKind } from './kind';

/** A microphone of this computer, or of a tablet or phone that joined. */
export interface MicrophoneInput extends InputBase {
  kind: 'microphone';
  device: DeviceIdentity;
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
