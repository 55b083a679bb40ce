import type { RigOutput } from '../../../core/outputs/kinds';
import { UNDERSTANDING_WORDS, UNDERSTANDINGS } from '../../../core/receivers/mismatch';
import type { RigReceiver } from '../../../core/rig/document';
import type { Change } from '../../../core/rig/edit';
import { freeId, freeName } from '../../../core/rig/naming';
import { LIMITS } from '../../../protocol/limits';
import { Labelled } from '../shared/Field';
import { EditSelect, EditSwitch } from '../shared/edit';
import { NumberBox } from '../shared/NumberBox';
import { TextField } from '../shared/TextField';
import { useEdit, useRig } from '../shell/useRig';
import { nameFrom } from '../shared/fromText';
import { CHANNELS } from './fields';
import { LayoutFields } from './LayoutFields';
import { hardWiredFrom, notesFrom, programFrom, programText } from './receiverText';
import { SetUp } from './SetUp';
import { SoundOf } from './SoundOf';
import shared from '../shared/shared.module.css';

const NEW = ' new';

/** What is played there. */
export function ReceiverFields({ output }: { output: RigOutput }) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const receiver = rig.receivers.find(({ id }) => id === output.receiver)!;
  /** Fields to be set; undefined leaves one out. */
  const put = (fields: Partial<Record<keyof RigReceiver, unknown>>) => {
    const to = Object.fromEntries(Object.entries({ ...receiver, ...fields }).filter(([, value]) => value !== undefined)) as unknown as RigReceiver;
    edit({ kind: 'change', changes: [{ list: 'receivers', id: receiver.id, to }] });
  };
  const choose = (id: string) => {
    const changes: Change[] = [];
    if (id === NEW) {
      const name = freeName(output.name, rig.receivers.map((known) => known.name));
      id = freeId(name, new Set(rig.receivers.map((known) => known.id)));
      changes.push({ list: 'receivers', id, to: { id, name, about: '', bendRangeSemitones: receiver.bendRangeSemitones } });
    }
    changes.push({ list: 'outputs', id: output.id, to: { ...output, receiver: id } });
    if (!rig.outputs.some((other) => other.id !== output.id && other.receiver === receiver.id)) changes.push({ list: 'receivers', id: receiver.id, to: null });
    edit({ kind: 'change', changes });
  };
  return (
    <>
      <h3>Receiver</h3>
      <Labelled label="Plays">
        <EditSelect aria-label="Receiver" value={receiver.id} options={[...rig.receivers.map(({ id, name }) => ({ value: id, label: name })), { value: NEW, label: 'a new receiver' }]} onChange={choose} />
      </Labelled>
      <Labelled label="Its name">
        <TextField label="Name of the receiver" value={receiver.name} maxLength={LIMITS.nameLength} parse={nameFrom} onChange={(name) => put({ name })} />
      </Labelled>
      <Labelled label="What it is">
        <TextField label="What the receiver is" lines={{ minRows: 1, maxRows: 4 }} maxLength={400} value={receiver.about} parse={(text) => text} onChange={(about) => put({ about })} />
      </Labelled>
      <Labelled label="Bend range">
        <NumberBox label="Bend range in semitones" value={receiver.bendRangeSemitones} min={0} max={96} step={1} onChange={(bendRangeSemitones) => put({ bendRangeSemitones })} />
      </Labelled>
      <Labelled label="Set there to">
        <NumberBox label="Bend range there" value={receiver.bendThereSemitones ?? receiver.bendRangeSemitones} min={0} max={96} step={1} onChange={(there) => put({ bendThereSemitones: there === receiver.bendRangeSemitones ? undefined : there })} />
      </Labelled>
      <Labelled label="Listens on">
        <EditSelect aria-label="Channels that it listens on" mode="multiple" maxTagCount="responsive" placeholder="all channels" value={receiver.channels ?? []} options={CHANNELS.map((value) => ({ value, label: value }))} onChange={(channels) => put({ channels: channels.length === 0 ? undefined : channels })} />
      </Labelled>
      <LayoutFields receiver={receiver} put={put} />
      <Labelled label="Voices">
        <NumberBox label="Voices" min={1} max={128} whole placeholder="not known" value={receiver.voices ?? null} onChange={(voices) => put({ voices })} onEmpty={() => put({ voices: undefined })} />
      </Labelled>
      <Labelled label="One voice alone">
        <EditSwitch aria-label="One voice alone, to shape a sound" checked={receiver.alone === true} onChange={(alone) => put({ alone: alone || undefined })} />
      </Labelled>
      <Labelled label="Program">
        <TextField label="Program that it is called up with" placeholder="as it is" value={programText(receiver)} maxLength={20} parse={programFrom} onChange={(program) => put({ program })} />
      </Labelled>
      <Labelled label="Free notes">
        <TextField label="Notes that play nothing there" placeholder="none known" value={receiver.freeNotes ? `${receiver.freeNotes.low} to ${receiver.freeNotes.high}` : ''} maxLength={20} parse={notesFrom} onChange={(freeNotes) => put({ freeNotes })} />
      </Labelled>
      <Labelled label="Lacks">
        <EditSelect aria-label="What it does not understand" mode="multiple" placeholder="it understands all" value={receiver.lacks ?? []} options={UNDERSTANDINGS.map((value) => ({ value, label: UNDERSTANDING_WORDS[value] }))} onChange={(lacks) => put({ lacks: lacks.length === 0 ? undefined : lacks })} />
      </Labelled>
      <Labelled label="Hard-wired">
        <TextField label="Hard-wired controllers" value={(receiver.hardWired ?? []).map(({ controller, does }) => `${controller} ${does}`).join(', ')} maxLength={2000} parse={hardWiredFrom} onChange={(hardWired) => put({ hardWired: hardWired.length === 0 ? undefined : hardWired })} />
      </Labelled>
      <p className={shared.empty}>Controllers that do something of their own there, as: 7 volume, 11 expression.</p>
      <SetUp output={output} receiver={receiver} put={put} />
      {output.kind === 'standIn' && <SoundOf output={output.id} sound={receiver.sound} onChange={(sound) => put({ sound })} />}
    </>
  );
}
