import type { FormulaOp } from '../../../core/rig/deriving';

export const FORMULA_NAMES: Readonly<Record<FormulaOp, string>> = {
  sum: 'Sum',
  difference: 'Difference',
  product: 'Product',
  minimum: 'Lowest',
  maximum: 'Highest',
  average: 'Average',
  distance: 'Distance of two points',
  magnitude: 'Length of two or three axes',
  tilt: 'Tilt from gravity',
  speed: 'Speed',
  accumulate: 'Added up over time',
  envelope: 'Follower',
  hold: 'Held at a gate',
  oscillator: 'Slow wave',
  constant: 'Constant',
};

/** The height of a list in which every formula is in view. */
export const FORMULAS_PX = 560;
