import Joi from 'joi';
import { EXAMPLES_OF_A_POSE, POSES_MOST, POSE_FEATURES } from '../core/hands/poses';
import type { HandsProfile } from '../core/hands/profile';
import { LIMITS } from './limits';
import { finite } from './rig/pieces';

const example = Joi.array().items(finite.min(-1e3).max(1e3)).length(POSE_FEATURES);
const pose = Joi.object({ name: Joi.string().min(1).max(LIMITS.taughtNameLength).required(), examples: Joi.array().items(example).max(EXAMPLES_OF_A_POSE).required() });

export const handsProfileSchema = Joi.object<HandsProfile>({
  mirrored: Joi.boolean().required(),
  drawn: Joi.boolean().required(),
  model: Joi.valid('fast', 'exact').required(),
  hands: Joi.valid(1, 2).required(),
  whenLost: Joi.valid('hold', 'rest').required(),
  steady: Joi.boolean().required(),
  poses: Joi.array().items(pose).unique('name').max(POSES_MOST).required(),
});
