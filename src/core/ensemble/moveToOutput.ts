import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';
import type { RigVoiceMapping } from '../rig/voices';
import { freeChannel } from '../voices/freshVoiceMapping';
import { voicesThroughOutput } from '../voices/throughOutput';

/** A voice mapping by another output, on a channel that nobody is on there where it has one alone. */
export function moveToOutput(rig: RigDocument, mapping: RigVoiceMapping, output: string): Change {
  const moved = voicesThroughOutput(rig, mapping, output);
  const layout = 'channel' in moved.layout && output !== mapping.output ? { ...moved.layout, channel: freeChannel(rig, output, moved.layout.channel === 10 ? 10 : null) } : moved.layout;
  return { list: 'voiceMappings', id: mapping.id, to: { ...moved, layout } };
}
