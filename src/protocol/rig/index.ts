import Joi from 'joi';
import { INSTRUMENT_IDS, LEARNED_MOST } from '../../core/instruments/instruments';
import { MERGES, RIG_FORMAT, RIG_VERSION, type RigDocument, type RigMapping } from '../../core/rig/document';
import { SCENE_TRANSPORTS } from '../../core/rig/sceneTransport';
import { OUTPUTS, type RigOutput } from '../../core/outputs/kinds';
import { RIG_LISTS, type RigList } from '../../core/rig/edit';
import { listInWords } from '../../core/rig/editWords';
import { OSC_ADDRESS_MOST } from '../../core/messages/osc';
import { LIMITS_OF_CONTROLS } from '../../core/surface/controlKinds';
import { UNDERSTANDINGS } from '../../core/receivers/mismatch';
import { checkReferences } from '../../core/rig/references';
import { check, type Checked } from '../check';
import { LIMITS } from '../limits';
import type { Problem } from '../problem';
import { member } from './members';
import { message } from './message';
import { finite, id, meter, milliseconds, name, sevenBit, tagged, tempoBpm, wholeMessage } from './pieces';
import { schemasOf } from './shapes';
import { gate, motion, shaping } from './shaping';
import { derived, input, signal } from './signals';
import { surface } from './surface';
import { upgradeRig } from './upgrade';
import { keptScale, RUN, stream, voiceMapping, ZONE } from './voices';

const fromBend = { is: 'bend', then: Joi.number().integer().min(0).max(16383).required(), otherwise: sevenBit.required() } as const;
const shownOn = Joi.object({
  output: id.required(),
  as: Joi.valid('controller', 'note', 'bend').required(),
  channel: Joi.number().integer().min(1).max(16).required(),
  number: Joi.when('as', { is: 'bend', then: Joi.forbidden(), otherwise: sevenBit.required() }),
  from: Joi.when('as', fromBend),
  to: Joi.when('as', fromBend),
});

const mappingFields = { name, on: Joi.boolean(), signal: id, shaping, message, output: id };
const optionalFields = { merge: Joi.valid(...MERGES), gate, motion, group: name, remark: Joi.string().max(LIMITS.remarkLength), onStage: Joi.number().integer().min(1).max(1e6), shownOn };

const receiver = Joi.object({
  id: id.required(),
  name: name.required(),
  about: Joi.string().allow('').max(400).required(),
  bendRangeSemitones: Joi.number().min(0).max(96).required(),
  bendThereSemitones: Joi.number().min(0).max(96),
  channels: Joi.array().items(Joi.number().integer().min(1).max(16)).unique().min(1).max(16),
  voices: Joi.number().integer().min(1).max(128),
  layout: tagged('kind', { zone: ZONE, run: RUN }),
  alone: Joi.boolean(),
  freeNotes: Joi.object({ low: sevenBit.required(), high: sevenBit.min(Joi.ref('low')).required() }),
  program: Joi.object({ number: sevenBit.required(), bank: Joi.number().integer().min(0).max(16383) }),
  taught: Joi.object().pattern(id, Joi.string().max(OSC_ADDRESS_MOST + LIMITS.nameLength)),
  taughtVoices: Joi.object().pattern(id, Joi.string().max(OSC_ADDRESS_MOST + LIMITS.nameLength)),
  setByHand: Joi.array().items(Joi.string().max(80)).unique().max(32),
  lacks: Joi.array().items(Joi.valid(...UNDERSTANDINGS)).unique(),
  hardWired: Joi.array()
    .max(128)
    .unique('controller')
    .items(Joi.object({ controller: sevenBit.required(), does: Joi.string().trim().min(1).max(80).required() })),
  sound: Joi.object({
    instrument: Joi.valid(...INSTRUMENT_IDS).required(),
    parts: Joi.boolean(),
    learned: Joi.array()
      .max(LEARNED_MOST)
      .items(Joi.object({ parameter: Joi.string().max(40).required(), channel: Joi.number().integer().min(1).max(16).required(), controller: sevenBit.required() }))
      .required(),
  }),
});

