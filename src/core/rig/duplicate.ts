import { countOn } from '../ledger/countOn';
import type { RigDocument, RigMapping } from './document';
import type { Change } from './edit';
import { freeId, freeName } from './naming';

/** A copy of a mapping right after it, with its number counting on to the next that nothing uses. Null where there is none. */
export function duplicateMapping(rig: RigDocument, id: string): { change: Change; id: string } | null {
  const index = rig.mappings.findIndex((mapping) => mapping.id === id);
  const original = rig.mappings[index];
  if (!original) return null;
  const copyId = freeId(original.id, new Set(rig.mappings.map((mapping) => mapping.id)));
  const name = freeName(original.name, rig.mappings.map((mapping) => mapping.name));
  const to: RigMapping = { ...original, id: copyId, name, message: countOn(rig, original) ?? original.message };
  return { change: { list: 'mappings', id: copyId, to, at: index + 1 }, id: copyId };
}

/** Takes a mapping away, out of the scenes that name it too. Poly pressure that follows its notes goes with it. */
export function removeMapping(rig: RigDocument, id: string): Change[] {
  const gone = new Set([id]);
  for (const { id: other, message } of rig.mappings) if (message.kind === 'polyPressure' && typeof message.note === 'object' && message.note.of === id) gone.add(other);
  const scenes = rig.scenes.flatMap((scene): Change[] => {
    const kept = Object.entries(scene.mappings).filter(([mapping]) => !gone.has(mapping));
    return kept.length === Object.keys(scene.mappings).length ? [] : [{ list: 'scenes', id: scene.id, to: { ...scene, mappings: Object.fromEntries(kept) } }];
  });
  return [...scenes, ...[...gone].map((mapping): Change => ({ list: 'mappings', id: mapping, to: null }))];
}
