import type { RigDocument, RigMapping, RigSignal } from './document';
import type { RigMember } from '../ensemble/parts';
import type { RigVoiceMapping } from './voices';

/** The lists of a rig whose things have an id. */
export const RIG_LISTS = ['inputs', 'signals', 'derived', 'mappings', 'streams', 'members', 'voiceMappings', 'scales', 'outputs', 'receivers', 'surfaces', 'scenes'] as const;
export type RigList = (typeof RIG_LISTS)[number];

/** Fields to be set; null takes an optional field away. */
export type Fields<T> = { [K in keyof T]?: T[K] | null };

/** One thing of a list as it shall be: put in the place of the one with this id or `at` a place, or with null taken away. */
export type Change = { [List in RigList]: { list: List; id: string; to: RigDocument[List][number] | null; at?: number } }[RigList];

/** What a rig has besides its lists, to be set. */
type RigFields = Fields<Pick<RigDocument, 'name' | 'tempoBpm' | 'meter' | 'countInBars' | 'startsBy'>>;

/** A small named change of a rig. Plain data, and reversible: applying one gives the edit that takes it back. */
export type RigEdit =
  | { kind: 'setMapping'; mapping: string; set: Fields<Omit<RigMapping, 'id'>> }
  | { kind: 'setVoiceMapping'; voiceMapping: string; set: Fields<Omit<RigVoiceMapping, 'id'>> }
  | { kind: 'setMember'; member: string; set: Fields<Omit<RigMember, 'id'>> }
  | { kind: 'setInput'; input: string; set: Record<string, unknown> }
  | { kind: 'setSignal'; signal: string; set: Fields<Omit<RigSignal, 'id'>> }
  | { kind: 'setRig'; set: RigFields }
  /** With `set` fields of the rig go along, as one step. */
  | { kind: 'change'; changes: Change[]; set?: RigFields };

export type EditResult =
  | { ok: true; document: RigDocument; inverse: RigEdit }
  | { ok: false; field: string; message: string };

/** The document after the edit; the one given is left as it is. */
export function applyEdit(document: RigDocument, edit: RigEdit): EditResult {
  switch (edit.kind) {
    case 'setMapping':
      return setThing(document, 'mappings', 'mapping', edit.mapping, edit.set, (set) => ({ ...edit, set }));
    case 'setVoiceMapping':
      return setThing(document, 'voiceMappings', 'voiceMapping', edit.voiceMapping, edit.set, (set) => ({ ...edit, set }));
    case 'setMember':
      return setThing(document, 'members', 'member', edit.member, edit.set, (set) => ({ ...edit, set }));
    case 'setInput':
      return setThing(document, 'inputs', 'input', edit.input, edit.set, (set) => ({ ...edit, set }));
    case 'setSignal':
      return setThing(document, 'signals', 'signal', edit.signal, edit.set, (set) => ({ ...edit, set }));
    case 'setRig':
      return { ok: true, document: withFields(document, edit.set), inverse: { kind: 'setRig', set: formerFields(document, edit.set) } };
    case 'change':
      return change(document, edit.changes, edit.set);
    default:
      return edit satisfies never;
  }
}

function setThing(document: RigDocument, list: RigList, what: string, id: string, set: object, inverse: (set: Record<string, unknown>) => RigEdit): EditResult {
  const things: { id: string }[] = document[list];
  const index = things.findIndex((thing) => thing.id === id);
  const before = things[index];
  if (!before) return { ok: false, field: `edit.${what}`, message: `There is no ${what} "${id}" in this rig.` };
  return { ok: true, document: { ...document, [list]: things.with(index, withFields(before, set)) }, inverse: inverse(formerFields(before, set)) };
}

function change(document: RigDocument, changes: readonly Change[], set: RigFields = {}): EditResult {
  let after = withFields(document, set);
  const back: Change[] = [];
  for (const [i, { list, id, to, at }] of changes.entries()) {
    const things: { id: string }[] = after[list];
    const index = things.findIndex((thing) => thing.id === id);
    if (to === null && index < 0) return { ok: false, field: `edit.changes[${i}].id`, message: `There is no "${id}" among the ${list} of this rig.` };
    back.unshift({ list, id, to: things[index] ?? null, ...(index >= 0 ? { at: index } : {}) } as Change);
    const next = things.filter((thing) => thing.id !== id);
    if (to) next.splice(at ?? (index >= 0 ? index : next.length), 0, to);
    after = { ...after, [list]: next };
  }
  return { ok: true, document: after, inverse: { kind: 'change', changes: back, ...(Object.keys(set).length > 0 && { set: formerFields(document, set) }) } };
}

/** A thing with other fields; those that are null are taken away. */
function withFields<T extends object>(before: T, set: object): T {
  return Object.fromEntries(Object.entries({ ...before, ...set }).filter(([, value]) => value !== null)) as T;
}

/** What `before` holds under the keys of `set`, null where it holds nothing. */
function formerFields(before: object, set: object): Record<string, unknown> {
  return Object.fromEntries(Object.keys(set).map((key) => [key, (before as Record<string, unknown>)[key] ?? null]));
}
