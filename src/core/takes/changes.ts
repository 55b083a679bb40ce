import { heardBy } from '../ensemble/order';
import type { RigDocument } from '../rig/document';

/** Something that sends, as it is in one rig and in another. */
export interface MapperChange {
  id: string;
  name: string;
  change: 'changed' | 'new' | 'gone';
}

const LISTS = ['mappings', 'voiceMappings', 'members'] as const;

/** The mappings, voice mappings and members of the ensemble that are not the same in another rig. */
export function mapperChanges(before: RigDocument, after: RigDocument): MapperChange[] {
  return LISTS.flatMap((list) => {
    const was = new Map(before[list].map((mapper) => [mapper.id, mapper]));
    const is = new Map(after[list].map((mapper) => [mapper.id, mapper]));
    const changed = after[list].flatMap(({ id, name }): MapperChange[] => (!was.has(id) ? [{ id, name, change: 'new' }] : JSON.stringify(was.get(id)) === JSON.stringify(is.get(id)) ? [] : [{ id, name, change: 'changed' }]));
    return [...changed, ...before[list].flatMap(({ id, name }): MapperChange[] => (is.has(id) ? [] : [{ id, name, change: 'gone' }]))];
  });
}

/** The rig before with these mappings as they are in another; what they refer to and is not there yet comes with them. */
export function withMappers(before: RigDocument, after: RigDocument, ids: readonly string[]): RigDocument {
  const chosen = new Set(ids);
  const merge = <T extends { id: string }>(was: readonly T[], is: readonly T[]): T[] => {
    const later = new Map(is.map((thing) => [thing.id, thing]));
    const kept = was.flatMap((thing) => (chosen.has(thing.id) ? (later.get(thing.id) ?? []) : thing));
    return [...kept, ...is.filter(({ id }) => chosen.has(id) && !was.some((thing) => thing.id === id))];
  };
  const also = <T extends { id: string }>(was: readonly T[], is: readonly T[]): T[] => [...was, ...is.filter(({ id }) => !was.some((thing) => thing.id === id))];
  return {
    ...before,
    mappings: merge(before.mappings, after.mappings),
    voiceMappings: merge(before.voiceMappings, after.voiceMappings),
    members: [...merge(before.members, after.members), ...neededBy(chosen, before, after)],
    inputs: also(before.inputs, after.inputs),
    signals: also(before.signals, after.signals),
    derived: also(before.derived, after.derived),
    streams: also(before.streams, after.streams),
    scales: also(before.scales, after.scales),
    outputs: also(before.outputs, after.outputs),
    receivers: also(before.receivers, after.receivers),
    surfaces: also(before.surfaces, after.surfaces),
  };
}

/** Members that something chosen plays or listens to, and that were not there yet; they come with what they listen to. */
function neededBy(chosen: ReadonlySet<string>, before: RigDocument, after: RigDocument): RigDocument['members'] {
  const wanted = new Set([...after.voiceMappings.flatMap(({ id, stream }) => (chosen.has(id) ? [stream] : [])), ...after.members.flatMap((member) => (chosen.has(member.id) ? heardBy(member) : []))]);
  for (let size = -1; size !== wanted.size; ) {
    size = wanted.size;
    for (const member of after.members) if (wanted.has(member.id)) for (const id of heardBy(member)) wanted.add(id);
  }
  return after.members.filter(({ id }) => wanted.has(id) && !chosen.has(id) && !before.members.some((known) => known.id === id));
}
