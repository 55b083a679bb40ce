import type { Formula, RigControl, RigDocument } from './document';
import { RIG_LISTS, type RigList } from './edit';

/** What of a rig others refer to. `signal` is one of an input or a derived one, `inputSignal` one of an input alone. */
export type LinkKind = 'input' | 'signal' | 'inputSignal' | 'mapping' | 'receiver' | 'output' | 'surface' | 'page' | 'scene';

/**
 * Says under which id a reference goes on, null: nowhere. `at` is its path within the thing that refers, as
 * `message.note.of`; `surface` is the one that a page is of.
 */
export type Follow = (kind: LinkKind, id: string, at: string, surface: string) => string | null;

/** A reference, or something that holds some: gives it with what `follow` said, the same object where that was nothing new. */
type Walk = (value: unknown, follow: Follow, at: string, surface: string) => unknown;

/** Where a reference went and what holds it cannot be without. */
const GONE = Symbol('gone');

const link =
  (kind: LinkKind): Walk =>
  (id, follow, at, surface) =>
    typeof id === 'string' ? (follow(kind, id, at, surface) ?? GONE) : id;

/** What to do without: a field that is left out, one that is null then. Anything else falls with what it refers to. */
interface Field {
  walk: Walk;
  without: 'leave' | 'null';
}
const may = (walk: Walk): Field => ({ walk, without: 'leave' });
const orNull = (kind: LinkKind): Field => ({ walk: link(kind), without: 'null' });

const within = (at: string, field: string) => (at === '' ? field : `${at}.${field}`);

/** The fields of an object that refer; others, and objects that have them not, are left alone. */
const fields = (of: Record<string, Walk | Field>): Walk => {
  const rows = Object.entries(of).map(([name, field]) => ({ name, ...(typeof field === 'function' ? { walk: field, without: 'fall' } : field) }));
  return (value, follow, at, surface) => {
    if (typeof value !== 'object' || value === null) return value;
    let to = value as Record<string, unknown>;
    for (const { name, walk, without } of rows) {
      const before = to[name];
      if (before === undefined) continue;
      const after = walk(before, follow, within(at, name), surface);
      if (after === before) continue;
      if (after === GONE && without === 'fall') return GONE;
      if (to === value) to = { ...to };
      if (after === GONE && without === 'leave') delete to[name];
      else to[name] = after === GONE ? null : after;
    }
    return to;
  };
};

/** A list, or an object by names of no meaning, of things that refer; one that falls goes alone, or takes all along. */
const each = (item: Walk, fall: 'alone' | 'all' = 'alone'): Walk => (value, follow, at, surface) => {
  if (typeof value !== 'object' || value === null) return value;
  const isList = Array.isArray(value);
  let changed = false;
  const to: [string, unknown][] = [];
  for (const [name, before] of Object.entries(value)) {
    const after = item(before, follow, isList ? `${at}[${name}]` : within(at, name), surface);
    if (after === GONE && fall === 'all') return GONE;
    changed ||= after !== before;
    if (after !== GONE) to.push([name, after]);
  }
  if (!changed) return value;
  return isList ? to.map(([, thing]) => thing) : Object.fromEntries(to);
};

/** An object by ids; what is said of one that is gone goes. `value` may refer too, of surfaces to their pages. */
const keys = (kind: LinkKind, value?: Walk): Walk => (record, follow, at, surface) => {
  let changed = false;
  const to: [string, unknown][] = [];
  for (const [id, before] of Object.entries(record as object)) {
    const key = follow(kind, id, at, surface);
    const after = key === null ? GONE : (value?.(before, follow, within(at, id), id) ?? before);
    changed ||= key !== id || after !== before;
    if (after !== GONE) to.push([key!, after]);
  }
  return changed ? Object.fromEntries(to) : record;
};

const one = (kind: LinkKind) => fields({ signal: link(kind) });
const oneOrMore: Walk = (value, ...rest) => (Array.isArray(value) ? each(link('signal'), 'all') : link('signal'))(value, ...rest);

const FORMULA = fields({ of: oneOrMore, from: oneOrMore, to: oneOrMore, gate: link('signal'), rateHz: one('signal'), depth: one('signal') });

const MESSAGE = fields({
  note: fields({ of: link('mapping') }),
  fine: may(one('signal')),
  repeat: may(fields({ rateHz: one('signal') })),
});

