import { number, type Shape } from '../../messages/shapes';
import type { FormulaKind } from './kind';

/** Where the piece is within so many beats, or within a bar. */
export interface Beat {
  op: 'beat';
  every: number | 'bar';
}

const MOST_BEATS = 256;
const every: Shape = { is: 'wordOr', of: ['bar'], other: number(1 / 16, MOST_BEATS) };
/** A place that was computed to a beat and back may lie this little before it. */
const ON_IT = 1e-9;

export const beat: FormulaKind<Beat> = {
  name: 'Beat',
  fields: { every },
  movesByItself: true,
  restsCount: false,
  unit: () => 'unit',
  range: () => [0, 1],
  words: ({ every: length }) => `the way through ${length === 'bar' ? 'the bar' : length === 1 ? 'the beat' : `${length} beats`}`,
  fresh: () => ({ op: 'beat', every: 'bar' }),
  value({ every: length }, _, __, ___, ____, { beat: now, barBeats }) {
    const through = now / (length === 'bar' ? barBeats : length) + ON_IT;
    return through - Math.floor(through);
  },
};
