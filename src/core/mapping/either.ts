import { addressInWords } from '../messages';
import type { RigDocument, RigMapping } from '../rig/document';
import type { RigVoiceMapping } from '../rig/voices';
import { layoutInShort } from '../voices/layoutWords';

/** What makes something leave: of a signal, or of a stream of voices. Their ids are unlike. */
export type EitherMapping = RigMapping | RigVoiceMapping;

export const isVoices = (mapping: EitherMapping): mapping is RigVoiceMapping => 'layout' in mapping;

export function findEither(rig: RigDocument, id: string): EitherMapping | undefined {
  return rig.mappings.find((mapping) => mapping.id === id) ?? rig.voiceMappings.find((mapping) => mapping.id === id);
}

/** Where it goes on its output. */
export function whereInWords(mapping: EitherMapping): string {
  return isVoices(mapping) ? layoutInShort(mapping.layout) : addressInWords(mapping.message);
}
