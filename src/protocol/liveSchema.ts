import Joi from 'joi';
import type { SourceReport } from '../core/inputs/feed';
import type { StandInSettings } from '../core/standIn/standIn';
import { check, type Checked } from './check';
import { LIMITS } from './limits';
import { INTRODUCE_HOWS, CLIENT_FEEDS, WATCHED, WATCH_PIECE, type FromClient } from './live';
import { RECORD_DOES } from './takes';
import { toTransport } from './transport';
import { finite, id, name, wholeMessage } from './rig/pieces';
import { stream } from './rig/signals';

const key = Joi.string().max(LIMITS.reportLength);
const source = Joi.object<SourceReport>({
  key: key.required(),
  ...stream,
  group: name,
  pair: key,
  springs: Joi.valid(true),
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
const numbers = Joi.array().items(Joi.number().integer().min(0).max(0xfffe)).max(WATCH_PIECE).required();
const kind = Joi.string().required();
/** A joined device brings what it measures of itself, and what it hears and sees. */
const own = { kind: Joi.valid('motion', 'microphone', 'hands').required() };

const place = Joi.number().integer().min(1).max(LIMITS.mappings).required();
const inTurn = Joi.object({ at: place, of: place, words: Joi.string().max(400).required() });

interface LiveRow {
  /** What it looks like from a page of this computer. */
  schema: Joi.SchemaMap;
  /** What it must look like from a joined device; none: it may not say it at all. */
  device?: Joi.SchemaMap;
}

const hello = { version: Joi.number().integer().required(), surface: id };
const watchList = { what: Joi.valid(...WATCHED).required(), add: numbers, remove: numbers };
const ping = { pageTimeMs: Joi.number().required() };
const recall = { scene: id.required() };
const report = { kind: Joi.valid(...CLIENT_FEEDS).required(), report: key.required(), name: name.required() };
const feed = (reported: Joi.SchemaMap) => ({ feed: key.required(), report: Joi.object(reported).required(), sources: Joi.array().items(source).max(LIMITS.sourcesPerFeed).required() });
const feedGone = { feed: key.required() };

/**
 * All that may be said on the live line, and by whom. A joined device plays its surface, brings its motion, and may call for
 * silence; the rest is for the pages of this computer.
 */
export const LIVE_TABLE: Record<FromClient['kind'], LiveRow> = {
  hello: { schema: hello, device: hello },
  watch: {
    schema: { watch: Joi.object({ monitor: Joi.boolean(), activity: Joi.boolean(), inputs: Joi.boolean(), outputStates: Joi.boolean(), mappingStates: Joi.boolean(), ensemble: Joi.boolean(), delays: Joi.object({ output: id, mapping: id }), raw: id }).required() },
    // What it asks for is not shown to it: it need not know what it may not see.
    device: { watch: Joi.object().max(8).unknown().required() },
  },
  watchList: { schema: watchList, device: watchList },
  ping: { schema: ping, device: ping },
  panic: { schema: {}, device: {} },
  record: { schema: { does: Joi.valid(...RECORD_DOES).required() } },
  transport: { schema: toTransport },
  recall: { schema: recall, device: recall },
  try: { schema: { surface: id.allow(null).required() } },
  feed: { schema: feed(report), device: feed({ ...report, ...own }) },
  feedGone: { schema: feedGone, device: feedGone },
  holdBack: { schema: { signals: ids.required() } },
  introduce: { schema: { mapping: id.allow(null).required(), how: Joi.valid(...INTRODUCE_HOWS), inTurn } },
  introduceNext: { schema: {}, device: {} },
  standIn: { schema: { standIn: id.required(), on: Joi.boolean(), settings: standInSettings } },
  testOutput: { schema: { output: id.required(), on: Joi.boolean().required() } },
  sendTo: { schema: { output: id.required(), messages: Joi.array().items(wholeMessage).min(1).max(8).required() } },
  setUp: { schema: { output: id.required() } },
  lend: { schema: { ports: Joi.array().items(Joi.object({ report: key.required(), slot: Joi.number().integer().min(1).max(64).required(), number: Joi.number().integer().min(0).max(0xffff).required() })).max(LIMITS.lentPorts).required() } },
  knob: { schema: { standIn: id.required(), knob: key.required(), value: finite.required() } },
};

const KINDS = Object.keys(LIVE_TABLE) as FromClient['kind'][];
const compiled = (of: 'schema' | 'device') => new Map(KINDS.flatMap((one) => (LIVE_TABLE[one][of] ? [[one, Joi.object({ kind, ...LIVE_TABLE[one][of] })] as const] : [])));
const OF_HOST = compiled('schema');
const OF_DEVICE = compiled('device');
const UNKNOWN = Joi.object({ kind: Joi.valid(...KINDS).required() });

/** Checks what a page says: it must be a row of the table, and one that this page may say. */
export function checkFromClient(said: unknown, isDevice: boolean): Checked<FromClient> | 'forbidden' {
  const named = typeof said === 'object' && said !== null && 'kind' in said ? (said.kind as FromClient['kind']) : undefined;
  const schema = named === undefined ? undefined : (isDevice ? OF_DEVICE : OF_HOST).get(named);
  if (!schema) return isDevice && named !== undefined && OF_HOST.has(named) ? 'forbidden' : check(UNKNOWN as Joi.Schema<FromClient>, said);
  return check(schema as Joi.Schema<FromClient>, said);
}
