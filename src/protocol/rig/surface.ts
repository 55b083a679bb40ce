import Joi from 'joi';
import { PRESSURES, STRENGTHS, STRIKES, type RigControl } from '../../core/rig/document';
import { LIMITS_OF_CONTROLS as MOST } from '../../core/surface/controlKinds';
import { MODE_NAMES } from '../../core/voices/scale';
import { LIMITS } from '../limits';
import { finite, id, name, sevenBit, tagged } from './pieces';

const frame = Joi.object({
  x: finite.required(),
  y: finite.required(),
  width: finite.positive().required(),
  height: finite.positive().required(),
});

const behaviour = Joi.object({
  kind: Joi.valid('jump', 'pickUp', 'softTakeover', 'relative').required(),
  sensitivity: Joi.number().min(0.01).max(100).required(),
});

const words = Joi.string().allow('').max(LIMITS.nameLength);
const count = (most: number, least = 1) => Joi.number().integer().min(least).max(most);
const roles = Joi.object().pattern(Joi.string().max(20), id.required());

const base = {
  id: id.required(),
  label: words.required(),
  frame: frame.required(),
  behaviour,
  colour: count(MOST.paletteColours - 1, 0),
  group: id,
  locked: Joi.boolean(),
  signals: roles.required(),
  banks: Joi.array().items(roles).max(MOST.banks - 1),
};

const strength = Joi.valid(...STRENGTHS).required();
const shown = { ...base, shows: id.allow(null).required() };

/** The kinds that may lie in a fold-out: all but a fold-out. */
const FLAT: Record<Exclude<RigControl['kind'], 'fold'>, Joi.SchemaMap> = {
  fader: base,
  push: base,
  toggle: base,
  dial: { ...base, endless: Joi.boolean() },
  xy: { ...base, fingers: count(MOST.fingers) },
  faders: { ...base, count: count(MOST.faders).required() },
  tracks: { ...base, count: count(MOST.tracks).required() },
  radio: { ...base, choices: Joi.array().items(words).min(2).max(MOST.choices).required() },
  pads: { ...base, columns: count(MOST.padsAcross).required(), rows: count(MOST.padsAcross).required(), strength, stream: id, low: sevenBit },
  keys: { ...base, low: sevenBit.required(), high: sevenBit.required(), scale: Joi.array().items(count(11, 0)).min(1).unique(), strength, stream: id },
  pitchField: {
    ...base,
    stream: id.required(),
    rows: count(MOST.rows).required(),
    low: finite.min(0).max(127).required(),
    span: finite.min(1).max(96).required(),
    interval: finite.min(-48).max(48).required(),
    guides: Joi.object({ root: Joi.number().integer().min(0).max(11).required(), mode: Joi.valid(...MODE_NAMES).required() }),
    strikeFrom: Joi.valid(...STRIKES).required(),
    pressureFrom: Joi.valid(...PRESSURES).required(),
    across: Joi.boolean().required(),
  },
  strip: { ...base, mode: Joi.valid('position', 'bend').required() },
  stepper: { ...base, steps: count(MOST.steps, 2).required() },
  label: base,
  readout: shown,
  meter: shown,
  ring: shown,
  page: { ...base, page: id.allow(null).required() },
  bank: base,
  scene: { ...base, scene: id.allow(null).required() },
};

const flat = tagged<RigControl>('kind', FLAT);
const control = tagged<RigControl>('kind', {
  ...FLAT,
  fold: { ...base, opens: Joi.valid('hold', 'tap').required(), panel: frame.required(), controls: Joi.array().max(LIMITS.controlsPerPage).items(flat).required() },
});

const pixels = Joi.number().integer().min(100).max(8192).required();

export const surface = Joi.object({
  id: id.required(),
  name: name.required(),
  width: pixels,
  height: pixels,
  palette: Joi.array().items(Joi.string().pattern(/^#[0-9a-f]{6}$/i, 'a colour as #rrggbb')).max(MOST.paletteColours),
  pageStrip: Joi.boolean(),
  banks: Joi.array().items(name).min(2).max(MOST.banks),
  pages: Joi.array()
    .min(1)
    .max(LIMITS.pagesPerSurface)
    .items(Joi.object({ id: id.required(), name: name.required(), controls: Joi.array().max(LIMITS.controlsPerPage).items(control).required() }))
    .required(),
});
