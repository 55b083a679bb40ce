import type { RigDocument } from '../rig/document';
import { memberKind } from '../ensemble/kinds';
import { findSignal, findStream } from '../rig/find';
import { notesInWords } from './midiStreams';

/** What the voices of a stream or a member are. */
export function streamInWords(rig: RigDocument, id: string): string {
  const { stream, member } = findStream(rig, id) ?? {};
  if (member) return memberKind(member.part).words(member.part, (of) => findStream(rig, of)?.name ?? findSignal(rig, of)?.signal.name ?? of);
  const { input, source } = stream ?? {};
  switch (rig.inputs.find(({ id }) => id === input)?.kind) {
    case 'microphone':
      return source === 'mouth' ? 'each mouth sound that was taught has a note' : 'each note that is sung is a voice';
    case 'midi':
      return notesInWords(source);
    default:
      return 'each finger is a voice';
  }
}
