import { claimsOf } from '../ledger/claims';
import { listenedChannels, openChannels } from '../ledger/ledger';
import { mappingIds } from '../rig/find';
import { freeId } from '../rig/naming';
import type { RigDocument } from '../rig/document';
import { takes } from '../rig/outputs';
import type { RigVoiceMapping, VoiceAxis } from '../rig/voices';
import type { Change } from '../rig/edit';
import type { VoiceLayout } from './layout';

/** Sounding at once on one channel where the receiver does not say how many it has. */
const VOICES = 16;
const SLIDE_CONTROLLER = 74;
/** The channel of drums (General MIDI 1). */
const DRUMS = 10;

/**
 * A voice mapping for a stream: to the zone or run of its receiver with bend, pressure and slide as MPE says them; else to a
 * channel that no notes go to, as plain notes where the stream has keys and with bends where it glides. By OSC everything is said.
 */
export function freshVoiceMapping(rig: RigDocument, stream: { id: string; name: string; source?: string; drums?: boolean }, output: string, glides: boolean): { change: Change; id: string } {
  const receiver = rig.receivers.find(({ id }) => id === rig.outputs.find((candidate) => candidate.id === output)?.receiver);
  const id = freeId(`${stream.id}.notes`, mappingIds(rig));
  const osc = rig.outputs.some((candidate) => candidate.id === output && takes(candidate) === 'osc');
  const layout: VoiceLayout = osc ? { kind: 'osc', address: `/${stream.id.replaceAll('.', '/')}`, voices: VOICES, steal: 'oldest' } : receiver?.layout ? { ...receiver.layout, steal: 'oldest' } : { kind: 'poly', channel: freeChannel(rig, output, stream.drums || stream.source === 'mouth' ? DRUMS : null), voices: receiver?.voices === undefined ? VOICES : Math.min(receiver.voices, VOICES), steal: 'oldest' };
  const lacks = (what: 'bend' | 'pressure' | 'controllers') => receiver?.lacks?.includes(what) === true;
  const expressive = osc || receiver?.layout !== undefined || glides;
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
    ...(osc ? { pressure: oscAxis('pressure'), slide: oscAxis('slide') } : {}),
    ...(!osc && expressive && !lacks('pressure') ? { pressure: { shaping: {}, message: { kind: 'channelPressure' }, range: [0, 127] } } : {}),
    ...(!osc && expressive && receiver?.layout && !lacks('controllers') ? { slide: { shaping: {}, message: { kind: 'controlChange', controller: SLIDE_CONTROLLER }, range: [0, 127] } } : {}),
  };
  return { change: { list: 'voiceMappings', id, to }, id };
}

const oscAxis = (part: string): VoiceAxis => ({ shaping: {}, message: { kind: 'osc', part }, range: [0, 1] });

/** The first channel of an output, of those that are listened to, that no notes go to and no zone has; else the first. */
export function freeChannel(rig: RigDocument, output: string, wished: number | null = null): number {
  // What drums goes where drums are wont to be, whoever else is there.
  if (wished !== null && listenedChannels(rig, output).includes(wished)) return wished;
  const claims = claimsOf(rig);
  const used = new Set(claims.flatMap((claim) => (claim.kind === 'note' && claim.output === output ? [claim.channel] : [])));
  const open = openChannels(rig, output, claims);
  return open.find((channel) => !used.has(channel)) ?? open[0] ?? 1;
}
