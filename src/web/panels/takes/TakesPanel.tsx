'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Input } from 'antd';
import { useEffect, useState } from 'react';
import type { TakeSummary } from '../../../protocol/takes';
import { useRecordedTake, useRecordingProblem } from '../../live/useLiveFacts';
import { fetchTakes } from './fetchTakes';
import { ImportTake } from './ImportTake';
import { RecordPanel } from './RecordPanel';
import { SketchPicture } from './SketchPicture';
import styles from './takes.module.css';
import { TakeView } from './TakeView';
import { clockOf, dayAndTime, sizeInWords } from '../../recording/words';
import shared from '../shared/shared.module.css';
import { useTellNow } from '../shell/useTellNow';

const TAKES = ['takes'] as const;
/** While a take is being made, and while none is. */
const AGAIN_MS = 1500;
const SELDOM_MS = 10_000;

/** All takes at the left, the one that is open beside them. */
export function TakesPanel() {
  const recorded = useRecordedTake();
  const problem = useRecordingProblem();
  const client = useQueryClient();
  const { data: takes = [], isFetched } = useQuery({ queryKey: [...TAKES, recorded], queryFn: fetchTakes, placeholderData: (before) => before, refetchInterval: ({ state: { data } }) => (recorded !== null || data?.some(({ state, sketch, events }) => state === 'recording' || (sketch === null && events > 0)) ? AGAIN_MS : SELDOM_MS) });
  const [open, setOpen] = useOpen();
  const [search, setSearch] = useState('');
  const [recordPanel, setRecordPanel] = useState(false);
  const shown = takes.filter((take) => matches(take, search));
  const current = takes.find(({ id }) => id === open) ?? shown[0];
  const changed = () => void client.invalidateQueries({ queryKey: TAKES });
  return (
    <div className={styles.screen}>
      <section className={styles.list} aria-labelledby="takes-title">
        <header>
          <h1 id="takes-title">Takes</h1>
          <Button onClick={() => setRecordPanel(true)}>
            Recording…
          </Button>
        </header>
        {problem !== null && (
          <p role="alert" className={styles.problem}>
            {problem}
          </p>
        )}
        <KeepLast />
        <Input allowClear aria-label="Search takes" placeholder="Search by name, mark or rig" value={search} onChange={(event) => setSearch(event.target.value)} />
        {isFetched && takes.length === 0 && (
          <p className={shared.empty}>
            No takes yet. <kbd>R</kbd> records from anywhere; what was played in the last half minute can be kept even if nobody did.
          </p>
        )}
        {takes.length > 0 && shown.length === 0 && <p className={shared.empty}>No take has “{search}” in its name, marks or rig.</p>}
        <ul>
          {shown.map((take) => (
            <li key={take.id}>
              <button type="button" aria-current={take.id === current?.id ? true : undefined} onClick={() => setOpen(take.id)}>
                <strong>{take.name}</strong>
                <span className={styles.length}>{take.state === 'recording' ? <em>recording</em> : clockOf(take.lengthMs)}</span>
                <SketchPicture sketch={take.sketch} marks={take.marks} lengthMs={take.lengthMs} />
                <small suppressHydrationWarning>
                  {dayAndTime(take.startedAtMs)} · {take.rigName} · {sizeInWords(take.bytes)}
                  {take.state === 'cut' && ' · broke off'}
                </small>
              </button>
            </li>
          ))}
        </ul>
        <ImportTake onTaken={(id) => (changed(), setOpen(id))} />
      </section>
      {recordPanel && <RecordPanel onClose={() => setRecordPanel(false)} />}
      {current && <TakeView key={current.id} summary={current} onChange={changed} onOpen={(id) => (changed(), setOpen(id))} />}
    </div>
  );
}

function matches({ name, rigName, marks }: TakeSummary, search: string): boolean {
  const wanted = search.trim().toLowerCase();
  return [name, rigName, ...marks.map((mark) => mark.name)].some((text) => text.toLowerCase().includes(wanted));
}

/** The take that is open stands in the address, so that a reload finds it again. */
function useOpen(): [string | null, (id: string) => void] {
  const [open, setOpen] = useState<string | null>(null);
  useEffect(() => {
    const read = () => setOpen(decodeURIComponent(location.hash.slice(1)) || null);
    read();
    addEventListener('hashchange', read);
    return () => removeEventListener('hashchange', read);
  }, []);
  return [
    open,
    (id) => {
      history.replaceState(null, '', `#${encodeURIComponent(id)}`);
      setOpen(id);
    },
  ];
}

/** “I wish I had recorded that”. */
function KeepLast() {
  const tell = useTellNow();
  const on = useRecordedTake() !== null;
  return (
    <Button disabled={on} title="Makes a take of what was played in the last half minute" onClick={() => tell({ kind: 'record', does: 'keep' })}>
      Keep the last 30 s
    </Button>
  );
}
