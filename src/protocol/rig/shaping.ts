import Joi from 'joi';
import { OUTSIDES, type Curve, type DeadZone, type Motion, type Shaping, type Smoothing } from '../../core/rig/document';
import { finite, id, milliseconds, pairOf, tagged, unit } from './pieces';

const hertz = Joi.number().min(0.001).max(1000).required();

/** Points from x 0 to x 1, x never falling. */
const points = (least: number) =>
  Joi.array()
    .min(least)
    .max(16)
    .items(pairOf(unit))
    .custom((value: [number, number][], helpers) => {
      const rising = value.every(([x], i) => i === 0 || x >= value[i - 1]![0]);
      const whole = value[0]?.[0] === 0 && (least === 1 || value.at(-1)?.[0] === 1);
      return rising && whole ? value : helpers.error('any.custom', { error: new Error('x must rise from 0 to 1') });
    })
    .required();

export const smoothing = tagged<Smoothing>('kind', {
  onePole: { timeConstantMs: milliseconds.required() },
  attackRelease: { attackMs: milliseconds.required(), releaseMs: milliseconds.required() },
  oneEuro: { minCutoffHz: hertz, beta: Joi.number().min(0).max(1000).required(), derivativeCutoffHz: hertz },
  slew: { perS: Joi.number().min(0.0001).max(1e6).required() },
});

/** The steps between a signal and a level. */
export const shaping: Joi.ObjectSchema<Shaping> = Joi.object<Shaping>({
  rangeIn: Joi.object({ lo: finite.required(), hi: finite.required(), outside: Joi.valid(...OUTSIDES) }),
  deadZone: tagged<DeadZone>('kind', {
    centre: { inner: unit.required(), outer: unit.min(Joi.ref('inner')).required() },
    ends: { low: unit.required(), high: unit.required() },
  }),
  deglitch: Joi.object({
    median: Joi.valid(3, 5, 7),
    jump: Joi.object({ perS: Joi.number().min(0.001).max(1e6).required(), forMs: milliseconds.required() }),
  }),
  smoothing,
  curve: tagged<Curve>('kind', {
    power: { k: Joi.number().min(-4).max(4).required() },
    s: { amount: Joi.number().min(-2).max(2).required() },
    points: { points: points(2) },
    stepped: { points: points(1) },
  }),
  steps: Joi.object({ count: Joi.number().integer().min(1).max(1024).required(), hysteresis: Joi.number().min(0).less(1).required() }),
  window: Joi.object({
    lo: unit.required(),
    hi: unit.min(Joi.ref('lo')).required(),
    fade: Joi.object({ law: Joi.valid('linear', 'equalPower').required(), direction: Joi.valid('in', 'out').required() }),
  }),
});

export const gate = Joi.object({
  on: unit,
  off: unit.when('on', { is: Joi.exist(), then: Joi.number().max(Joi.ref('on')) }),
  minOnMs: milliseconds,
  minGapMs: milliseconds,
  press: Joi.alternatives().conditional(Joi.object(), { then: Joi.object({ radio: id.required() }), otherwise: Joi.valid('momentary', 'toggle') }),
});

export const motion = tagged<Motion>('kind', {
  ramp: { onLevel: unit.required(), offLevel: unit.required(), upMs: milliseconds.required(), downMs: milliseconds.required() },
  climb: { perS: Joi.number().min(-100).max(100).required(), accelerationPerS2: Joi.number().min(0).max(1000).required() },
});
