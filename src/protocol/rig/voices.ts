import Joi from 'joi';
import { OSC_ADDRESS, OSC_ADDRESS_MOST, OSC_PART } from '../../core/messages/osc';
import type { AxisMessage } from '../../core/rig/voices';
import { isKeyController } from '../../core/voices/axisMessages';
import { isFreePart } from '../../core/voices/oscVoices';
import { POLY_MOST, PRIORITIES, STEALS, type VoiceLayout } from '../../core/voices/layout';
import { MEMBERS_MOST } from '../../core/receivers/layout';
import { MODE_NAMES, type Scale } from '../../core/voices/scale';
import { LIMITS } from '../limits';
import { finite, id, milliseconds, name, sevenBit, tagged, unit } from './pieces';
import { shaping, smoothing } from './shaping';

export const channel = Joi.number().integer().min(1).max(16);
const steal = Joi.valid(...STEALS).required();

/** Zone and run as receivers have them too. */
export const ZONE = { zone: Joi.valid('lower', 'upper').required(), members: Joi.number().integer().min(1).max(MEMBERS_MOST).required() };
export const RUN = { first: channel.required(), last: channel.min(Joi.ref('first')).required() };

const oscAddress = Joi.string().max(OSC_ADDRESS_MOST).pattern(OSC_ADDRESS.expression, OSC_ADDRESS.words);

const layout = tagged<VoiceLayout>('kind', {
  zone: { ...ZONE, steal },
  run: { ...RUN, steal },
  poly: { channel: channel.required(), voices: Joi.number().integer().min(1).max(POLY_MOST).required(), steal },
  osc: { address: oscAddress.required(), voices: Joi.number().integer().min(1).max(POLY_MOST).required(), steal },
  mono: { channel: channel.required(), priority: Joi.valid(...PRIORITIES).required(), legato: Joi.boolean().required(), glideMs: milliseconds.required() },
});

const controller = Joi.number().integer().min(0).max(119).required();
const axisMessage = tagged<AxisMessage>('kind', {
  controlChange: { controller },
  controlChange14: { controller: Joi.number().integer().min(0).max(31).required() },
  channelPressure: {},
  polyPressure: {},
  keyController: { controller: controller.custom((value: number, helpers) => (isKeyController(value) ? value : helpers.error('any.invalid'))).messages({ 'any.invalid': '{{#label}} must be a controller that a key may have: not a bank, data entry or parameter' }) },
  osc: {
    part: Joi.string()
      .max(LIMITS.nameLength)
      .pattern(OSC_PART.expression, OSC_PART.words)
      .custom((value: string, helpers) => (isFreePart(value) ? value : helpers.error('any.invalid')))
      .messages({ 'any.invalid': '{{#label}} must be another word than those that voices are said by' })
      .required(),
  },
});

const wire = (most: number) => Joi.array().ordered(finite.min(0).max(most).required(), finite.min(0).max(most).required()).length(2).required();
const axis = Joi.object({
  shaping: shaping.required(),
  message: axisMessage.required(),
  range: Joi.when('message.kind', {
    switch: [
      { is: 'controlChange14', then: wire(16383) },
      { is: 'osc', then: Joi.array().ordered(finite.required(), finite.required()).length(2).required() },
    ],
    otherwise: wire(127),
  }),
});
const struck = Joi.object({ shaping: shaping.required(), range: wire(127) });

/** Above the unison, in cents; a period of three octaves is more than any scale has. */
const cents = Joi.array().items(finite.min(-12_000).max(12_000)).min(1).max(LIMITS.scaleNotes);
export const scaleCents = periodic(cents);
const root = Joi.number().integer().min(0).max(11).required();
const scale = tagged<Scale>('kind', {
  mode: { root, mode: Joi.valid(...MODE_NAMES).required() },
  steps: { root, cents: scaleCents.required() },
  kept: { scale: id.required() },
});

const pull = Joi.object({
  scale: scale.required(),
  referenceHz: finite.min(220).max(880).required(),
  atStart: unit.required(),
  held: unit.required(),
  bandCents: finite.min(0).max(1200).required(),
  speedMs: milliseconds.required(),
  atRelease: unit.required(),
});

export const stream = Joi.object({ id: id.required(), name: name.required(), input: id.required(), source: Joi.string().max(LIMITS.reportLength), hidden: Joi.boolean() });

export const voiceMapping = Joi.object({
  id: id.required(),
  name: name.required(),
  on: Joi.boolean().required(),
  stream: id.required(),
  output: id.required(),
  layout: layout.required(),
  keys: Joi.object({ low: sevenBit.required(), high: sevenBit.required() }),
  strikes: Joi.object({ low: unit.required(), high: unit.required() }),
  pitch: Joi.object({ transpose: finite.min(-128).max(128).required(), bends: Joi.boolean().required(), smoothing, pull }).required(),
  strike: struck.required(),
  release: struck,
  pressure: axis,
  slide: axis,
  group: name,
  remark: Joi.string().max(LIMITS.remarkLength),
  onStage: Joi.number().integer().min(1).max(1e6),
});

const keyMap = Joi.object({
  first: sevenBit.required(),
  last: sevenBit.required(),
  middle: sevenBit.required(),
  reference: Joi.object({ key: sevenBit.required(), hz: finite.positive().max(1e6).required() }).required(),
  period: Joi.number().integer().min(0).max(LIMITS.scaleNotes).required(),
  degrees: Joi.array().items(Joi.number().integer().min(-LIMITS.scaleNotes).max(LIMITS.scaleNotes).allow(null)).max(LIMITS.scaleNotes).required(),
});

export const keptScale = Joi.object({ id: id.required(), name: name.required(), cents: scaleCents.required(), keyMap });

/** A scale begins again above itself. */
function periodic(list: Joi.ArraySchema): Joi.ArraySchema {
  return list.custom((value: number[], helpers) => (value.at(-1)! > 0 ? value : helpers.error('any.invalid'))).messages({ 'any.invalid': '{{#label}} must end with a period above 0' });
}
