import Joi from 'joi';
import type { RigDocument } from '../core/rig/document';
import type { Problem } from './problem';
import { id } from './rig';

/** Version of the live line; a page of another version is told to reload. */
export const LIVE_VERSION = 1;

/** What a page may ask to see. Lists hold ids. */
export interface Watch {
  signals?: string[];
  mappings?: string[];
  /** Outputs whose receivers are shown. */
  outputs?: string[];
  monitor?: boolean;
  activity?: boolean;
}

/** JSON from a page to the hub. */
export type FromPage =
  | { kind: 'hello'; version: number; surface?: string }
  | { kind: 'watch'; watch: Watch }
  | { kind: 'ping'; pageTimeMs: number }
  | { kind: 'panic' };

const ids = Joi.array().items(id).max(5000);

export const fromPageSchema: Joi.Schema<FromPage> = Joi.alternatives<FromPage>().conditional('.kind', {
  switch: [
    { is: 'hello', then: Joi.object({ kind: Joi.string(), version: Joi.number().integer().required(), surface: id }) },
    {
      is: 'watch',
      then: Joi.object({
        kind: Joi.string(),
        watch: Joi.object({ signals: ids, mappings: ids, outputs: ids, monitor: Joi.boolean(), activity: Joi.boolean() }).required(),
      }),
    },
    { is: 'ping', then: Joi.object({ kind: Joi.string(), pageTimeMs: Joi.number().required() }) },
    { is: 'panic', then: Joi.object({ kind: Joi.string() }) },
  ],
  otherwise: Joi.object({ kind: Joi.valid('hello', 'watch', 'ping', 'panic').required() }),
});

/** The numbers that binary frames use; an index in each list is the number. Numbers are never given twice. */
export interface Names {
  signals: string[];
  mappings: string[];
  outputs: string[];
}

/** What the top bar shows: messages since the last report, and the delay from a finger to its bytes. */
export interface Activity {
  in: number;
  out: number;
  delayP50Ms: number | null;
  delayP99Ms: number | null;
}

/** JSON from the hub to a page. */
export type ToPage =
  | { kind: 'welcome'; version: number; hubTimeMs: number; names: Names; revision: number; stage: boolean }
  | { kind: 'names'; names: Names }
  | { kind: 'rig'; revision: number; stage: boolean }
  | { kind: 'pong'; pageTimeMs: number; hubTimeMs: number }
  | { kind: 'activity'; activity: Activity }
  /** Which page of its surface a play page shows; none said: the first. */
  | { kind: 'page'; page: string }
  | { kind: 'surfaces'; playing: Record<string, number> }
  | { kind: 'problem'; problem: Problem };

/** JSON from the web process to the hub: the compiled work it is given. */
export type FromWeb =
  | { kind: 'load'; rig: RigDocument; revision: number; stage: boolean; values: Record<string, number> }
  | { kind: 'recall'; scene: string }
  | { kind: 'monitor'; on: boolean };

/** JSON from the hub to the web process; signal values and monitor facts reach it as binary frames. */
export type ToWeb = { kind: 'hello'; names: Names; pid: number } | { kind: 'names'; names: Names };
