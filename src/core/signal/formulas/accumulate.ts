import { finite, number, optional, type Shape } from '../../messages/shapes';
import { integrate } from '../integrate';
import { afterSource, rests, type Along } from './betweenSamples';
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

const along: Along<Accumulate> = ({ lo, hi, leakPerS = 0 }, y, from, to, dtMs) => integrate(y, from, to, dtMs, leakPerS, lo, hi);

export const accumulate: FormulaKind<Accumulate> = {
  name: 'Added up over time',
  fields: { of: signalId, lo: finite, hi: { ...finite, notBelow: 'lo' } as Shape, leakPerS: optional(number(0, 1000)) },
  movesByItself: true,
  restsCount: false,
  unit: () => 'unit',
  range: ({ lo, hi }) => [lo, hi],
  words: ({ of, lo, hi, leakPerS }, nameOf) => `${nameOf(of)} added up over time, from ${lo} to ${hi}${leakPerS ? `, leaking ${leakPerS} of itself a second` : ''}`,
  fresh: ({ take }) => ({ op: 'accumulate', of: take(1)[0]!, lo: 0, hi: 1 }),
  rests: (formula, _, { x, y }) => rests(along, formula, y, x),
  value(formula, of, state, values, timeMs, _, times) {
    const x = values[of.sources[0]!]!;
    if (Number.isNaN(state.timeMs)) {
      state.timeMs = timeMs;
      state.x = x;
      return (state.y = Math.min(Math.max(0, formula.lo), formula.hi));
    }
    return afterSource(along, formula, of, state, x, timeMs, times);
  },
};
