import { readyGamepad } from '../readyGamepad';
import { device, inPlace, type FeedIdentity, type InputBase, type InputKind } from './kind';

export interface GamepadInput extends InputBase {
  kind: 'gamepad';
  device: FeedIdentity;
}

export const gamepad: InputKind<GamepadInput> = {
  fields: { device },
  words: ({ device: { slot } }) => `Gamepad${inPlace(slot)}`,
  found: (base, from) => ({ ...base, kind: 'gamepad', device: from }),
  comesWhole: true,
  canBeAway: true,
  ready: readyGamepad,
};
