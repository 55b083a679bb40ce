import { App, Button, Select } from 'antd';
import { changeSummary } from '../../../core/rig/changeSummary';
import { combine, type CombineHow } from '../../../core/rig/combine';
import type { RigDocument } from '../../../core/rig/document';
import type { Change } from '../../../core/rig/edit';
import { partOf, type PartOf } from '../../../core/rig/part';
import type { LibraryLine } from '../../../protocol/library';
import { deleteKept, fetchKept, keepInLibrary } from '../../live/fetchRig';
import { useLibrary } from '../shared/useLibrary';
import { download } from '../shared/download';
import { useEdit, useRig } from '../shell/useRig';
import { CombinePreview } from './CombinePreview';

/** A part or a rig that is looked at before it goes into the open rig. */
export interface Looked {
  name: string;
  part: RigDocument;
  how: CombineHow;
}

interface PartsPanelProps {
  looked: Looked | null;
  look: (looked: Looked | null) => void;
}

/** Parts of rigs that are kept on their own: an input with its mappings, a surface, an output; put back or added to any rig. */
export function PartsPanel({ looked, look }: PartsPanelProps) {
  const { document: rig, stage } = useRig();
  const edit = useEdit();
  const { message, notification } = App.useApp();
  const { kept, changed } = useLibrary();
  const parts = kept.filter(({ kind }) => kind === 'part');
  const attempt = (work: () => Promise<void>) =>
    void work()
      .catch((error: Error) => message.error(error.message))
      .finally(changed);
  const partFrom = async (id: string) => {
    const entry = await fetchKept(id);
    if (entry.kind !== 'part') throw new Error(`${entry.name} is not a part of a rig.`);
    return entry.part;
  };
  const keep = (chosen: string) =>
    attempt(async () => {
      const [list, id] = chosen.split(' ') as [PartOf['list'], string];
      const part = partOf(rig, { list, id });
      if (!part) return;
      const { name } = await keepInLibrary(part.name, { kind: 'part', part });
      void message.success(`${name} is kept with ${part.mappings.length} mappings.`);
    });
  const show = ({ id, name }: LibraryLine, how: CombineHow) => attempt(async () => look({ name, part: await partFrom(id), how }));
  const remove = ({ id, name }: LibraryLine) =>
    attempt(async () => {
      const entry = await deleteKept(id);
      const undo = () => {
        notification.destroy(id);
        if (entry.kind === 'part') attempt(async () => void (await keepInLibrary(name, { kind: 'part', part: entry.part })));
      };
      notification.info({ key: id, title: `The part ${name} was deleted`, duration: 20, actions: <Button onClick={undo}>Undo</Button> });
    });
  const take = (changes: Change[]) => {
    if (changes.length > 0) edit({ kind: 'change', changes });
    look(null);
  };
  return (
    <section className="parts" aria-labelledby="parts-title">
      <div className="inputs-head">
        <h2 id="parts-title">Parts</h2>
        <Select
          aria-label="Keep a part of this rig"
          placeholder="Keep a part of this rig…"
          value={null}
          options={[
            { label: 'Inputs and surfaces, with their mappings', options: rig.inputs.map(({ id, name }) => ({ value: `inputs ${id}`, label: name })) },
            { label: 'Outputs, with their receivers', options: rig.outputs.map(({ id, name }) => ({ value: `outputs ${id}`, label: name })) },
          ]}
          onChange={(chosen) => chosen !== null && keep(chosen)}
        />
      </div>
      {looked && <CombinePreview {...looked} summary={changeSummary(rig, combine(rig, looked.part, looked.how))} locked={stage} onTake={() => take(combine(rig, looked.part, looked.how))} onLeave={() => look(null)} />}
      {parts.length === 0 && <p className="empty">No part is kept yet: keep an input with its mappings here, and add it to another rig tomorrow.</p>}
      <ul className="rig-list">
        {parts.map((line) => (
          <li key={line.id} aria-label={`Part ${line.name}`}>
            <span className="rig-title">
              <strong>{line.name}</strong>
            </span>
            <Button disabled={stage} onClick={() => show(line, 'putBack')}>
              Put back
            </Button>
            <Button disabled={stage} onClick={() => show(line, 'beside')}>
              Add beside
            </Button>
            <Button onClick={() => attempt(async () => download(`${line.name}.json`, `${JSON.stringify(await partFrom(line.id), null, 2)}\n`, 'application/json'))}>Export</Button>
            <Button danger onClick={() => remove(line)}>
              Delete
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
