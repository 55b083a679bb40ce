import Joi from 'joi';
import { RIG_FORMAT, RIG_VERSION, SIGNAL_UNITS, type MessageSpec, type RigControl, type RigDocument, type RigMapping } from '../core/rig/document';
import { checkReferences } from '../core/rig/references';
import { check, type Checked } from './check';
import { LIMITS } from './limits';

/** Building blocks: small checks that the large ones are made of. */
export const id = Joi.string()
  .pattern(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, 'letters, digits, dot, dash and underscore')
  .max(LIMITS.idLength);
const name = Joi.string().trim().min(1).max(LIMITS.nameLength);
const finite = Joi.number().min(-1e9).max(1e9);
const range = Joi.array().ordered(finite.required(), finite.required()).length(2);
const sevenBit = Joi.number().integer().min(0).max(127);
const channel = Joi.number().integer().min(1).max(16);
const tempoBpm = Joi.number().min(20).max(400);

const smoothing = Joi.alternatives().conditional('.kind', {
  switch: [
    {
      is: 'onePole',
      then: Joi.object({ kind: Joi.string().required(), timeConstantMs: Joi.number().min(0).max(60_000).required() }),
    },
    {
      is: 'oneEuro',
      then: Joi.object({
        kind: Joi.string().required(),
        minCutoffHz: Joi.number().min(0.001).max(1000).required(),
        beta: Joi.number().min(0).max(1000).required(),
        derivativeCutoffHz: Joi.number().min(0.001).max(1000).required(),
      }),
    },
  ],
  otherwise: Joi.object({ kind: Joi.valid('onePole', 'oneEuro').required() }),
});

const shaping = Joi.object({
  rangeIn: Joi.object({ lo: finite.required(), hi: finite.required() }),
  smoothing,
});

const message = Joi.alternatives<MessageSpec>().conditional('.kind', {
  switch: [
    {
      is: 'controlChange',
      then: Joi.object({
        kind: Joi.string().required(),
        channel: channel.required(),
        // 120-127 are channel mode messages and never plain controllers (engine.md, ledger rules).
        controller: Joi.number().integer().min(0).max(119).required(),
        range: Joi.array().ordered(sevenBit.required(), sevenBit.required()).length(2).required(),
      }),
    },
    {
      is: 'note',
      then: Joi.object({
        kind: Joi.string().required(),
        channel: channel.required(),
        note: sevenBit.required(),
        velocity: sevenBit.min(1).required(),
      }),
    },
  ],
  otherwise: Joi.object({ kind: Joi.valid('controlChange', 'note').required() }),
});

const mappingFields = { name, on: Joi.boolean(), signal: id, shaping, message, output: id };

const frame = Joi.object({
  x: finite.required(),
  y: finite.required(),
  width: finite.positive().required(),
  height: finite.positive().required(),
});

const CONTROL_SIGNALS: Record<RigControl['kind'], string[]> = {
  fader: ['value', 'touch'],
  dial: ['value', 'touch'],
  xy: ['x', 'y', 'touch'],
  push: ['gate'],
};

const control = Joi.alternatives().conditional('.kind', {
  switch: Object.entries(CONTROL_SIGNALS).map(([kind, roles]) => ({
    is: kind,
    then: Joi.object({
      id: id.required(),
      kind: Joi.string().required(),
      label: Joi.string().allow('').max(LIMITS.nameLength).required(),
      frame: frame.required(),
      signals: Joi.object(Object.fromEntries(roles.map((role) => [role, id.required()]))).required(),
    }),
  })),
  otherwise: Joi.object({ kind: Joi.valid(...Object.keys(CONTROL_SIGNALS)).required() }),
});

/** The shape of a rig document, version 1. Unknown fields are refused. */
export const rigSchema: Joi.ObjectSchema<RigDocument> = Joi.object<RigDocument>({
  format: Joi.valid(RIG_FORMAT).required(),
  version: Joi.valid(RIG_VERSION).required(),
  name: name.required(),
  tempoBpm: tempoBpm.required(),
  inputs: Joi.array()
    .items(Joi.object({ id: id.required(), name: name.required(), kind: Joi.valid('surface').required(), surface: id.required() }))
    .required(),
  signals: Joi.array()
    .max(LIMITS.signals)
    .items(
      Joi.object({
        id: id.required(),
        name: name.required(),
        input: id.required(),
        kind: Joi.valid('continuous', 'gate').required(),
        unit: Joi.valid(...SIGNAL_UNITS).required(),
        range: range.required(),
        rest: finite,
      }),
    )
    .required(),
  mappings: Joi.array()
    .max(LIMITS.mappings)
    .items(Joi.object<RigMapping>({ id: id.required(), ...mappingFields }).fork(Object.keys(mappingFields), (field) => field.required()))
    .required(),
  outputs: Joi.array()
    .max(LIMITS.outputs)
    .items(Joi.object({ id: id.required(), name: name.required(), kind: Joi.valid('standIn').required(), receiver: id.required() }))
    .required(),
  receivers: Joi.array()
    .max(LIMITS.outputs)
    .items(
      Joi.object({
        id: id.required(),
        name: name.required(),
        about: Joi.string().allow('').max(400).required(),
        bendRangeSemitones: Joi.number().min(0).max(96).required(),
      }),
    )
    .required(),
  surfaces: Joi.array()
    .max(LIMITS.surfaces)
    .items(
      Joi.object({
        id: id.required(),
        name: name.required(),
        width: Joi.number().integer().min(100).max(8192).required(),
        height: Joi.number().integer().min(100).max(8192).required(),
        pages: Joi.array()
          .min(1)
          .max(LIMITS.pagesPerSurface)
          .items(
            Joi.object({
              id: id.required(),
              name: name.required(),
              controls: Joi.array().max(LIMITS.controlsPerPage).items(control).required(),
            }),
          )
          .required(),
      }),
    )
    .required(),
});

/** Checks shape and references; all problems at once. */
export function checkRig(input: unknown): Checked<RigDocument> {
  const shape = check(rigSchema, input);
  if (!shape.ok) return shape;
  const dangling = checkReferences(shape.value);
  if (dangling.length === 0) return shape;
  return { ok: false, problems: dangling.map(({ path, message }) => ({ code: 'invalid', field: path, message: `${path}: ${message}` })) };
}

/** One edit of a rig, as a page sends it. */
export const editSchema = Joi.alternatives().conditional('.kind', {
  switch: [
    {
      is: 'setMapping',
      then: Joi.object({ kind: Joi.string().required(), mapping: id.required(), set: Joi.object(mappingFields).min(1).required() }),
    },
    {
      is: 'setRig',
      then: Joi.object({ kind: Joi.string().required(), set: Joi.object({ name, tempoBpm }).min(1).required() }),
    },
  ],
  otherwise: Joi.object({ kind: Joi.valid('setMapping', 'setRig').required() }),
});

/** The body of POST /api/rigs/ID/edits. */
export const editRequestSchema = Joi.object({ edit: editSchema.required() });
