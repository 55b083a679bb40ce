import Joi from 'joi';
import type { Mark } from '../core/takes/take';
import type { TidyStep } from '../core/takes/tidy';
import { MODE_NAMES } from '../core/voices/scale';
import { LIMITS } from './limits';
import { finite, id, name, tagged } from './rig/pieces';

const ms = finite.min(0).max(60_000).required();
const share = finite.min(0).max(1).required();

/** One step of tidying. */
export const tidyStepSchema = tagged<TidyStep>('kind', {
  quantise: { gridBeats: finite.min(1 / 64).max(16).required(), swing: finite.min(0.5).max(0.8).required(), strength: share, ends: Joi.boolean().required(), fromMs: finite.min(0).required() },
  drop: { shorterMs: ms, softer: Joi.number().integer().min(0).max(127).required() },
  join: { gapMs: ms },
  legato: { gapMs: ms },
  overlaps: {},
  snap: { root: Joi.number().integer().min(0).max(11).required(), mode: Joi.valid(...MODE_NAMES).required() },
  strikes: { amount: share },
  thin: { tolerance: finite.min(0).max(64).required(), as: Joi.valid('steps', 'lines').required() },
  bends: { amount: share },
  trim: { keepMs: ms },
});

export const recipeSchema = Joi.array().items(tidyStepSchema).max(LIMITS.tidySteps);
const marks = Joi.array()
  .items(Joi.object<Mark>({ atMs: finite.min(0).required(), name: name.required() }))
  .max(LIMITS.marks);

/** Through which rig a take is rendered, by its id; the open one where none is said. */
export const renderSchema = Joi.object<{ rig?: string; name?: string }>({ rig: id, name });

export const takeChangeSchema = Joi.object<{ name?: string; marks?: Mark[] }>({ name, marks }).min(1);
export const versionChangeSchema = Joi.object<{ name?: string; recipe?: TidyStep[] }>({ name, recipe: recipeSchema }).min(1);
