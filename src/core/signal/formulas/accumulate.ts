import { finite, number, optional, type Shape } from '../../messages/shapes';
import { accumulate as integrate } from '../integrate';
import type { FormulaKind } from './kind';
import { signalId } from './together';

/** A signal added up over time, between two ends; it may leak. */
export interface Accumulate {
  op: 'accumulate';
  of: string;
  lo: number;
  hi: number;
  leakPerS?: number;
}

export const accumulate: FormulaKind<Accumulate> = {
  name: 'Added up over time',
  fields: { of: signalId, lo: finite, hi: { ...finite, notBelow: 'lo' } as Shape, leakPerS: optional(number(0, 1000)) },
  movesByItself: true,
  restsCount: false,
  unit: () => 'unit',
  range: ({ lo, hi }) => [lo, hi],
  words: ({ of, lo, hi, leakPerS }, nameOf) => `${nameOf(of)} added up over time, from ${lo} to ${hi}${leakPerS ? `, leaking ${leakPerS} of itself a second` : ''}`,
  fresh: ({ take }) => ({ op: 'accumulate', of: take(1)[0]!, lo: 0, hi: 1 }),
  value({ lo, hi, leakPerS = 0 }, { sources }, state, values, timeMs) {
    const x = values[sources[0]!]!;
    const before = Number.isNaN(state.y) ? Math.min(Math.max(0, lo), hi) : state.y;
    state.y = Number.isNaN(state.timeMs) ? before : integrate(before, state.x, x, timeMs - state.timeMs, leakPerS, lo, hi);
    state.x = x;
    state.timeMs = timeMs;
    return state.y;
  },
};