const scene = Joi.object({
  id: id.required(),
  name: name.required(),
  mappings: Joi.object().pattern(id, Joi.boolean()).required(),
  voiceMappings: Joi.object().pattern(id, Joi.boolean()),
  members: Joi.object().pattern(id, Joi.boolean()),
  transport: Joi.valid(...SCENE_TRANSPORTS),
  alone: Joi.object().pattern(id, Joi.boolean()),
  pages: Joi.object().pattern(id, id).required(),
  banks: Joi.object().pattern(id, Joi.number().integer().min(0).max(LIMITS_OF_CONTROLS.banks - 1)),
  values: Joi.object().pattern(id, finite).required(),
  messages: Joi.array()
    .max(LIMITS.sceneMessages)
    .items(Joi.object({ output: id.required(), bytes: wholeMessage.required() }))
    .required(),
  glideMs: milliseconds.required(),
  recalledBy: Joi.object({ signal: id.required(), at: finite }),
});

/** By list of a rig: what one thing of it must be, and how many there may be. */
export const LISTS: Record<RigList, { item: Joi.Schema; most: number }> = {
  inputs: { item: input, most: LIMITS.inputs },
  signals: { item: signal, most: LIMITS.signals },
  derived: { item: derived, most: LIMITS.signals },
  mappings: {
    item: Joi.object<RigMapping>({ id: id.required(), ...mappingFields, ...optionalFields }).fork(Object.keys(mappingFields), (field) => field.required()),
    most: LIMITS.mappings,
  },
  streams: { item: stream, most: LIMITS.streams },
  members: { item: member, most: LIMITS.members },
  voiceMappings: { item: voiceMapping, most: LIMITS.voiceMappings },
  scales: { item: keptScale, most: LIMITS.scales },
  outputs: {
    item: tagged<RigOutput>('kind', Object.fromEntries(Object.entries(OUTPUTS).map(([kind, { fields }]) => [kind, { id: id.required(), name: name.required(), ...schemasOf(fields) }]))),
    most: LIMITS.outputs,
  },
  receivers: { item: receiver, most: LIMITS.outputs },
  surfaces: { item: surface, most: LIMITS.surfaces },
  scenes: { item: scene, most: LIMITS.scenes },
};

const countInBars = Joi.number().integer().min(1).max(4);
const startsBy = Joi.valid('first note');

/** There are more things in a list than it may have. */
const tooMany = (list: RigList, found: number | string) => `A rig has room for ${LISTS[list].most} ${listInWords(list)}, and here are ${found}: take out what is not needed`;

/** A rig but for the things in its lists. Unknown fields are refused. */
const FRAME: Joi.SchemaMap = {
  format: Joi.valid(RIG_FORMAT).required(),
  version: Joi.valid(RIG_VERSION).required(),
  name: name.required(),
  tempoBpm: tempoBpm.required(),
  meter: meter.required(),
  countInBars,
  startsBy,
  ...Object.fromEntries(RIG_LISTS.map((list) => [list, Joi.array().max(LISTS[list].most).required().messages({ 'array.max': tooMany(list, '{{#value.length}}') })])),
};
const frame = Joi.object(FRAME);

/**
 * Brings an older document up to date, then checks shape and references. All problems at once, up to as many as are listed;
 * a document is not looked at further than that, whatever its size.
 */
export function checkRig(candidate: unknown): Checked<RigDocument> {
  const upgraded = upgradeRig(candidate);
  if (!upgraded.ok) return upgraded;
  const vast = tooVast(upgraded.value);
  if (vast) return { ok: false, problems: [vast] };
  const problems = problemsOfShape(upgraded.value, () => true);
  if (problems.length > 0) return { ok: false, problems };
  return withReferences(upgraded.value as RigDocument);
}

/**
 * As `checkRig`, for a document that an edit made of one that is known to be good: only what is not the same object as
 * before, or may refer to what went, is checked, so that an edit of a large rig is heard at once.
 */
export function checkEdited(before: RigDocument, after: RigDocument): Checked<RigDocument> {
  const known = new Map(RIG_LISTS.map((list) => [list, before[list] === after[list] ? null : new Set<object>(before[list])]));
  const problems = problemsOfShape(after, (list, thing) => {
    const same = known.get(list);
    return same !== null && !same!.has(thing as object);
  });
  return problems.length > 0 ? { ok: false, problems } : withReferences(after, before);
}

