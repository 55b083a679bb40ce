'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useRef, useState } from 'react';
import type { CombineHow } from '../../../core/rig/combine';
import type { RigDocument } from '../../../core/rig/document';
import { freeName } from '../../../core/rig/naming';
import { LIMITS } from '../../../protocol/limits';
import type { RigPreview } from '../../../protocol/rigPreview';
import { checkRigFile, deleteRig, fetchDocument, fetchHistory, openRig, takeRig, type RigLine } from '../../live/fetchRig';
import { useRigStore } from '../../live/RigProvider';
import { download } from '../shared/download';
import { EditButton } from '../shared/edit';
import { FilePicker } from '../shared/FilePicker';
import { useAttempt } from '../shared/useAttempt';
import { useRig } from '../shell/useRig';
import { RIGS, useStoredRigs } from '../shell/useStoredRigs';
import { KitsPanel, type Looked } from './KitsPanel';
import { ImportPreview } from './ImportPreview';
import { NewRig } from './NewRig';
import styles from './rigs.module.css';
import shared from '../shared/shared.module.css';
import aside from '../shared/Aside.module.css';

const BYTES_IN_MB = 1024 * 1024;

/** All rigs: open, duplicate, export, import, delete; and the history of the open one. */
export function RigsPanel() {
  const { id: openId, document: rig, revision } = useRig();
  const store = useRigStore();
  const client = useQueryClient();
  const [preview, setPreview] = useState<{ preview: RigPreview; document: unknown; file: string } | null>(null);
  const [making, setMaking] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const rigs = useStoredRigs();
  const { data: steps = [] } = useQuery({ queryKey: ['history', openId, revision], queryFn: () => fetchHistory(openId), placeholderData: (before) => before });

  const { attempt, offerBack } = useAttempt(() => void client.invalidateQueries({ queryKey: RIGS }));
  const open = (id: string) => attempt(`open ${id}`, async () => store.whole(await openRig(id)));
  const duplicate = ({ id, name }: RigLine) => attempt(`duplicate ${id}`, async () => takeRig({ ...(await fetchDocument(id)), name: `${name} copy`.slice(0, LIMITS.nameLength) }));
  const exportRig = ({ id, name }: RigLine) => attempt(`export ${id}`, async () => download(`${name}.json`, `${JSON.stringify(await fetchDocument(id), null, 2)}\n`, 'application/json'));
  const remove = ({ id, name }: RigLine) =>
    attempt(`delete ${id}`, async () => {
      const document = await deleteRig(id);
      offerBack(id, `${name} was deleted`, () => takeRig(document));
    });
  const [looked, look] = useState<Looked | null>(null);
  const lookAt = (how: CombineHow) => {
    look({ name: preview!.preview.name, kit: preview!.document as RigDocument, how });
    setPreview(null);
  };
  const check = (chosen: File) =>
    attempt(`look at ${chosen.name}`, async () => {
      if (chosen.size > LIMITS.bodyBytes) throw new Error(`${chosen.name} has ${Math.round(chosen.size / BYTES_IN_MB)} MB, and a rig has at most ${LIMITS.bodyBytes / BYTES_IN_MB} MB: it is another kind of file.`);
      let document: unknown;
      try {
        document = JSON.parse(await chosen.text());
      } catch {
        throw new Error(`${chosen.name} is not a whole JSON file: export the rig again and take that one.`);
      }
      setPreview({ preview: await checkRigFile(document), document, file: chosen.name });
    });
  const makeRig = (made: RigDocument) =>
    attempt('make', async () => {
      setMaking(false);
      store.whole(await openRig((await takeRig(made)).id));
    });
  const take = (thenOpen: boolean) =>
    attempt('take in', async () => {
      const { id } = await takeRig(preview!.document);
      setPreview(null);
      if (thenOpen) store.whole(await openRig(id));
    });

  return (
    <div className={styles.rigs}>
      <section aria-labelledby="rigs-title">
        <div className={shared.panelHead}>
          <h1 id="rigs-title">Rigs</h1>
          <span className={shared.actions}>
            <EditButton type="primary" onClick={() => setMaking(true)}>
              New rig
            </EditButton>
            <Button onClick={() => file.current?.click()}>Import a rig</Button>
          </span>
          <FilePicker input={file} label="Rig file" accept=".json,application/json" onFile={check} />
        </div>
        {making && <NewRig name={freeName('New rig', rigs.map(({ name }) => name))} onMake={makeRig} onClose={() => setMaking(false)} />}
        {preview && <ImportPreview file={preview.file} preview={preview.preview} onTake={take} onCombine={lookAt} onLeave={() => setPreview(null)} />}
        <ul className={styles.list}>
          {rigs.map((line) => (
            <li key={line.id} data-open={line.id === openId} aria-label={`Rig ${line.name}`}>
              <span className={styles.title}>
                <strong>{line.id === openId ? rig.name : line.name}</strong>
                <span>
                  {line.id === openId ? 'open, ' : ''}saved <time suppressHydrationWarning>{when(line.savedAtMs)}</time>
                </span>
              </span>
              {line.id !== openId && (
                <EditButton type="primary" onClick={() => open(line.id)}>
                  Open
                </EditButton>
              )}
              <Button onClick={() => duplicate(line)}>Duplicate</Button>
              <Button onClick={() => exportRig(line)}>Export</Button>
              <EditButton danger disabled={line.id === openId} onClick={() => remove(line)}>
                Delete
              </EditButton>
            </li>
          ))}
        </ul>
        <KitsPanel looked={looked} look={look} />
      </section>
      <aside className={aside.beside} aria-label="History">
        <header>
          <h2>History of {rig.name}</h2>
        </header>
        {steps.length === 0 && <p className={shared.empty}>No edits yet. Every edit will be listed here and can be undone.</p>}
        <ol className={styles.history}>
          {steps.map(({ number, madeAtMs, words, takenBack }) => (
            <li key={number} data-taken-back={takenBack}>
              <time>{when(madeAtMs)}</time>
              <span>
                {words}
                {takenBack && ' (taken back)'}
              </span>
            </li>
          ))}
        </ol>
      </aside>
    </div>
  );
}

/** Today by the clock, earlier days by their date. */
function when(timeMs: number): string {
  const then = new Date(timeMs);
  return then.toDateString() === new Date().toDateString() ? then.toLocaleTimeString('en-GB') : then.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
}
