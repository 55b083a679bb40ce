import { finite, number, optional, type Shape } from '../../messages/shapes';
import { integrate } from '../integrate';
import { AT_ONCE_MS, isSame, REST_MS } from './atRest';
import type { DerivedState, FormulaKind, Sources } from './kind';
import { signalId } from './together';

/** A signal added up over time, between two ends; it may leak. */
export interface Accumulate {
  op: 'accumulate';
  of: string;
  lo: number;
  hi: number;
  leakPerS?: number;
}

const rests = ({ lo, hi, leakPerS = 0 }: Accumulate, _: Sources, { x, y }: DerivedState) => isSame(integrate(y, x, x, REST_MS, leakPerS, lo, hi), y);

export const accumulate: FormulaKind<Accumulate> = {
  name: 'Added up over time',
  fields: { of: signalId, lo: finite, hi: { ...finite, notBelow: 'lo' } as Shape, leakPerS: optional(number(0, 1000)) },
  movesByItself: true,
  restsCount: false,
  unit: () => 'unit',
  range: ({ lo, hi }) => [lo, hi],
  words: ({ of, lo, hi, leakPerS }, nameOf) => `${nameOf(of)} added up over time, from ${lo} to ${hi}${leakPerS ? `, leaking ${leakPerS} of itself a second` : ''}`,
  fresh: ({ take }) => ({ op: 'accumulate', of: take(1)[0]!, lo: 0, hi: 1 }),
  rests,
  value(formula, of, state, values, timeMs) {
    const { lo, hi, leakPerS = 0 } = formula;
    const x = values[of.sources[0]!]!;
    if (Number.isNaN(state.timeMs)) state.y = Math.min(Math.max(0, lo), hi);
    else {
      const sinceMs = rests(formula, of, state) ? AT_ONCE_MS : timeMs - state.timeMs;
      state.y = integrate(state.y, state.x, x, sinceMs, leakPerS, lo, hi);
    }
    state.x = x;
    state.timeMs = timeMs;
    return state.y;
  },
};
