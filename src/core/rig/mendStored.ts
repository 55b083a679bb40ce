import { decode } from '../midi/decode';
import type { RigDocument } from './document';
import { linkKey, linkKeys, relink } from './links';
import { defaultOn } from './references';

/**
 * A stored rig as the rules of today allow it: what an earlier Pumice accepted and this one refuses is put right, so that the
 * rig can still be edited. The same object where nothing is wrong.
 */
export function mendStored(rig: RigDocument): RigDocument {
  const mappings = rig.mappings.map((mapping) => {
    const { gate } = mapping;
    if (gate?.off === undefined || gate.on !== undefined || gate.off <= defaultOn(rig, mapping.signal)) return mapping;
    return { ...mapping, gate: { ...gate, off: defaultOn(rig, mapping.signal) } };
  });
  const there = linkKeys(rig);
  const scenes = rig.scenes.map((stored) => {
    const scene = relink('scenes', stored, (kind, id, _, surface) => (there.has(linkKey(kind, id, surface)) ? id : null))!;
    const messages = scene.messages.filter(({ bytes }) => decode(Uint8Array.from(bytes)) !== null);
    return messages.length === scene.messages.length ? scene : { ...scene, messages };
  });
  const isMended = mappings.some((mapping, i) => mapping !== rig.mappings[i]) || scenes.some((scene, i) => scene !== rig.scenes[i]);
  return isMended ? { ...rig, mappings, scenes } : rig;
}
