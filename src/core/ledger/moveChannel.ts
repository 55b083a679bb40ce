import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';

export interface ChannelMove {
  output: string;
  from: number;
  to: number;
}

/** The mappings of one channel of an output, each with another channel: a whole block of numbers moves at once. */
export function moveChannel(rig: RigDocument, { output, from, to }: ChannelMove): Change[] {
  return rig.mappings.flatMap((mapping): Change[] => {
    const { message } = mapping;
    if (mapping.output !== output || !('channel' in message) || message.channel !== from) return [];
    return [{ list: 'mappings', id: mapping.id, to: { ...mapping, message: { ...message, channel: to } } }];
  });
}