const signalsByRole = each(link('signal'), 'all');
const controls: Walk = (value, ...rest) => each(CONTROL)(value, ...rest);
const CONTROL = fields({
  signals: signalsByRole,
  banks: each(signalsByRole),
  shows: orNull('signal'),
  scene: orNull('scene'),
  page: orNull('page'),
  controls,
});

/** Everything in a rig that refers to something in it, by list: the one place that knows. */
const LINKS: Record<RigList, Walk> = {
  inputs: fields({ surface: link('surface'), thru: may(fields({ output: link('output') })) }),
  signals: fields({ input: link('input'), pair: may(link('signal')), returns: may(fields({ released: link('signal') })) }),
  derived: fields({ formula: FORMULA }),
  mappings: fields({ signal: link('signal'), output: link('output'), message: MESSAGE }),
  outputs: fields({ receiver: link('receiver') }),
  receivers: (receiver) => receiver,
  surfaces: (surface, follow, at) => fields({ pages: each(fields({ controls })) })(surface, follow, at, (surface as { id: string }).id),
  scenes: fields({
    mappings: keys('mapping'),
    pages: keys('surface', link('page')),
    banks: keys('surface'),
    values: keys('signal'),
    messages: each(fields({ output: link('output') })),
    recalledBy: may(one('inputSignal')),
  }),
};

export type ThingOf<L extends RigList> = RigDocument[L][number];

/** A thing of a rig with its references followed: the same object where all stay, null where it cannot be without one that went. */
export function relink<L extends RigList>(list: L, thing: ThingOf<L>, follow: Follow): ThingOf<L> | null {
  const to = LINKS[list](thing, follow, '', '');
  return to === GONE ? null : (to as ThingOf<L>);
}

/** As `relink`, of one control of a surface, with what lies in it. */
export function relinkControl(control: RigControl, surface: string, follow: Follow): RigControl | null {
  const to = CONTROL(control, follow, '', surface);
  return to === GONE ? null : (to as RigControl);
}

/** Calls for every reference of a thing. */
export function eachLink<L extends RigList>(list: L, thing: ThingOf<L>, tell: (kind: LinkKind, id: string, at: string, surface: string) => void): void {
  LINKS[list](thing, (kind, id, at, surface) => (tell(kind, id, at, surface), id), '', '');
}

/** What a thing of each list is to those that refer to it. */
const KIND_OF = { inputs: 'input', signals: 'signal', derived: 'signal', mappings: 'mapping', outputs: 'output', receivers: 'receiver', surfaces: 'surface', scenes: 'scene' } as const satisfies Record<RigList, LinkKind>;

/** The name of what a reference means among all of a rig. */
export function linkKey(kind: LinkKind, id: string, surface = ''): string {
  return kind === 'page' ? `page ${surface} ${id}` : `${kind} ${id}`;
}

/** What a thing can be referred to by: a surface by its pages too. */
export function keysOfThing<L extends RigList>(list: L, thing: ThingOf<L>): string[] {
  const keys = [linkKey(KIND_OF[list], thing.id)];
  if (list === 'signals') keys.push(linkKey('inputSignal', thing.id));
  if ('pages' in thing && Array.isArray(thing.pages)) keys.push(...thing.pages.map((page) => linkKey('page', page.id, thing.id)));
  return keys;
}

const keysOfLists = new WeakMap<readonly object[], string[]>();

/** As `keysOfThing`, of a whole list; kept as long as the list is the same. */
function keysOf(list: RigList, things: readonly ThingOf<RigList>[]): string[] {
  const known = keysOfLists.get(things);
  if (known) return known;
  const keys = things.flatMap((thing) => keysOfThing(list, thing));
  keysOfLists.set(things, keys);
  return keys;
}

/** Everything of a rig that can be referred to. */
export function linkKeys(rig: RigDocument): Set<string> {
  const keys = new Set<string>();
  for (const list of RIG_LISTS) for (const key of keysOf(list, rig[list])) keys.add(key);
  return keys;
}

/** Whether all that could be referred to in one document can be in another. */
export function keepsAll(before: RigDocument, after: RigDocument): boolean {
  const changed = RIG_LISTS.filter((list) => before[list] !== after[list]);
  const left = new Set(changed.flatMap((list) => keysOf(list, after[list])));
  return changed.every((list) => keysOf(list, before[list]).every((key) => left.has(key)));
}

/** The signals that a formula reads. */
export function sourcesOf(formula: Formula): string[] {
  const sources: string[] = [];
  FORMULA(formula, (_, id) => (sources.push(id), id), '', '');
  return sources;
}
