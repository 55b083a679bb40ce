import Joi from 'joi';
import type { SourceReport } from '../core/rig/device';
import type { StandInSettings } from '../core/standIn/standIn';
import { LIMITS } from './limits';
import { INTRODUCE_HOWS, PAGE_DEVICES, type FromPage } from './live';
import { finite, id, name } from './rig/pieces';
import { stream } from './rig/signals';

const key = Joi.string().max(LIMITS.reportLength);
const source = Joi.object<SourceReport>({
  key: key.required(),
  ...stream,
  group: name,
  pair: key,
});
const share = Joi.number().min(0).max(1);
const standInSettings = Joi.object<StandInSettings>({
  byItself: Joi.boolean(),
  noise: share,
  drift: share,
  rateHz: Joi.number().min(1).max(1000),
  faults: share,
});

const ids = Joi.array().items(id).max(5000);

export const fromPageSchema = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'hello', then: Joi.object({ kind: Joi.string(), version: Joi.number().integer().required(), surface: id }) },
    {
      is: 'watch',
      then: Joi.object({
        kind: Joi.string(),
        watch: Joi.object({ signals: ids, mappings: ids, outputs: ids, monitor: Joi.boolean(), activity: Joi.boolean(), inputs: Joi.boolean(), mappingStates: Joi.boolean(), captured: ids, raw: id }).required(),
      }),
    },
    { is: 'ping', then: Joi.object({ kind: Joi.string(), pageTimeMs: Joi.number().required() }) },
    { is: 'panic', then: Joi.object({ kind: Joi.string() }) },
    { is: 'recall', then: Joi.object({ kind: Joi.string(), scene: id.required() }) },
    { is: 'try', then: Joi.object({ kind: Joi.string(), surface: id.allow(null).required() }) },
    {
      is: 'device',
      then: Joi.object({
        kind: Joi.string(),
        device: key.required(),
        report: Joi.object({ kind: Joi.valid(...PAGE_DEVICES).required(), report: key.required(), name: name.required() }).required(),
        sources: Joi.array().items(source).max(LIMITS.sourcesPerDevice).required(),
      }),
    },
    { is: 'deviceGone', then: Joi.object({ kind: Joi.string(), device: key.required() }) },
    { is: 'holdBack', then: Joi.object({ kind: Joi.string(), signals: ids.required() }) },
    { is: 'introduce', then: Joi.object({ kind: Joi.string(), mapping: id.allow(null).required(), how: Joi.valid(...INTRODUCE_HOWS) }) },
    { is: 'standIn', then: Joi.object({ kind: Joi.string(), standIn: id.required(), on: Joi.boolean(), settings: standInSettings }) },
    { is: 'knob', then: Joi.object({ kind: Joi.string(), standIn: id.required(), knob: key.required(), value: finite.required() }) },
  ],
  otherwise: Joi.object({
    kind: Joi.valid('hello', 'watch', 'ping', 'panic', 'recall', 'try', 'device', 'deviceGone', 'holdBack', 'introduce', 'standIn', 'knob').required(),
  }),
}) as Joi.Schema<FromPage>;
