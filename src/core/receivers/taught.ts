import { isVoices, whereInWords, type EitherMapping } from '../mapping/either';
import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';

/** Whether the receiver of a mapping has learned it, at the address that it has now. */
export function isTaught(rig: RigDocument, mapping: EitherMapping): boolean {
  return receiverOf(rig, mapping.output)?.[listOf(mapping)]?.[mapping.id] === whereInWords(mapping);
}

/** What a receiver remembers once it has learned a mapping. */
export function taught(rig: RigDocument, mapping: EitherMapping): Change[] {
  const receiver = receiverOf(rig, mapping.output);
  if (!receiver) return [];
  const list = listOf(mapping);
  return [{ list: 'receivers', id: receiver.id, to: { ...receiver, [list]: { ...receiver[list], [mapping.id]: whereInWords(mapping) } } }];
}

const listOf = (mapping: EitherMapping) => (isVoices(mapping) ? 'taughtVoices' : 'taught');

function receiverOf(rig: RigDocument, output: string) {
  const way = rig.outputs.find(({ id }) => id === output);
  return rig.receivers.find(({ id }) => id === way?.receiver);
}
