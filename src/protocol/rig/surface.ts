import Joi from 'joi';
import type { RigControl } from '../../core/rig/document';
import { LIMITS } from '../limits';
import { finite, id, name, tagged } from './pieces';

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

const CONTROL_SIGNALS: Record<RigControl['kind'], string[]> = {
  fader: ['value', 'touch'],
  dial: ['value', 'touch'],
  xy: ['x', 'y', 'touch'],
  push: ['gate'],
};

const control = tagged<RigControl>(
  'kind',
  Object.fromEntries(
    Object.entries(CONTROL_SIGNALS).map(([kind, roles]) => [
      kind,
      {
        id: id.required(),
        label: Joi.string().allow('').max(LIMITS.nameLength).required(),
        frame: frame.required(),
        behaviour,
        signals: Joi.object(Object.fromEntries(roles.map((role) => [role, id.required()]))).required(),
      },
    ]),
  ),
);

const pixels = Joi.number().integer().min(100).max(8192).required();

export const surface = Joi.object({
  id: id.required(),
  name: name.required(),
  width: pixels,
  height: pixels,
  pages: Joi.array()
    .min(1)
    .max(LIMITS.pagesPerSurface)
    .items(Joi.object({ id: id.required(), name: name.required(), controls: Joi.array().max(LIMITS.controlsPerPage).items(control).required() }))
    .required(),
});
