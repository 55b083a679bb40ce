import { optional } from '../../messages/shapes';
import { device, inPlace, type FeedIdentity, type InputBase, type InputKind } from './kind';

/** OSC over UDP; without a device, from any sender that is let in. */
export interface OscInput extends InputBase {
  kind: 'osc';
  device?: FeedIdentity;
}

export const osc: InputKind<OscInput> = {
  fields: { device: optional(device) },
  words: ({ device: from }) => (from ? `OSC from ${from.report}${inPlace(from.slot)}` : 'OSC from anywhere'),
  found: (base, from) => ({ ...base, kind: 'osc', device: from }),
  moves: true,
  canBeAway: true,
};
