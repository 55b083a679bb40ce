import { countOn } from '../ledger/countOn';
import type { RigDocument, RigMapping } from './document';
import type { Change } from './edit';
import { freeChannel } from '../voices/freshVoiceMapping';
import { mappingIds } from './find';
import { freeId, freeName } from './naming';
import type { RigVoiceMapping } from './voices';

/** A copy of a voice mapping right after it, on a channel that no notes go to where it has one alone. Null where there is none. */
export function duplicateVoiceMapping(rig: RigDocument, id: string): { change: Change; id: string } | null {
  const index = rig.voiceMappings.findIndex((mapping) => mapping.id === id);
  const original = rig.voiceMappings[index];
  if (!original) return null;
  const { layout, output } = original;
  const copyId = freeId(original.id, mappingIds(rig));
  const name = freeName(original.name, rig.voiceMappings.map((mapping) => mapping.name));
  const to: RigVoiceMapping = { ...original, id: copyId, name, layout: 'channel' in layout ? { ...layout, channel: freeChannel(rig, output) } : layout };
  return { change: { list: 'voiceMappings', id: copyId, to, at: index + 1 }, id: copyId };
}

/** A copy of a mapping right after it, with its number counting on to the next that nothing uses. Null where there is none. */
export function duplicateMapping(rig: RigDocument, id: string): { change: Change; id: string } | null {
  const index = rig.mappings.findIndex((mapping) => mapping.id === id);
  const original = rig.mappings[index];
  if (!original) return null;
  const copyId = freeId(original.id, mappingIds(rig));
  const name = freeName(original.name, rig.mappings.map((mapping) => mapping.name));
  const to: RigMapping = { ...original, id: copyId, name, message: countOn(rig, original) ?? original.message };
  return { change: { list: 'mappings', id: copyId, to, at: index + 1 }, id: copyId };
}
