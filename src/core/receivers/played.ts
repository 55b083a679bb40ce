import { listenedChannels } from '../ledger/ledger';
import type { EitherMapping } from '../mapping/either';
import { channelOf } from '../messages';
import type { RigOutput } from '../outputs/kinds';
import type { RigDocument } from '../rig/document';
import { bodyOf, placesOf } from '../voices/layout';
import { layoutChannels, voiceChannels } from './layout';

const layoutOf = (rig: RigDocument, { receiver }: RigOutput) => rig.receivers.find(({ id }) => id === receiver)?.layout;

/**
 * The channels on which a rig plays an output, rising: those of the layout of its receiver, else those of mappings and voices that are
 * listened to there; where nothing leaves the first that is.
 */
export function playedChannels(rig: RigDocument, output: RigOutput): number[] {
  const layout = layoutOf(rig, output);
  if (layout) return layoutChannels(layout);
  const listened = listenedChannels(rig, output.id);
  const leavesHere = (mapping: EitherMapping) => mapping.output === output.id;
  const said = rig.mappings.filter(leavesHere).map(({ message }) => channelOf(message));
  const voices = rig.voiceMappings.filter(leavesHere).flatMap((mapping) => (bodyOf(mapping.layout) === 'midi' ? placesOf(mapping.layout) : []));
  const used = listened.filter((channel) => said.includes(channel) || voices.includes(channel));
  return used.length > 0 ? [...used].sort((a, b) => a - b) : listened.slice(0, 1);
}

/** The channel on which a note is heard at an output, if any is. */
export function notesChannel(rig: RigDocument, output: RigOutput): number {
  const layout = layoutOf(rig, output);
  return (layout ? voiceChannels(layout) : playedChannels(rig, output))[0] ?? 1;
}
