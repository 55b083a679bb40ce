import Joi from 'joi';
import { MEMBERS } from '../../core/ensemble/kinds';
import { BEGINS, type MemberPart } from '../../core/ensemble/parts';
import { finite, id, name, tagged, unit } from './pieces';
import { schemasOf } from './shapes';

/** So much later or sooner than its beat a member may come. */
const FEEL_MOST_MS = 100;

const part = tagged<MemberPart>('kind', Object.fromEntries(Object.entries(MEMBERS).map(([kind, { fields }]) => [kind, schemasOf(fields)])));

export const member = Joi.object({
  id: id.required(),
  name: name.required(),
  on: Joi.boolean().required(),
  alone: Joi.boolean(),
  level: unit.required(),
  octave: Joi.number().integer().min(-4).max(4).required(),
  begins: Joi.valid(...BEGINS).required(),
  swing: finite.min(0.5).max(0.8).required(),
  feelMs: finite.min(-FEEL_MOST_MS).max(FEEL_MOST_MS).required(),
  part: part.required(),
});
