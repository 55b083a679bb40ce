import { list } from '../../messages/shapes';
import { listed, type FormulaKind } from './kind';
import { signalId } from './together';

/** The length of two or three axes together. */
export interface Magnitude {
  op: 'magnitude';
  of: string[];
}

export const magnitude: FormulaKind<Magnitude> = {
  name: 'Length of two or three axes',
  fields: { of: list(signalId, 2, 3) },
  movesByItself: false,
  restsCount: false,
  range: ({ of }, rangeOf) => [0, Math.hypot(...of.map((id) => Math.max(...rangeOf(id).map(Math.abs))))],
  words: ({ of }, nameOf) => `the length of ${listed(of.map(nameOf))} together`,
  fresh: ({ take }) => ({ op: 'magnitude', of: take(2) }),
  value(_, { sources }, __, values) {
    let square = 0;
    for (let i = 0; i < sources.length; i++) square += values[sources[i]!]! ** 2;
    return Math.sqrt(square);
  },
};
