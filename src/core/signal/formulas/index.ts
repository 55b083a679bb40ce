import type { SignalUnit } from '../../rig/document';
import { accumulate, type Accumulate } from './accumulate';
import { beat, type Beat } from './beat';
import { constant, type Constant } from './constant';
import { distance, type Distance } from './distance';
import { envelope, type Envelope } from './envelope';
import { hold, type Hold } from './hold';
import type { FormulaKind, Interval } from './kind';
import { magnitude, type Magnitude } from './magnitude';
import { movement, type Movement } from './movement';
import { oscillator, type Oscillator } from './oscillator';
import { speed, type Speed } from './speed';
import { tilt, type Tilt } from './tilt';
import { average, difference, maximum, minimum, product, sum, type Together } from './together';

export type { Amount } from './kind';

/** How a derived signal is made of others. */
export type Formula =
  | Together<'sum'>
  | Together<'difference'>
  | Together<'product'>
  | Together<'minimum'>
  | Together<'maximum'>
  | Together<'average'>
  | Distance
  | Magnitude
  | Tilt
  | Speed
  | Accumulate
  | Envelope
  | Hold
  | Oscillator
  | Beat
  | Movement
  | Constant;

export type FormulaOp = Formula['op'];

/** Every kind of formula, in the order in which they are offered. */
export const FORMULAS: { [Op in FormulaOp]: FormulaKind<Extract<Formula, { op: Op }>> } = {
  sum,
  difference,
  product,
  minimum,
  maximum,
  average,
  distance,
  magnitude,
  tilt,
  speed,
  accumulate,
  envelope,
  hold,
  oscillator,
  beat,
  movement,
  constant,
};

export const FORMULA_OPS = Object.keys(FORMULAS) as FormulaOp[];

/** What is known of the kind of a formula. */
export function formulaKind(formula: Formula): FormulaKind<Formula> {
  return FORMULAS[formula.op] as unknown as FormulaKind<Formula>;
}

/**
 * The range in which a formula can lie where its sources keep to theirs.
 * @param rangeOf nominal range of a signal, in its unit; it may run downwards
 * @param turn the full turn of what comes out, 0 where it is no angle
 */
export function formulaRange(formula: Formula, rangeOf: (signal: string) => Interval, turn = 0): [lo: number, hi: number] {
  const upwards = (signal: string): Interval => {
    const [a, b] = rangeOf(signal);
    return [Math.min(a, b), Math.max(a, b)];
  };
  return formulaKind(formula).range(formula, upwards, turn);
}

/** The full turn of what a formula gives, from those of its sources; 0 where it is no angle. */
export function formulaTurn(formula: Formula, turns: readonly number[]): number {
  return formulaKind(formula).turn?.(formula, turns) ?? 0;
}

/** The unit of what a formula gives, from those of its sources. */
export function formulaUnit(formula: Formula, units: readonly SignalUnit[]): SignalUnit {
  const [first, ...others] = new Set(units);
  const { unit } = formulaKind(formula);
  if (unit) return unit(first);
  return first !== undefined && others.length === 0 ? first : 'unit';
}

/** A formula in words, as `the highest of Fog and Swell`. `nameOf` gives the name of a signal by its id. */
export function formulaInWords(formula: Formula, nameOf: (signal: string) => string): string {
  return formulaKind(formula).words(formula, nameOf);
}
