import Joi from 'joi';
import { decode } from '../../core/midi/decode';
import { hexOf } from '../../core/midi/describe';
import { LIMITS } from '../limits';

/** Small checks that the large ones are made of. */
export const id = Joi.string()
  .pattern(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, 'letters, digits, dot, dash and underscore')
  .max(LIMITS.idLength);
export const name = Joi.string().trim().min(1).max(LIMITS.nameLength);
export const finite = Joi.number().min(-1e9).max(1e9);
export const unit = Joi.number().min(0).max(1);
export const milliseconds = Joi.number().min(0).max(3_600_000);
export const sevenBit = Joi.number().integer().min(0).max(127);
const MUST_BE_IP = '{{#label}} must be an IP address, as 192.168.1.20';
/** Of one computer, or of all of its network. A number with a zero before it is not taken: systems read it to the base of 8. */
const ip = (...version: string[]) =>
  Joi.string()
    .ip({ version, cidr: 'forbidden' })
    .pattern(/(^|\.)0\d+(\.|$)/, { invert: true })
    .messages({ 'string.ipVersion': MUST_BE_IP, 'string.pattern.invert.base': MUST_BE_IP });
export const ipAddress = ip('ipv4');
/** The way that OSC leaves by may be of the newer kind, too. */
export const oscHost = ip('ipv4', 'ipv6');
export const tempoBpm = Joi.number().min(20).max(400);

/** So many notes of such a length are a bar. */
export const meter = Joi.array().ordered(Joi.number().integer().min(1).max(32).required(), Joi.valid(1, 2, 4, 8, 16).required()).length(2);

export const pairOf = (each: Joi.Schema) => Joi.array().ordered(each.required(), each.required()).length(2);
export const range = pairOf(finite);

/** An object whose other fields depend on the word in one field; an unknown word is said with those that there are. */
export function tagged<T>(tag: string, cases: Record<string, Joi.SchemaMap>): Joi.AlternativesSchema<T> {
  return Joi.alternatives<T>().conditional(`.${tag}`, {
    switch: Object.entries(cases).map(([word, fields]) => ({ is: word, then: Joi.object({ [tag]: Joi.string().required(), ...fields }) })),
    otherwise: Joi.object({ [tag]: Joi.valid(...Object.keys(cases)).required() }).unknown(),
  });
}

/** The bytes of exactly one MIDI message: half of one would run into whatever leaves next. */
export const wholeMessage = Joi.array()
  .min(1)
  .max(256)
  .items(Joi.number().integer().min(0).max(255))
  .custom((bytes: number[], helpers) => (decode(Uint8Array.from(bytes)) ? bytes : helpers.message({ custom: `{{#label}} must be one whole MIDI message, found ${`${hexOf(Uint8Array.from(bytes.slice(0, 8)))}${bytes.length > 8 ? ' …' : ''}`}` })));
