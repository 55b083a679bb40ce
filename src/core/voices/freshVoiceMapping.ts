import { claimsOf } from '../ledger/claims';
import { freeId } from '../rig/naming';
import type { RigDocument } from '../rig/document';
import type { RigVoiceMapping } from '../rig/voices';
import type { Change } from '../rig/edit';
import type { VoiceLayout } from './layout';

/** Sounding at once on one channel where the receiver does not say how many it has. */
const VOICES = 16;
const CHANNELS = 16;
const SLIDE_CONTROLLER = 74;

/**
 * A voice mapping for a stream: to the zone or run of its receiver with bend, pressure and slide as MPE says them; else to a
 * channel that no notes go to, as plain notes where the stream has keys and with bends where it glides.
 */
export function freshVoiceMapping(rig: RigDocument, stream: { id: string; name: string }, output: string, glides: boolean): { change: Change; id: string } {
  const receiver = rig.receivers.find(({ id }) => id === rig.outputs.find((candidate) => candidate.id === output)?.receiver);
  const id = freeId(`${stream.id}.notes`, new Set([...rig.voiceMappings, ...rig.mappings].map((mapping) => mapping.id)));
  const layout: VoiceLayout = receiver?.layout ? { ...receiver.layout, steal: 'oldest' } : { kind: 'poly', channel: freeChannel(rig, output, receiver?.channels), voices: receiver?.voices === undefined ? VOICES : Math.min(receiver.voices, VOICES), steal: 'oldest' };
  const lacks = (what: 'bend' | 'pressure' | 'controllers') => receiver?.lacks?.includes(what) === true;
  const expressive = receiver?.layout !== undefined || glides;
  const to: RigVoiceMapping = {
    id,
    name: stream.name,
    on: true,
    stream: stream.id,
    output,
    layout,
    pitch: { transpose: 0, bends: expressive && !lacks('bend') },
    strike: { shaping: {}, range: [0, 127] },
    release: { shaping: {}, range: [0, 127] },
    ...(expressive && !lacks('pressure') ? { pressure: { shaping: {}, message: { kind: 'channelPressure' }, range: [0, 127] } } : {}),
    ...(expressive && receiver?.layout && !lacks('controllers') ? { slide: { shaping: {}, message: { kind: 'controlChange', controller: SLIDE_CONTROLLER }, range: [0, 127] } } : {}),
  };
  return { change: { list: 'voiceMappings', id, to }, id };
}

/** The first channel of an output, of those that are listened to, that no notes go to and no zone has; else the first. */
export function freeChannel(rig: RigDocument, output: string, listened: readonly number[] = Array.from({ length: CHANNELS }, (_, i) => i + 1)): number {
  const used = new Set(claimsOf(rig).flatMap((claim) => ((claim.kind === 'note' || claim.kind === 'zone') && claim.output === output ? [claim.channel] : [])));
  return listened.find((channel) => !used.has(channel)) ?? listened[0] ?? 1;
}