/** What is wrong with a document, thing by thing, until there is enough of it. `isNew` says what must be looked at. */
function problemsOfShape(document: unknown, isNew: (list: RigList, thing: unknown) => boolean): Problem[] {
  const whole = check(frame, document);
  const ofFrame = whole.ok ? [] : whole.problems;
  // What does not belong there at all is said last.
  const problems = ofFrame.filter(({ field }) => field in FRAME || field === '');
  const foreign = ofFrame.filter((problem) => !problems.includes(problem));
  const lists = document as Record<RigList, unknown>;
  for (const list of RIG_LISTS) {
    const things = lists?.[list];
    if (!Array.isArray(things) || things.length > LISTS[list].most) continue;
    for (const [i, thing] of things.entries()) {
      if (problems.length >= LIMITS.problems) return problems.slice(0, LIMITS.problems);
      if (!isNew(list, thing)) continue;
      const checked = check(LISTS[list].item, thing, `${list}[${i}]`, countNodes(thing, LIMITS.thoroughNodes) > LIMITS.thoroughNodes);
      if (!checked.ok) problems.push(...checked.problems);
    }
  }
  return [...problems, ...foreign].slice(0, LIMITS.problems);
}

function withReferences(rig: RigDocument, before: RigDocument | null = null): Checked<RigDocument> {
  const dangling = checkReferences(rig, before).slice(0, LIMITS.problems);
  if (dangling.length === 0) return { ok: true, value: rig };
  return { ok: false, problems: dangling.map(({ path, message: text }) => ({ code: 'invalid', field: path, message: `${path}: ${text}` })) };
}

/** So many numbers and words are looked through in some hundredths of a second. */
const LIGHT_NODES = 20_000;

/** How long a look at a document would take: not worth a thought, up to a second, or none at all because it is refused for its size. */
export function weightOf(document: unknown): 'light' | 'heavy' | 'vast' {
  if (tooVast(document)) return 'vast';
  return countNodes(document, LIGHT_NODES) > LIGHT_NODES ? 'heavy' : 'light';
}

/** A document so large that looking at it thing by thing would take long: said in one sentence. */
function tooVast(document: unknown): Problem | null {
  if (typeof document !== 'object' || document === null) return null;
  for (const list of RIG_LISTS) {
    const things = (document as Record<string, unknown>)[list];
    if (Array.isArray(things) && things.length > LISTS[list].most) {
      return { code: 'too-large', field: list, message: `${tooMany(list, things.length)}.` };
    }
  }
  if (countNodes(document, LIMITS.rigNodes) <= LIMITS.rigNodes) return null;
  return { code: 'too-large', field: '', message: `This rig holds more than ${LIMITS.rigNodes} numbers and words: take it apart into several.` };
}

/** How many values a document holds, counted no further than just beyond `most`. */
function countNodes(value: unknown, most: number): number {
  const waiting: unknown[] = [value];
  let count = 0;
  while (waiting.length > 0 && count <= most) {
    const next = waiting.pop();
    count++;
    if (typeof next === 'object' && next !== null) {
      for (const part of Object.values(next)) {
        waiting.push(part);
        if (waiting.length + count > most) return most + 1;
      }
    }
  }
  return count;
}

const rigFields = Joi.object({ name, tempoBpm, meter, countInBars: countInBars.allow(null), startsBy: startsBy.allow(null) }).min(1);

/** One edit of a rig, as a page sends it. */
export const editSchema = tagged('kind', {
  setMapping: {
    mapping: id.required(),
    set: Joi.object({ ...mappingFields, ...Object.fromEntries(Object.entries(optionalFields).map(([field, schema]) => [field, schema.allow(null)])) })
      .min(1)
      .required(),
  },
  // What these make of the rig is checked as a whole once they are applied.
  setVoiceMapping: { voiceMapping: id.required(), set: Joi.object({ id: Joi.forbidden() }).unknown().min(1).required() },
  setMember: { member: id.required(), set: Joi.object({ id: Joi.forbidden() }).unknown().min(1).required() },
  setInput: { input: id.required(), set: Joi.object({ id: Joi.forbidden(), kind: Joi.forbidden() }).unknown().min(1).required() },
  setSignal: { signal: id.required(), set: Joi.object({ id: Joi.forbidden() }).unknown().min(1).required() },
  change: {
    changes: Joi.array()
      .items(
        Joi.object({
          list: Joi.valid(...RIG_LISTS).required(),
          id: id.required(),
          to: Joi.object({ id: Joi.valid(Joi.ref('...id')).required() }).unknown().allow(null).required(),
          at: Joi.number().integer().min(0),
        }),
      )
      .min(1)
      .max(LIMITS.changes)
      .required(),
    set: rigFields,
  },
  setRig: { set: rigFields.required() },
});

/** The body of POST /api/rigs/ID/edits. */
export const editRequestSchema = Joi.object({ edit: editSchema.required(), window: Joi.string().max(64), number: Joi.number().integer().min(0), basedOn: Joi.number().integer().min(0) });

export { id };
