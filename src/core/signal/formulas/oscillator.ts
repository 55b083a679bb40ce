import { amount, choice, finite, number } from '../../messages/shapes';
import { HIGHEST_RATE_HZ, LOWEST_RATE_HZ, nextPhase, OSCILLATOR_SHAPES, wave, type OscillatorShape } from '../oscillator';
import type { Amount, FormulaKind, Interval } from './kind';

/** A slow wave of its own. */
export interface Oscillator {
  op: 'oscillator';
  shape: OscillatorShape;
  rateHz: Amount;
  depth: Amount;
}

export const oscillator: FormulaKind<Oscillator> = {
  name: 'Slow wave',
  fields: { shape: choice(...OSCILLATOR_SHAPES), rateHz: amount(number(LOWEST_RATE_HZ, HIGHEST_RATE_HZ)), depth: amount(finite) },
  movesByItself: true,
  restsCount: false,
  unit: () => 'unit',
  range({ depth }, rangeOf) {
    const ends: Interval = typeof depth === 'number' ? [depth, depth] : rangeOf(depth.signal);
    const deepest = Math.max(...ends.map(Math.abs));
    return [-deepest, deepest];
  },
  words({ shape, rateHz, depth }, nameOf) {
    const given = (value: Amount, unit = '') => (typeof value === 'number' ? `${value}${unit}` : nameOf(value.signal));
    return `a ${shape === 'random' ? 'random step' : shape} at ${given(rateHz, ' Hz')}, ${given(depth)} deep`;
  },
  fresh: () => ({ op: 'oscillator', shape: 'sine', rateHz: 1, depth: 1 }),
  value({ shape, rateHz, depth }, { sources, seed }, state, values, timeMs) {
    // Its sources are the rate and the depth, each where it is a signal.
    const rate = typeof rateHz === 'number' ? rateHz : values[sources[0]!]!;
    const deep = typeof depth === 'number' ? depth : values[sources[sources.length - 1]!]!;
    state.y = Number.isNaN(state.timeMs) ? 0 : nextPhase(state.y, rate, timeMs - state.timeMs);
    state.timeMs = timeMs;
    return deep * wave(shape, state.y, seed);
  },
};
