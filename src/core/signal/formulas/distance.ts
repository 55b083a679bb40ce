import { list } from '../../messages/shapes';
import { listed, type FormulaKind } from './kind';
import { signalId } from './together';

/** How far two points in a plane or in space are apart. */
export interface Distance {
  op: 'distance';
  from: string[];
  to: string[];
}

export const distance: FormulaKind<Distance> = {
  name: 'Distance of two points',
  fields: { from: list(signalId, 2, 3), to: { ...list(signalId, 2, 3), asLongAs: 'from' } as ReturnType<typeof list> },
  movesByItself: false,
  restsCount: false,
  range({ from, to }, rangeOf) {
    const apart = from.map((id, axis) => {
      const [[a, b], [c, d]] = [rangeOf(id), rangeOf(to[axis]!)];
      return Math.max(Math.abs(b - c), Math.abs(d - a));
    });
    return [0, Math.hypot(...apart)];
  },
  words: ({ from, to }, nameOf) => `how far ${listed(from.map(nameOf))} is from ${listed(to.map(nameOf))}`,
  fresh({ take }) {
    const [a, b, c, d] = take(4) as [string, string, string, string];
    return { op: 'distance', from: [a, b], to: [c, d] };
  },
  /** Sources: the axes of one point, then those of the other. */
  value(_, { sources }, __, values) {
    const axes = sources.length / 2;
    let square = 0;
    for (let i = 0; i < axes; i++) {
      const way = values[sources[i]!]! - values[sources[axes + i]!]!;
      square += way * way;
    }
    return Math.sqrt(square);
  },
};
