import { throughOutput, withMessage } from '../ledger/throughOutput';
import { kindOf } from '../messages';
import { decode } from '../midi/decode';
import type { RigInput } from '../inputs/kinds';
import type { RigDocument, RigMapping, RigScene } from './document';
import type { RigOutput } from '../outputs/kinds';
import { linkKey, linkKeys, relink } from './links';
import { takes } from './outputs';
import { defaultOn } from './references';

/**
 * A stored rig as the rules of today allow it: what an earlier Pumice accepted and this one refuses is put right, so that the
 * rig can still be edited. The same object where nothing is wrong.
 */
export function mendStored(rig: RigDocument): RigDocument {
  const there = linkKeys(rig);
  const bodies = new Map(rig.outputs.map((output) => [output.id, takes(output)]));
  const mended: RigDocument = {
    ...rig,
    inputs: rig.inputs.map((input): RigInput => {
      if (input.kind !== 'midi' || !input.thru || bodies.get(input.thru.output) !== 'osc') return input;
      const without = { ...input };
      delete without.thru;
      return without;
    }),
    outputs: rig.outputs.map((output): RigOutput => {
      if (takes(output) === 'midi' || !output.sendsClock) return output;
      const without = { ...output };
      delete without.sendsClock;
      return without;
    }),
    mappings: rig.mappings.map((mapping) => sendable(rig, ended(rig, mapping), bodies)),
    scenes: rig.scenes.map((stored): RigScene => {
      const scene = relink('scenes', stored, (kind, id, _, surface) => (there.has(linkKey(kind, id, surface)) ? id : null))!;
      const messages = scene.messages.filter(({ bytes, output }) => decode(Uint8Array.from(bytes)) !== null && bodies.get(output) !== 'osc');
      return messages.length === scene.messages.length ? scene : { ...scene, messages };
    }),
  };
  const isMended = (['inputs', 'outputs', 'mappings', 'scenes'] as const).some((list) => mended[list].some((thing, i) => thing !== rig[list][i]));
  return isMended ? mended : rig;
}

/** A gate does not go off above where it goes on. */
function ended(rig: RigDocument, mapping: RigMapping): RigMapping {
  const { gate } = mapping;
  if (gate?.off === undefined || gate.on !== undefined || gate.off <= defaultOn(rig, mapping.signal)) return mapping;
  return { ...mapping, gate: { ...gate, off: defaultOn(rig, mapping.signal) } };
}

/** What its output could not take never left: it goes by one that can, and stays silent until somebody switches it on. */
function sendable(rig: RigDocument, mapping: RigMapping, bodies: ReadonlyMap<string, 'midi' | 'osc'>): RigMapping {
  if (bodies.get(mapping.output) === kindOf(mapping.message).body) return mapping;
  const moved = withMessage(rig, mapping, mapping.message);
  return { ...mapping, ...(moved.output === mapping.output ? throughOutput(rig, mapping, mapping.output) : moved), on: false };
}
