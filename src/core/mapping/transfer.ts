import type { RigDerived, RigMapping, RigSignal } from '../rig/document';
import { planMapping } from './planMapping';
import { enter, leave } from './shape';
import { freshState, SLOT } from './slots';

/**
 * The level at which a mapping comes to rest for a value of its signal: all of its shaping but what needs time. For
 * drawing; each value is taken for itself, so steps show without their hysteresis.
 */
export function transferOf(mapping: RigMapping, signal: RigSignal | RigDerived): (value: number) => number {
  const still = { ...mapping.shaping, smoothing: undefined, deglitch: undefined };
  const curves: number[] = [];
  const planned = planMapping({ ...mapping, shaping: still }, { ...signal, pair: undefined } as RigSignal, {
    find: () => 0,
    mappingIndex: () => 0,
    output: 0,
    address: 0,
    curves,
    bendRangeSemitones: 0,
  });
  const coefficients = Float64Array.from(curves);
  const values = new Float64Array(1);
  return (value) => {
    const state = freshState(1);
    values[0] = value;
    enter(planned, state, 0, values);
    state[SLOT.filtered] = state[SLOT.entered]!;
    leave(planned, state, 0, coefficients);
    const level = state[SLOT.level]!;
    return planned.gated ? Number(level >= planned.gateOn) : level;
  };
}
