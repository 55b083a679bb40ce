import type { RigInput } from '../../../core/inputs/kinds';
import { streamIds } from '../../../core/rig/find';
import { freeId } from '../../../core/rig/naming';
import { remove } from '../../../core/rig/remove';
import type { RigStream } from '../../../core/rig/voices';
import { notesOf, type NotesOf } from '../../../core/voices/midiStreams';
import { Labelled } from '../shared/Field';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { LIMITS } from '../../../protocol/limits';
import { EditButton, EditSelect } from '../shared/edit';
import { useEdit, useRig } from '../shell/useRig';

const KINDS = [
  { value: 'all', label: 'all notes' },
  { value: 'channel', label: 'one channel' },
  { value: 'keys', label: 'a range of keys' },
  { value: 'zone lower', label: 'the lower MPE zone' },
  { value: 'zone upper', label: 'the upper MPE zone' },
] as const;
const FRESH = { all: 'all', channel: 'channel 1', keys: 'keys 0 59', 'zone lower': 'zone lower', 'zone upper': 'zone upper' } as const;

/** The streams of a MIDI input: which of its notes each has. They may overlap. */
export function StreamFields({ input }: { input: RigInput }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const streams = rig.streams.filter((stream) => stream.input === input.id);
  const add = () => {
    const id = freeId(`${input.id}.notes`, streamIds(rig));
    edit({ kind: 'change', changes: [{ list: 'streams', id, to: { id, name: `${input.name}, notes ${streams.length + 1}`.slice(0, LIMITS.nameLength), input: input.id, source: 'all' } }] });
  };
  return (
    <>
      <h3>Streams of notes</h3>
      {streams.map((stream) => (
        <OneStream key={stream.id} stream={stream} />
      ))}
      <EditButton onClick={add}>
        Add a stream
      </EditButton>
    </>
  );
}

function OneStream({ stream }: { stream: RigStream }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const put = (fields: Partial<RigStream>) => edit({ kind: 'change', changes: [{ list: 'streams', id: stream.id, to: { ...stream, ...fields } }] });
  const notes = notesOf(stream.source);
  return (
    <div role="group" aria-label={`Stream ${stream.name}`}>
      <Labelled label="Name">
        <TextField label={`Name of the stream ${stream.name}`} value={stream.name} maxLength={LIMITS.nameLength} parse={(text) => text.trim() || stream.name} onChange={(name) => put({ name })} />
      </Labelled>
      <Labelled label="Takes">
        <EditSelect aria-label={`Notes of ${stream.name}`} value={kindOf(notes)} options={[...KINDS]} onChange={(kind) => put({ source: FRESH[kind] })} />
      </Labelled>
      {notes.of === 'channel' && (
        <Labelled label="Channel">
          <NumberBox label={`Channel of ${stream.name}`} whole value={notes.channel} min={1} max={16} onChange={(channel) => put({ source: `channel ${channel}` })} />
        </Labelled>
      )}
      {notes.of === 'keys' && (
        <>
          <Labelled label="From key">
            <NumberBox label={`Lowest key of ${stream.name}`} whole value={notes.low} min={0} max={notes.high} onChange={(low) => put({ source: `keys ${low} ${notes.high}` })} />
          </Labelled>
          <Labelled label="To key">
            <NumberBox label={`Highest key of ${stream.name}`} whole value={notes.high} min={notes.low} max={127} onChange={(high) => put({ source: `keys ${notes.low} ${high}` })} />
          </Labelled>
        </>
      )}
      <EditButton type="text" danger onClick={() => edit({ kind: 'change', changes: remove(rig, [{ kind: 'stream', id: stream.id }]) })}>
        Remove {stream.name}
      </EditButton>
    </div>
  );
}

const kindOf = (notes: NotesOf): (typeof KINDS)[number]['value'] => (notes.of === 'zone' ? `zone ${notes.zone}` : notes.of);
