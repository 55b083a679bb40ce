import Joi from 'joi';
import { LIMITS } from './limits';
import { ipAddress, name } from './rig/pieces';

/** What is set for this computer, whatever rig is open. */
export interface InputSettings {
  /** Whether what the rig does not know yet is taken up when it is heard. */
  listening: boolean;
  /** UDP ports to listen on for OSC. */
  oscPorts: number[];
  /** Addresses of senders besides this computer that are let in. */
  oscSenders: string[];
  /** The first rule whose OSC address pattern matches counts: left out, or taken for an input of its own. */
  oscRules: OscRule[];
}

export type OscRule = { pattern: string; action: 'ignore' } | { pattern: string; action: 'group'; name: string };

const pattern = Joi.string().pattern(/^\/\S*$/, 'an OSC address pattern').max(200).required();

export const inputSettingsSchema = Joi.object<InputSettings>({
  listening: Joi.boolean().required(),
  oscPorts: Joi.array().items(Joi.number().integer().min(1024).max(65535)).unique().min(1).max(LIMITS.oscPorts).required(),
  oscSenders: Joi.array().items(ipAddress).unique().max(LIMITS.oscSenders).required(),
  oscRules: Joi.array()
    .items(
      Joi.alternatives().conditional('.action', {
        is: 'group',
        then: Joi.object({ pattern, action: Joi.string(), name: name.required() }),
        otherwise: Joi.object({ pattern, action: Joi.valid('ignore', 'group').required() }),
      }),
    )
    .max(LIMITS.oscRules)
    .required(),
});

export function defaultInputSettings(oscPort: number): InputSettings {
  return { listening: true, oscPorts: [oscPort], oscSenders: [], oscRules: [] };
}
