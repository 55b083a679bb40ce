import type { RigMember } from '../ensemble/parts';
import type { RigDerived, RigDocument, RigSignal } from './document';
import type { RigStream } from './voices';

/** A signal of either kind and where it comes from, in a word; undefined where the rig has none of this id. */
export function findSignal(rig: RigDocument, id: string): { signal: RigSignal | RigDerived; from: string } | undefined {
  const signal = rig.signals.find((candidate) => candidate.id === id);
  if (signal) return { signal, from: rig.inputs.find((input) => input.id === signal.input)?.name ?? signal.input };
  const derived = rig.derived.find((candidate) => candidate.id === id);
  return derived && { signal: derived, from: 'Derived' };
}

/** Something that makes voices: a stream of an input, or a member of the ensemble; and where it comes from, in a word. */
export function findStream(rig: Pick<RigDocument, 'streams' | 'members' | 'inputs'>, id: string): { id: string; name: string; from: string; stream?: RigStream; member?: RigMember } | undefined {
  const stream = rig.streams.find((candidate) => candidate.id === id);
  if (stream) return { id, name: stream.name, from: rig.inputs.find((input) => input.id === stream.input)?.name ?? stream.input, stream };
  const member = rig.members.find((candidate) => candidate.id === id);
  return member && { id, name: member.name, from: 'Ensemble', member };
}

/** The ids of mappings and voice mappings, none of which is like another. */
export const mappingIds = (rig: Pick<RigDocument, 'mappings' | 'voiceMappings'>): Set<string> => new Set([...rig.mappings, ...rig.voiceMappings].map(({ id }) => id));

/** The ids that streams and members have, which they share. */
export const streamIds = (rig: Pick<RigDocument, 'streams' | 'members'>): Set<string> => new Set([...rig.streams, ...rig.members].map(({ id }) => id));
