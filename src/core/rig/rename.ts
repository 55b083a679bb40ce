import type { RigList } from './edit';
import { relink, type LinkKind, type ThingOf } from './links';

/** New ids by list and old id; what is not in it keeps its id. Signals and derived signals share their ids, and so do streams and members. */
export type Renaming = Readonly<Record<Exclude<RigList, 'derived' | 'members'>, ReadonlyMap<string, string>>>;

const LIST_OF: Record<Exclude<LinkKind, 'page'>, keyof Renaming> = {
  input: 'inputs',
  signal: 'signals',
  mapping: 'mappings', stream: 'streams', member: 'streams', voiceMapping: 'voiceMappings', scale: 'scales',
  receiver: 'receivers',
  output: 'outputs',
  surface: 'surfaces',
  scene: 'scenes',
};

/** A thing under its new id, with what it refers to under theirs. */
export function rename<L extends RigList>(list: L, thing: ThingOf<L>, names: Renaming): ThingOf<L> {
  const renamed = relink(list, thing, (kind, id) => (kind === 'page' ? id : (names[LIST_OF[kind]].get(id) ?? id)))!;
  const named = list === 'derived' ? 'signals' : list === 'members' ? 'streams' : (list as keyof Renaming);
  return { ...renamed, id: names[named].get(thing.id) ?? thing.id };
}
