import { choice } from '../../messages/shapes';
import { oscAddress, type InputBase, type InputKind } from './kind';

/** Points of light in view, by OSC: `address` carries x, y, size of each point, in any order. */
export interface PointsInput extends InputBase {
  kind: 'points';
  address: string;
  lost: 'hold' | 'rest';
}

export const points: InputKind<PointsInput> = {
  fields: { address: oscAddress, lost: choice('hold', 'rest') },
  words: ({ address }) => `Light points at ${address}`,
  canBeAway: true,
};
