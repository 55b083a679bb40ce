import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';

export interface ChannelMove {
  output: string;
  from: number;
  to: number;
}

/** The mappings of one channel of an output, and voices that all go to it, each with another channel: a whole block moves at once. Zones and runs stay: they are more than a channel. */
export function moveChannel(rig: RigDocument, { output, from, to }: ChannelMove): Change[] {
  const mappings = rig.mappings.flatMap((mapping): Change[] => {
    const { message } = mapping;
    if (mapping.output !== output || !('channel' in message) || message.channel !== from) return [];
    return [{ list: 'mappings', id: mapping.id, to: { ...mapping, message: { ...message, channel: to } } }];
  });
  const voices = rig.voiceMappings.flatMap((mapping): Change[] => {
    const { layout } = mapping;
    if (mapping.output !== output || !('channel' in layout) || layout.channel !== from) return [];
    return [{ list: 'voiceMappings', id: mapping.id, to: { ...mapping, layout: { ...layout, channel: to } } }];
  });
  return [...mappings, ...voices];
}
