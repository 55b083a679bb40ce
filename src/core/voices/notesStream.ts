import type { MidiInput } from '../inputs/kinds/midi';
import type { RigDocument } from '../rig/document';
import type { Change } from '../rig/edit';
import { freeId } from '../rig/naming';

/** The stream that every MIDI input has: all of its notes. Nothing where it has one. */
export function notesStream(rig: RigDocument, input: MidiInput): Change[] {
  if (rig.streams.some((stream) => stream.input === input.id)) return [];
  const id = freeId(`${input.id}.notes`, new Set(rig.streams.map((stream) => stream.id)));
  return [{ list: 'streams', id, to: { id, name: `${input.name}, notes`, input: input.id, source: 'all' } }];
}
