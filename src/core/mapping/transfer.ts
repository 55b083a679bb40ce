import type { RigDerived, RigMapping, RigSignal } from '../rig/document';
import { planMapping } from '../engine/planMapping';
import { settleRest } from '../engine/rest';
import { enter, leave } from '../engine/shape';
import { freshState, SLOT } from '../engine/slots';

/**
 * The level at which a mapping comes to rest for a value of its signal: all of its shaping but what needs time. For
 * drawing; each value is taken for itself, so steps show without their hysteresis.
 */
export function transferOf(mapping: RigMapping, signal: RigSignal | RigDerived): (value: number) => number {
  const still = { ...mapping.shaping, smoothing: undefined, deglitch: undefined };
  const curves: number[] = [];
  // The other axis of a pair lies in its middle.
  const planned = planMapping({ ...mapping, shaping: still }, signal as RigSignal, {
    find: (id) => Number(id !== mapping.signal),
    rangeOf: () => signal.range,
    mappingIndex: () => 0,
    output: 0,
    address: 0,
    curves,
    bendRangeSemitones: 0,
  });
  const coefficients = Float64Array.from(curves);
  const values = new Float64Array(2).fill(NaN);
  settleRest(planned, Float64Array.of(signal.rest ?? NaN, NaN), coefficients);
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
