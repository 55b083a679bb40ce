import { choice, list } from '../../messages/shapes';
import { pitchDeg, rollDeg } from '../tilt';
import { listed, type FormulaKind } from './kind';
import { signalId } from './together';

/** The angle that gravity shows on three axes of acceleration, in degrees. */
export interface Tilt {
  op: 'tilt';
  axis: 'pitch' | 'roll';
  of: [x: string, y: string, z: string];
}

export const tilt: FormulaKind<Tilt> = {
  name: 'Tilt from gravity',
  fields: { axis: choice('pitch', 'roll'), of: list(signalId, 3, 3) },
  movesByItself: false,
  restsCount: false,
  unit: () => 'deg',
  turn: ({ axis }) => (axis === 'roll' ? 360 : 0),
  range: ({ axis }) => (axis === 'pitch' ? [-90, 90] : [-180, 180]),
  words: ({ axis, of }, nameOf) => `the ${axis} that gravity shows in ${listed(of.map(nameOf))}`,
  fresh: ({ take }) => ({ op: 'tilt', axis: 'pitch', of: take(3) as [string, string, string] }),
  value: ({ axis }, { sources }, _, values) => (axis === 'pitch' ? pitchDeg : rollDeg)(values[sources[0]!]!, values[sources[1]!]!, values[sources[2]!]!),
};
