import Joi from 'joi';
import { decode } from '../../core/midi/decode';
import { hexOf } from '../../core/midi/describe';
import { MERGES, RIG_FORMAT, RIG_VERSION, type RigDocument, type RigMapping, type RigOutput } from '../../core/rig/document';
import { RIG_LISTS } from '../../core/rig/edit';
import { LIMITS_OF_CONTROLS } from '../../core/surface/controlKinds';
import { checkReferences } from '../../core/rig/references';
import { check, type Checked } from '../check';
import { LIMITS } from '../limits';
import { message } from './message';
import { finite, id, milliseconds, name, tagged, tempoBpm } from './pieces';
import { gate, motion, shaping } from './shaping';
import { derived, input, signal } from './signals';
import { surface } from './surface';
import { upgradeRig } from './upgrade';

const mappingFields = { name, on: Joi.boolean(), signal: id, shaping, message, output: id };
const optionalFields = { merge: Joi.valid(...MERGES), gate, motion, group: name, remark: Joi.string().max(LIMITS.remarkLength) };

const outputFields = {
  id: id.required(),
  name: name.required(),
  receiver: id.required(),
  bytesPerS: Joi.number().min(100).max(1e9),
  sendsClock: Joi.boolean(),
};

const receiver = Joi.object({
  id: id.required(),
  name: name.required(),
  about: Joi.string().allow('').max(400).required(),
  bendRangeSemitones: Joi.number().min(0).max(96).required(),
});

/** The bytes of exactly one MIDI message: half of one would run into whatever leaves next. */
const wholeMessage = Joi.array()
  .min(1)
  .max(256)
  .items(Joi.number().integer().min(0).max(255))
  .custom((bytes: number[], helpers) => (decode(Uint8Array.from(bytes)) ? bytes : helpers.message({ custom: `{{#label}} must be one whole MIDI message, found ${`${hexOf(Uint8Array.from(bytes.slice(0, 8)))}${bytes.length > 8 ? ' …' : ''}`}` })));

const scene = Joi.object({
  id: id.required(),
  name: name.required(),
  mappings: Joi.object().pattern(id, Joi.boolean()).required(),
  pages: Joi.object().pattern(id, id).required(),
  banks: Joi.object().pattern(id, Joi.number().integer().min(0).max(LIMITS_OF_CONTROLS.banks - 1)),
  values: Joi.object().pattern(id, finite).required(),
  messages: Joi.array()
    .max(LIMITS.sceneMessages)
    .items(Joi.object({ output: id.required(), bytes: wholeMessage.required() }))
    .required(),
  glideMs: milliseconds.required(),
  recalledBy: Joi.object({ signal: id.required(), at: finite }),
});

const list = (most: number, item: Joi.Schema) => Joi.array().max(most).items(item).required();

/** The shape of a rig document, version 1. Unknown fields are refused. */
export const rigSchema: Joi.ObjectSchema<RigDocument> = Joi.object<RigDocument>({
  format: Joi.valid(RIG_FORMAT).required(),
  version: Joi.valid(RIG_VERSION).required(),
  name: name.required(),
  tempoBpm: tempoBpm.required(),
  inputs: list(LIMITS.inputs, input),
  signals: list(LIMITS.signals, signal),
  derived: list(LIMITS.signals, derived),
  mappings: list(
    LIMITS.mappings,
    Joi.object<RigMapping>({ id: id.required(), ...mappingFields, ...optionalFields }).fork(Object.keys(mappingFields), (field) => field.required()),
  ),
  outputs: list(
    LIMITS.outputs,
    tagged<RigOutput>('kind', {
      standIn: outputFields,
      osc: { ...outputFields, host: Joi.string().ip().required(), port: Joi.number().integer().min(1).max(65535).required() },
    }),
  ),
  receivers: list(LIMITS.outputs, receiver),
  surfaces: list(LIMITS.surfaces, surface),
  scenes: list(LIMITS.scenes, scene),
});

/** Brings an older document up to date, then checks shape and references; all problems at once. */
export function checkRig(candidate: unknown): Checked<RigDocument> {
  const upgraded = upgradeRig(candidate);
  if (!upgraded.ok) return upgraded;
  const shape = check(rigSchema, upgraded.value);
  if (!shape.ok) return shape;
  const dangling = checkReferences(shape.value);
  if (dangling.length === 0) return shape;
  return { ok: false, problems: dangling.map(({ path, message: text }) => ({ code: 'invalid', field: path, message: `${path}: ${text}` })) };
}

/**
 * As `checkRig`, for a document that an edit made of one that is known to be good: only what is not the same object as
 * before is checked for its shape, so that an edit of a large rig is heard at once. References are checked everywhere.
 */
export function checkEdited(before: RigDocument, after: RigDocument): Checked<RigDocument> {
  if (RIG_LISTS.some((list) => after[list].length !== before[list].length)) return checkRig(after);
  const changed = RIG_LISTS.map((list) => {
    const known = new Set<object>(before[list]);
    return [list, (after[list] as object[]).filter((thing) => !known.has(thing))];
  });
  const thin = { ...after, ...(Object.fromEntries(changed) as Partial<RigDocument>) };
  // The places of what is wrong are those in the whole document.
  if (!check(rigSchema, thin).ok || checkReferences(after).length > 0) return checkRig(after);
  return { ok: true, value: after };
}

/** One edit of a rig, as a page sends it. */
export const editSchema = tagged('kind', {
  setMapping: {
    mapping: id.required(),
    set: Joi.object({ ...mappingFields, ...Object.fromEntries(Object.entries(optionalFields).map(([field, schema]) => [field, schema.allow(null)])) })
      .min(1)
      .required(),
  },
  // What these make of the rig is checked as a whole once they are applied.
  setInput: { input: id.required(), set: Joi.object({ id: Joi.forbidden(), kind: Joi.forbidden() }).unknown().min(1).required() },
  setSignal: { signal: id.required(), set: Joi.object({ id: Joi.forbidden() }).unknown().min(1).required() },
  change: {
    changes: Joi.array()
      .items(
        Joi.object({
          list: Joi.valid(...RIG_LISTS).required(),
          id: id.required(),
          to: Joi.object({ id: Joi.valid(Joi.ref('...id')).required() }).unknown().allow(null).required(),
          at: Joi.number().integer().min(0),
        }),
      )
      .min(1)
      .max(LIMITS.changes)
      .required(),
  },
  setRig: { set: Joi.object({ name, tempoBpm }).min(1).required() },
});

/** The body of POST /api/rigs/ID/edits. */
export const editRequestSchema = Joi.object({ edit: editSchema.required(), window: Joi.string().max(64), basedOn: Joi.number().integer().min(0) });

export { id };
