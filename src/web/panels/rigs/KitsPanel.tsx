import { App, Button, Select } from 'antd';
import { changeSummary } from '../../../core/rig/changeSummary';
import { combine, type CombineHow } from '../../../core/rig/combine';
import type { RigDocument } from '../../../core/rig/document';
import type { Change } from '../../../core/rig/edit';
import { kitOf, type KitOf } from '../../../core/rig/kit';
import type { LibraryLine } from '../../../protocol/library';
import { deleteKept, fetchKept, keepInLibrary } from '../../live/fetchRig';
import { useAttempt } from '../shared/useAttempt';
import { useLibrary } from '../shared/useLibrary';
import { download } from '../shared/download';
import { EditButton } from '../shared/edit';
import { useEdit, useRig } from '../shell/useRig';
import { CombinePreview } from './CombinePreview';
import rigs from './rigs.module.css';
import shared from '../shared/shared.module.css';

/** A kit or a rig that is looked at before it goes into the open rig. */
export interface Looked {
  name: string;
  kit: RigDocument;
  how: CombineHow;
}

interface KitsPanelProps {
  looked: Looked | null;
  look: (looked: Looked | null) => void;
}

/** Kits: what of rigs is kept on its own: an input with its mappings, a surface, an output; put back or added to any rig. */
export function KitsPanel({ looked, look }: KitsPanelProps) {
  const { document: rig } = useRig();
  const edit = useEdit();
  const { message } = App.useApp();
  const { kept, changed } = useLibrary();
  const kits = kept.filter(({ kind }) => kind === 'kit');
  const { attempt, offerBack } = useAttempt(changed);
  const kitFrom = async (id: string) => {
    const entry = await fetchKept(id);
    if (entry.kind !== 'kit') throw new Error(`${entry.name} is no kit.`);
    return entry.kit;
  };
  const keep = (chosen: string) =>
    attempt(`keep ${chosen}`, async () => {
      const [list, id] = chosen.split(' ') as [KitOf['list'], string];
      const kit = kitOf(rig, { list, id });
      if (!kit) return;
      const { name } = await keepInLibrary(kit.name, { kind: 'kit', kit });
      void message.success(`${name} is kept with ${kit.mappings.length} mappings.`);
    });
  const show = ({ id, name }: LibraryLine, how: CombineHow) => attempt(`show ${id}`, async () => look({ name, kit: await kitFrom(id), how }));
  const remove = ({ id, name }: LibraryLine) =>
    attempt(`delete ${id}`, async () => {
      const entry = await deleteKept(id);
      if (entry.kind === 'kit') offerBack(id, `The kit ${name} was deleted`, () => keepInLibrary(name, { kind: 'kit', kit: entry.kit }));
    });
  const take = (changes: Change[]) => {
    if (changes.length > 0) edit({ kind: 'change', changes });
    look(null);
  };
  return (
    <section className={rigs.kits} aria-labelledby="kits-title">
      <div className={shared.panelHead}>
        <h2 id="kits-title">Kits</h2>
        <Select
          aria-label="Keep a kit of this rig"
          placeholder="Keep a kit of this rig…"
          value={null}
          options={[
            { label: 'Inputs and surfaces, with their mappings', options: rig.inputs.map(({ id, name }) => ({ value: `inputs ${id}`, label: name })) },
            { label: 'Outputs, with their receivers', options: rig.outputs.map(({ id, name }) => ({ value: `outputs ${id}`, label: name })) },
          ]}
          onChange={(chosen) => chosen !== null && keep(chosen)}
        />
      </div>
      {looked && <CombinePreview {...looked} summary={changeSummary(rig, combine(rig, looked.kit, looked.how))} onTake={() => take(combine(rig, looked.kit, looked.how))} onLeave={() => look(null)} />}
      {kits.length === 0 && <p className={shared.empty}>No kit is kept yet: keep an input with its mappings here, and add it to another rig tomorrow.</p>}
      <ul className={rigs.list}>
        {kits.map((line) => (
          <li key={line.id} aria-label={`Kit ${line.name}`}>
            <span className={rigs.title}>
              <strong>{line.name}</strong>
            </span>
            <EditButton onClick={() => show(line, 'putBack')}>
              Put back
            </EditButton>
            <EditButton onClick={() => show(line, 'beside')}>
              Add beside
            </EditButton>
            <Button onClick={() => attempt(`export ${line.id}`, async () => download(`${line.name}.json`, `${JSON.stringify(await kitFrom(line.id), null, 2)}\n`, 'application/json'))}>Export</Button>
            <Button danger onClick={() => remove(line)}>
              Delete
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
