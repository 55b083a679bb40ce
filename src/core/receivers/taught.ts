import { addressInWords } from '../messages';
import type { RigDocument, RigMapping } from '../rig/document';
import type { Change } from '../rig/edit';

/** Whether the receiver of a mapping has learned it, at the address that it has now. */
export function isTaught(rig: RigDocument, { id, output, message }: RigMapping): boolean {
  return receiverOf(rig, output)?.taught?.[id] === addressInWords(message);
}

/** What a receiver remembers once it has learned a mapping. */
export function taught(rig: RigDocument, { id, output, message }: RigMapping): Change[] {
  const receiver = receiverOf(rig, output);
  if (!receiver) return [];
  return [{ list: 'receivers', id: receiver.id, to: { ...receiver, taught: { ...receiver.taught, [id]: addressInWords(message) } } }];
}

function receiverOf(rig: RigDocument, output: string) {
  const way = rig.outputs.find(({ id }) => id === output);
  return rig.receivers.find(({ id }) => id === way?.receiver);
}
