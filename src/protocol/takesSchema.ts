import Joi from 'joi';
import type { PlaybackOptions } from '../core/takes/playback';
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
  thin: { tolerance: finite.min(0).max(64).required(), bendCents: finite.min(0).max(1200).required(), as: Joi.valid('steps', 'lines').required() },
  bends: { amount: share },
  trim: { keepMs: ms },
});

export const recipeSchema = Joi.array().items(tidyStepSchema).max(LIMITS.tidySteps);
/** Steps that are kept under a name, to tidy other takes. */
export interface KeptRecipes {
  recipes: { name: string; steps: TidyStep[] }[];
}
export const keptRecipesSchema = Joi.object<KeptRecipes>({
  recipes: Joi.array()
    .items(Joi.object({ name: name.required(), steps: recipeSchema.required() }))
    .unique('name')
    .max(LIMITS.recipes)
    .required(),
});

const marks = Joi.array()
  .items(Joi.object<Mark>({ atMs: finite.min(0).required(), name: name.required() }))
  .max(LIMITS.marks);

/** Through which rig a take is rendered, by its id; the open one where none is said. `only`: of it these mappings, by their ids. */
export const renderSchema = Joi.object<{ rig?: string; name?: string; only?: string[] }>({ rig: id, name, only: Joi.array().items(id).max(LIMITS.mappings) });

const span = Joi.object({ fromMs: finite.min(0).required(), toMs: finite.greater(Joi.ref('fromMs')).required() });

/** Which files a version becomes. */
export const TAKE_FILE_KINDS = ['midi', 'midi0', 'csv', 'jsonl', 'take'] as const;
export type TakeFileKind = (typeof TAKE_FILE_KINDS)[number];
export const fileSchema = Joi.object<{ as: TakeFileKind; line?: string }>({ as: Joi.valid(...TAKE_FILE_KINDS).required(), line: id });

/** How a version is played; `output`: everything goes there. */
export const playSchema = Joi.object<PlaybackOptions>({
  fromMs: finite.min(0).default(0),
  speed: finite.min(0.1).max(8).default(1),
  loop: span.allow(null).default(null),
  muted: Joi.array().items(Joi.string().max(400)).max(LIMITS.mappings).default([]),
  output: id.allow(null).default(null),
  punch: span.allow(null).default(null),
});

/** The stream whose voices the notes of a take become. */
export const voicesSchema = Joi.object<{ stream: string }>({ stream: id.required() });

export const takeChangeSchema = Joi.object<{ name?: string; marks?: Mark[] }>({ name, marks }).min(1);
export const versionChangeSchema = Joi.object<{ name?: string; recipe?: TidyStep[] }>({ name, recipe: recipeSchema }).min(1);
