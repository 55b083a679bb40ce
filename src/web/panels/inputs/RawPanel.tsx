import { Button, Input } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { RawLine } from '../../../protocol/live';
import { useLive } from '../../live/LiveProvider';
import { Aside } from '../shared/Aside';
import { download } from '../shared/download';
import type { RigInput } from '../../../core/inputs/kinds';
import styles from './RawPanel.module.css';
import shared from '../shared/shared.module.css';

/** Lines that are kept for the export, and that are shown. */
const KEPT = 5000;
const SHOWN = 200;
const REFRESH_MS = 150;

/** The messages of one input as they arrive, with pause, filter, count and export. */
export function RawPanel({ input, onClose }: { input: RigInput; onClose: () => void }) {
  const [paused, setPaused] = useState(false);
  const [filter, setFilter] = useState('');
  const { lines, count, missed, all } = useRaw(input.id, paused, filter);
  const exportAll = () =>
    download(`${input.name} raw.txt`, all().map(({ hubTimeMs, text, bytes }) => [new Date(hubTimeMs).toISOString(), text, bytes ?? ''].join('\t').trimEnd()).join('\n') + '\n', 'text/plain');
  return (
    <Aside title={`${input.name}: raw messages`} onClose={onClose}>
      <div className={styles.rawTools}>
        <Input allowClear placeholder="Filter" aria-label="Filter raw messages" value={filter} onChange={({ target }) => setFilter(target.value)} />
        <Button aria-pressed={paused} onClick={() => setPaused(!paused)}>
          {paused ? 'Go on' : 'Pause'}
        </Button>
        <Button onClick={exportAll} disabled={count === 0}>
          Export
        </Button>
      </div>
      <p className={shared.missed}>
        {count} {count === 1 ? 'message' : 'messages'}
        {missed > 0 && `, ${missed} more came too fast to be listed`}
      </p>
      <ol className={styles.rawLines} tabIndex={0} aria-label="Raw messages">
        {lines.map(({ line, key }) => (
          <li key={key}>
            <time>{new Date(line.hubTimeMs).toISOString().slice(17, 23)}</time>
            <span>{line.text}</span>
            {line.bytes && <code>{line.bytes}</code>}
          </li>
        ))}
      </ol>
      {count === 0 && <p className={shared.empty}>Nothing yet. Move it.</p>}
    </Aside>
  );
}

interface KeptLine {
  key: number;
  line: RawLine;
}

function useRaw(input: string, paused: boolean, filter: string) {
  const live = useLive();
  const kept = useRef<KeptLine[]>([]);
  const missed = useRef(0);
  const [state, setState] = useState<{ lines: KeptLine[]; count: number; missed: number }>({ lines: [], count: 0, missed: 0 });
  const nextKey = useRef(0);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = () => {
      timer = undefined;
      const matching = filter === '' ? kept.current : kept.current.filter(({ line }) => `${line.text} ${line.bytes ?? ''}`.toLowerCase().includes(filter.toLowerCase()));
      setState({ lines: matching.slice(-SHOWN).reverse(), count: nextKey.current, missed: missed.current });
    };
    show();
    const remove = live.store.raw.listen(input, (lines, dropped) => {
      // While paused nothing is added, so that what is looked at stays.
      if (paused) return;
      missed.current += dropped;
      kept.current = [...kept.current, ...lines.map((line): KeptLine => ({ key: nextKey.current++, line }))].slice(-KEPT);
      timer ??= setTimeout(show, REFRESH_MS);
    });
    return () => {
      clearTimeout(timer);
      remove();
    };
  }, [live, input, paused, filter]);
  return { ...state, all: () => kept.current.map(({ line }) => line) };
}
