import type { RigDocument } from '../rig/document';
import type { RigStream } from '../rig/voices';
import { notesInWords } from './midiStreams';

/** What the voices of a stream are. */
export function streamInWords(rig: RigDocument, { input, source }: RigStream): string {
  switch (rig.inputs.find(({ id }) => id === input)?.kind) {
    case 'microphone':
      return source === 'mouth' ? 'each mouth sound that was taught has a note' : 'each note that is sung is a voice';
    case 'midi':
      return notesInWords(source);
    default:
      return 'each finger is a voice';
  }
}
