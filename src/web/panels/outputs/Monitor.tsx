import { Button, Input, Segmented, Select } from 'antd';
import { counted } from '../../../core/units/counted';
import Papa from 'papaparse';
import { useCallback, useMemo, useState, type ReactNode } from 'react';
import { useLive } from '../../live/LiveProvider';
import type { NamedFact } from '../../live/store';
import { download } from '../shared/download';
import { useRig } from '../shell/useRig';
import styles from './outputs.module.css';
import { Calendar } from './calendar';
import { clockTime, hasAll, inWords } from './factWords';
import { MessageList } from './MessageList';
import { useMonitor } from './useMonitor';
import monitor from './Monitor.module.css';
import shared from '../shared/shared.module.css';

type Shown = 'both' | 'in' | 'out';
/** As the place of messages from and to everywhere. */
const ALL = ' all';

/** Everything that enters and leaves, newest on top: of one direction or place, or that holds some words. `views` chooses what is shown here instead. */
export function Monitor({ views }: { views: ReactNode }) {
  const { document: rig } = useRig();
  const live = useLive();
  const [shown, setShown] = useState<Shown>('both');
  const [place, setPlace] = useState(ALL);
  const [wanted, setWanted] = useState('');
  const [paused, setPaused] = useState(false);
  const shows = useCallback(
    (fact: NamedFact) => {
      if (shown !== 'both' && fact.direction !== shown) return false;
      if (place === ALL && wanted === '') return true;
      const words = inWords(fact, rig);
      return (place === ALL || words.place === place) && hasAll(words, wanted);
    },
    [shown, place, wanted, rig],
  );
  const { listed, missed, clear, all } = useMonitor(shows, paused);
  const isEmpty = listed.count === 0;
  const [calendar] = useState(() => new Calendar());
  const behindMs = calendar.behindMs(live.hubMs, Date.now());
  // Ten times a second the list is another one; what stands above it is not.
  const tools = useMemo(() => {
    const places = [...new Set([...rig.inputs, ...rig.outputs].map(({ name }) => name))];
    const save = () =>
      download(
        `${rig.name} messages.csv`,
        Papa.unparse(all().map((fact) => {
          const { what, bytes, place: where, by } = inWords(fact, rig);
          return { 'time of day': clockTime(fact.hubTimeMs, calendar.behindMs(live.hubMs, Date.now())), 'time in ms': fact.hubTimeMs.toFixed(3), direction: fact.direction, message: what, bytes, 'input or output': where, by, 'delay in ms': fact.delayMs === null ? '' : fact.delayMs.toFixed(3) };
        })),
        'text/csv',
      );
    return (
      <>
        <Input className={styles.find} aria-label="Find messages" placeholder="Find: CC 21, note, Fog, B2 15" allowClear value={wanted} onChange={({ target }) => setWanted(target.value)} />
        <Select
          className={styles.place}
          aria-label="From or to"
          // Long enough for all places of a usual rig at once.
          listHeight={560}
          value={place}
          options={[{ value: ALL, label: 'everywhere' }, ...places.map((value) => ({ value, label: value }))]}
          onChange={setPlace}
        />
        <Segmented
          aria-label="Which messages"
          value={shown}
          options={[
            { value: 'both', label: 'Both' },
            { value: 'in', label: 'In' },
            { value: 'out', label: 'Out' },
          ]}
          onChange={setShown}
        />
        <Button onClick={() => setPaused(!paused)} aria-pressed={paused}>
          {paused ? 'Go on' : 'Pause'}
        </Button>
        <Button onClick={clear}>Clear</Button>
        <Button disabled={isEmpty} onClick={save}>
          CSV
        </Button>
      </>
    );
  }, [wanted, place, shown, paused, isEmpty, rig, live, calendar, all, clear]);
  return (
    <section className={monitor.monitor} aria-labelledby="monitor-title">
      <header>
        <h2 id="monitor-title" className={shared.visuallyHidden}>
          Messages
        </h2>
        {views}
        <span className={styles.count}>{listed.count.toLocaleString('en')}</span>
        {tools}
      </header>
      <MessageList listed={listed} rig={rig} behindMs={behindMs} lookedFor={`${shown} ${place} ${wanted}`} nothing={wanted === '' && place === ALL ? 'Nothing yet. Move something on a surface.' : 'Nothing that is looked for.'} />
      <p className={shared.missed}>{missed > 0 && `${counted(missed, 'message')} came too fast to be listed; GET /api/monitor has all.`}</p>
    </section>
  );
}
