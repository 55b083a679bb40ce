import { inputKind, type RigInput } from '../inputs/kinds';
import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';
import { streamIds } from '../rig/find';
import { freeId } from '../rig/naming';

/** The streams that an input of its kind has: all the notes of a MIDI device, what is sung into a microphone. Nothing where it has some. */
export function streamsOfInput(rig: RigDocument, input: RigInput): Change[] {
  if (rig.streams.some((stream) => stream.input === input.id)) return [];
  const ids = streamIds(rig);
  return (inputKind(input.kind).streams ?? []).map(({ source, name }): Change => {
    const id = freeId(`${input.id}.${name.replaceAll(' ', '-')}`, ids);
    return { list: 'streams', id, to: { id, name: `${input.name}, ${name}`, input: input.id, source } };
  });
}
