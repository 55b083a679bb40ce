import Joi from 'joi';
import { SIGNAL_UNITS, type Calibration } from '../../core/rig/document';
import { INPUTS, type RigInput } from '../../core/inputs/kinds';
import { FORMULAS, type Formula } from '../../core/signal/formulas';
import { LIMITS } from '../limits';
import { finite, id, milliseconds, name, range, tagged } from './pieces';
import { schemasOf } from './shapes';

/** What a signal and a source of a device have in common. */
export const stream = {
  name: name.required(),
  kind: Joi.valid('continuous', 'gate').required(),
  unit: Joi.valid(...SIGNAL_UNITS).required(),
  range: range.required(),
  rest: finite,
  period: Joi.number().positive().max(1e9),
};
const base = { id: id.required(), ...stream };

const inputBase = { id: id.required(), name: name.required(), hidden: Joi.boolean() };
const oscAddress = Joi.string().pattern(/^\//, 'an OSC address').max(200);
export const input = tagged<RigInput>('kind', Object.fromEntries(Object.entries(INPUTS).map(([kind, { fields }]) => [kind, { ...inputBase, ...schemasOf(fields) }])));

const calibration = Joi.object<Calibration>({
  noise: finite.min(0),
  travel: Joi.object({ lo: finite.required(), hi: finite.required(), centre: finite }),
  zero: finite,
});

export const signal = Joi.object({
  ...base,
  input: id.required(),
  pair: id,
  source: Joi.string().max(LIMITS.reportLength),
  calibration,
  group: name,
  hidden: Joi.boolean(),
  osc: Joi.object({ address: oscAddress.required(), argument: Joi.number().integer().min(0).max(255).required() }),
  returns: Joi.object({ to: finite.required(), overMs: milliseconds.required(), released: id.required() }),
});

const formula = tagged<Formula>('op', Object.fromEntries(Object.entries(FORMULAS).map(([op, { fields }]) => [op, schemasOf(fields)])));

export const derived = Joi.object({ ...base, formula: formula.required() });
