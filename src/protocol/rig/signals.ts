import Joi from 'joi';
import { OSCILLATOR_SHAPES, SIGNAL_UNITS, type Formula, type RigInput } from '../../core/rig/document';
import { LIMITS } from '../limits';
import { amountOf, finite, id, milliseconds, name, range, tagged } from './pieces';

const base = {
  id: id.required(),
  name: name.required(),
  kind: Joi.valid('continuous', 'gate').required(),
  unit: Joi.valid(...SIGNAL_UNITS).required(),
  range: range.required(),
  rest: finite,
  period: Joi.number().positive().max(1e9),
};

export const input = tagged<RigInput>('kind', {
  surface: { id: id.required(), name: name.required(), surface: id.required() },
  osc: { id: id.required(), name: name.required() },
});

export const signal = Joi.object({
  ...base,
  input: id.required(),
  pair: id,
  osc: Joi.object({ address: Joi.string().pattern(/^\//, 'an OSC address').max(200).required(), argument: Joi.number().integer().min(0).max(255).required() }),
  returns: Joi.object({ to: finite.required(), overMs: milliseconds.required(), released: id.required() }),
});

const many = (least: number, most: number = LIMITS.sources) => Joi.array().min(least).max(most).items(id).required();
const combining = Object.fromEntries(['sum', 'difference', 'product', 'minimum', 'maximum', 'average'].map((op) => [op, { of: many(1) }]));

const formula = tagged<Formula>('op', {
  ...combining,
  distance: { from: many(2, 3), to: Joi.array().length(Joi.ref('from.length')).items(id).required() },
  magnitude: { of: many(2, 3) },
  tilt: { axis: Joi.valid('pitch', 'roll').required(), of: many(3, 3) },
  speed: { of: id.required() },
  accumulate: { of: id.required(), lo: finite.required(), hi: finite.min(Joi.ref('lo')).required(), leakPerS: Joi.number().min(0).max(1000) },
  envelope: { of: id.required(), attackMs: milliseconds.required(), releaseMs: milliseconds.required() },
  hold: { of: id.required(), gate: id.required() },
  oscillator: {
    shape: Joi.valid(...OSCILLATOR_SHAPES).required(),
    rateHz: amountOf(Joi.number().min(0.01).max(40)).required(),
    depth: amountOf(finite).required(),
  },
  constant: { value: finite.required() },
});

export const derived = Joi.object({ ...base, formula: formula.required() });
