import { INPUTS } from '../inputs/kinds';
import { MEMBERS } from '../ensemble/kinds';
import { MESSAGES } from '../messages';
import type { Fields } from '../messages/shapes';
import { OUTPUTS } from '../outputs/kinds';
import { FORMULAS, type Formula } from '../signal/formulas';
import type { RigControl, RigDocument } from './document';
import { RIG_LISTS, type RigList } from './edit';
import { each, fields, fieldsOf, GONE, keys, link, may, orNull, type Follow, type LinkWalk } from './linkWalk';
import type { LinkKind } from './linkKind';

export type { LinkKind } from './linkKind';
export type { Follow } from './linkWalk';

const one = (kind: LinkKind) => fields({ signal: link(kind) });
/** One walk for things whose fields depend on the word in one of them. */
const byWord = (word: string, kinds: Readonly<Record<string, { fields: Fields }>>): LinkWalk => {
  const walks = new Map(Object.entries(kinds).map(([kind, { fields: shapes }]) => [kind, fieldsOf(shapes)]));
  return (value, ...rest) => walks.get((value as Record<string, string>)[word]!)!(value, ...rest);
};

const FORMULA = byWord('op', FORMULAS);
const MESSAGE = byWord('kind', MESSAGES);

const signalsByRole = each(link('signal'), 'all');
const controls: LinkWalk = (value, ...rest) => each(CONTROL)(value, ...rest);
const CONTROL = fields({
  signals: signalsByRole,
  banks: each(signalsByRole),
  shows: orNull('signal'),
  scene: orNull('scene'),
  page: orNull('page'),
  stream: link('stream'),
  controls,
});

/** Everything in a rig that refers to something in it, by list: the one place that knows. */
const LINKS: Record<RigList, LinkWalk> = {
  inputs: byWord('kind', INPUTS),
  signals: fields({ input: link('input'), pair: may(link('signal')), returns: may(fields({ released: link('signal') })) }),
  derived: fields({ formula: FORMULA }),
  mappings: fields({ signal: link('signal'), output: link('output'), message: MESSAGE, shownOn: may(fields({ output: link('output') })) }),
  streams: fields({ input: link('input') }),
  members: fields({ part: byWord('kind', MEMBERS) }),
  voiceMappings: fields({ stream: link('stream'), output: link('output'), pitch: fields({ pull: may(fields({ scale: fields({ scale: link('scale') }) })) }) }),
  scales: fields({}),
  outputs: byWord('kind', OUTPUTS),
  receivers: fields({ taught: keys('mapping'), taughtVoices: keys('voiceMapping') }),
  surfaces: (surface, follow, at) => fields({ pages: each(fields({ controls })) })(surface, follow, at, (surface as { id: string }).id),
  scenes: fields({
    mappings: keys('mapping'),
    voiceMappings: keys('voiceMapping'),
    members: keys('member'),
    alone: keys('receiver'),
    pages: keys('surface', link('page')),
    banks: keys('surface'),
    values: keys('signal'),
    messages: each(fields({ output: link('output') })),
    recalledBy: may(one('signal')),
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
const KIND_OF = { inputs: 'input', signals: 'signal', derived: 'signal', mappings: 'mapping', streams: 'stream', members: 'stream', voiceMappings: 'voiceMapping', scales: 'scale', outputs: 'output', receivers: 'receiver', surfaces: 'surface', scenes: 'scene' } as const satisfies Record<RigList, LinkKind>;

/** The name of what a reference means among all of a rig. */
export function linkKey(kind: LinkKind, id: string, surface = ''): string {
  return kind === 'page' ? `page ${surface} ${id}` : `${kind} ${id}`;
}

/** What a thing can be referred to by: a surface by its pages too. */
export function keysOfThing<L extends RigList>(list: L, thing: ThingOf<L>): string[] {
  const keys = [linkKey(KIND_OF[list], thing.id)];
  // A member is a stream to all that listen to it.
  if (list === 'members') keys.push(linkKey('member', thing.id));
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
