import Joi from 'joi';
import { MIDI_THRU_KINDS, MOST_LANES, SIGNAL_UNITS, TAKING_KEYS, type Calibration, type DeviceIdentity, type MidiThru, type PointerTaking, type RigInput } from '../../core/rig/document';
import { FORMULAS, type Formula } from '../../core/signal/formulas';
import { LIMITS } from '../limits';
import { channel, finite, id, milliseconds, name, range, tagged } from './pieces';
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
const device = Joi.object<DeviceIdentity>({ report: Joi.string().max(LIMITS.reportLength).required(), slot: Joi.number().integer().min(1).max(64).required() });
const oscAddress = Joi.string().pattern(/^\//, 'an OSC address').max(200);
const thru = Joi.object<MidiThru>({
  output: id.required(),
  channels: Joi.array().items(channel).unique().max(16).required(),
  kinds: Joi.array().items(Joi.valid(...MIDI_THRU_KINDS)).unique().required(),
  transpose: Joi.number().integer().min(-127).max(127),
  channel,
});

const taking = Joi.object<PointerTaking>({
  as: Joi.valid('lanes', 'xy').required(),
  lanes: Joi.number().integer().min(1).max(MOST_LANES).required(),
  how: Joi.valid('relative', 'pickUp').required(),
  key: Joi.valid(...TAKING_KEYS, null).required(),
});

export const input = tagged<RigInput>('kind', {
  surface: { ...inputBase, surface: id.required() },
  osc: { ...inputBase, device },
  gamepad: { ...inputBase, device: device.required() },
  motion: { ...inputBase, device: device.required() },
  computer: { ...inputBase, device: device.required(), taking },
  midi: { ...inputBase, device: device.required(), thru, followsClock: Joi.boolean() },
  points: { ...inputBase, address: oscAddress.required(), lost: Joi.valid('hold', 'rest').required() },
  recording: { ...inputBase, recording: id.required(), speed: Joi.number().min(0.05).max(20).required(), loop: Joi.boolean().required() },
});

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
