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
