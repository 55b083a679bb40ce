import Joi from 'joi';
import { JOIN, type JoinRequest } from './devices';
import { id, name } from './rig/pieces';

const length = Joi.number().integer().min(100).max(8192).required();

export const joinSchema = Joi.object<JoinRequest>({
  code: Joi.string().trim().max(20).required(),
  name: name.required(),
  width: length,
  height: length,
});

export const lanSchema = Joi.object<{ on: boolean }>({ on: Joi.boolean().required() });
export const codeSchema = Joi.object<{ surface: string | null; admits?: number }>({ surface: id.allow(null).required(), admits: Joi.number().integer().min(1).max(JOIN.admits) });
export const deviceChangeSchema = Joi.object<{ name?: string; surface?: string | null }>({ name, surface: id.allow(null) }).min(1);
