import type { RigDocument } from './document';
import { RIG_LISTS, type Change, type RigList } from './edit';
import { eachLink, keysOfThing, linkKey, relink, sourcesOf, type Follow, type LinkKind, type ThingOf } from './links';

/** In this order nothing stands that refers to what is gone already. */
const ORDER = ['surfaces', 'scenes', 'voiceMappings', 'members', 'mappings', 'derived', 'streams', 'signals', 'inputs', 'scales', 'outputs', 'receivers'] as const satisfies readonly RigList[];

/** Something of a rig that goes. */
export interface Going {
  kind: Exclude<LinkKind, 'page'>;
  id: string;
}

/**
 * What to change so that things are gone with all that cannot be without them: mappings and derived signals of a signal,
 * poly pressure of a note, a constant that only served what is gone. Others forget them: scenes, springs, pairs, buttons.
 */
export function remove(rig: RigDocument, going: readonly Going[]): Change[] {
  const gone = new Set(going.map(({ kind, id }) => linkKey(kind, id)));
  const follow: Follow = (kind, id, _, surface) => (gone.has(linkKey(kind, id, surface)) ? null : id);
  const goes = <L extends RigList>(list: L, thing: ThingOf<L>) => gone.has(keysOfThing(list, thing)[0]!);
  // What falls may take more along, until nothing does.
  for (let before = -1; before !== gone.size; ) {
    before = gone.size;
    for (const list of ORDER) {
      for (const thing of rig[list]) if (goes(list, thing) || relink(list, thing, follow) === null) for (const key of keysOfThing(list, thing)) gone.add(key);
    }
    for (const id of idle(rig, gone)) gone.add(linkKey('signal', id));
  }
  return ORDER.flatMap((list) =>
    rig[list].flatMap((thing): Change[] => {
      const to = goes(list, thing) ? null : relink(list, thing, follow);
      return to === thing ? [] : [{ list, id: thing.id, to } as Change];
    }),
  );
}

/** An input with everything that hangs on it; one that is a surface takes the surface along. */
export function removeInput(rig: RigDocument, id: string): Change[] {
  const input = rig.inputs.find((candidate) => candidate.id === id);
  return remove(rig, [{ kind: 'input', id }, ...(input?.kind === 'surface' ? [{ kind: 'surface' as const, id: input.surface }] : [])]);
}

/** Signals, derived or not, with what hangs on them. */
export function removeSignals(rig: RigDocument, ids: readonly string[]): Change[] {
  return remove(rig, ids.map((id) => ({ kind: 'signal', id })));
}

/** Constants and oscillators that served something, all of which is gone. */
function idle(rig: RigDocument, gone: ReadonlySet<string>): string[] {
  const lone = rig.derived.filter(({ id, formula }) => !gone.has(linkKey('signal', id)) && sourcesOf(formula).length === 0);
  if (lone.length === 0) return [];
  const served = new Map<string, boolean[]>(lone.map(({ id }) => [id, []]));
  for (const list of RIG_LISTS) {
    for (const thing of rig[list]) {
      const isGone = gone.has(keysOfThing(list, thing)[0]!);
      eachLink(list, thing, (kind, id) => void (kind === 'signal' && served.get(id)?.push(isGone)));
    }
  }
  return lone.flatMap(({ id }) => (served.get(id)!.length > 0 && served.get(id)!.every(Boolean) ? [id] : []));
}
