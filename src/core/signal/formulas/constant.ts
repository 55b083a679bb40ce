import { finite } from '../../messages/shapes';
import type { FormulaKind } from './kind';

/** Always the same number. */
export interface Constant {
  op: 'constant';
  value: number;
}

export const constant: FormulaKind<Constant> = {
  name: 'Constant',
  fields: { value: finite },
  movesByItself: false,
  restsCount: false,
  range: ({ value }) => (value < 0 ? [value, 0] : [0, value || 1]),
  words: ({ value }) => `always ${value}`,
  fresh: () => ({ op: 'constant', value: 0.5 }),
  value: ({ value }) => value,
};
