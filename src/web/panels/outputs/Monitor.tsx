import { Button, Input, Segmented, Select } from 'antd';
import Papa from 'papaparse';
import { memo, useCallback, useMemo, useState, type ReactNode } from 'react';
import type { Who } from '../../../core/engine/sink';
import { describeBytes, hexOf } from '../../../core/midi/describe';
import type { RigDocument } from '../../../core/rig/document';
import { findSignal } from '../../../core/rig/find';
import { useLive } from '../../live/LiveProvider';
import type { NamedFact } from '../../live/store';
import { download } from '../shared/download';
import { useRig } from '../shell/useRig';
import styles from './outputs.module.css';
import { Calendar } from './calendar';
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
  const { rows, count, missed, clear, all } = useMonitor(shows, paused);
  const isEmpty = count === 0;
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
        <span className={styles.count}>{count.toLocaleString('en')}</span>
        {tools}
      </header>
      <div className={monitor.rows} tabIndex={0} role="region" aria-label="List of messages">
        <table>
          <thead>
            <tr>
              <th>Time</th>
              <th>
                <span className={shared.visuallyHidden}>Direction</span>
              </th>
              <th>Signal or message</th>
              <th className={monitor.bytes}>Bytes</th>
              <th className={monitor.place}>Input or output</th>
              <th className={monitor.by}>By</th>
              <th className={styles.late}>Delay</th>
            </tr>
          </thead>
          <tbody>
            {/* By place, not by message: while much comes, words change in lines that stay. */}
            {rows.map((fact, i) => (
              <Row key={i} fact={fact} rig={rig} behindMs={behindMs} />
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <p className={shared.empty}>{wanted === '' && place === ALL ? 'Nothing yet. Move something on a surface.' : 'Nothing that is looked for.'}</p>}
      </div>
      <p className={shared.missed}>{missed > 0 && `${missed} messages came too fast to be listed; GET /api/monitor has them all.`}</p>
    </section>
  );
}

const Row = memo(function Row({ fact, rig, behindMs }: { fact: NamedFact; rig: RigDocument; behindMs: number }) {
  const { what, bytes, place, by } = inWords(fact, rig);
  return (
    <tr data-direction={fact.direction}>
      <td>{clockTime(fact.hubTimeMs, behindMs)}</td>
      <td title={fact.direction}>{fact.direction === 'out' ? '→' : '←'}</td>
      <td title={whole(what)}>{what}</td>
      <td title={whole(bytes)}>{bytes}</td>
      <td>{place}</td>
      <td>{fact.who === null || fact.who === 'mapping' || fact.who === 'voice' ? by : <em>{by}</em>}</td>
      <td className={styles.late}>{fact.delayMs === null ? '' : `${fact.delayMs.toFixed(1)} ms`}</td>
    </tr>
  );
});

/** What may be cut in its column is there whole under the pointer. */
const whole = (text: string) => (text.length > 20 ? text : undefined);

interface Words {
  what: string;
  bytes: string;
  /** The name of the input or output. */
  place: string;
  by: string;
}

/** A fact as people read it. */
function inWords(fact: NamedFact, rig: RigDocument): Words {
  if (fact.bytes) {
    const mapping = [...rig.mappings, ...rig.voiceMappings].find(({ id }) => id === fact.mapping);
    return { what: describeBytes(fact.bytes), bytes: hexOf(fact.bytes), place: rig.outputs.find(({ id }) => id === fact.where)?.name ?? fact.where, by: mapping?.name ?? (fact.who === 'mapping' ? (fact.mapping ?? '') : BY[fact.who!]) };
  }
  const found = findSignal(rig, fact.where);
  return { what: `${found?.signal.name ?? fact.where} · ${fact.value!.toFixed(3)}`, bytes: '', place: found?.from ?? '', by: '' };
}

/** Whether words hold everything that is looked for, in any order. */
function hasAll(words: Words, wanted: string): boolean {
  const text = Object.values(words).join(' · ').toLowerCase();
  return wanted.toLowerCase().split(/[,·]/).every((part) => text.includes(part.trim()));
}

/** Who caused a message that no mapping did. */
const BY: Record<Exclude<Who, 'mapping'>, string> = { voice: 'a voice', scene: 'a scene', thru: 'thru', clock: 'the clock', panic: 'Panic', ending: 'end of a note', return: 'told again', test: 'the test', setUp: 'set-up', hand: 'by hand', shown: 'shown there', take: 'a take' };

/** Time of day to the millisecond. @param behindMs how far the hub's clock is behind the calendar */
function clockTime(hubTimeMs: number, behindMs: number): string {
  return `${new Date(hubTimeMs + behindMs).toLocaleTimeString('en-GB')}.${String(Math.floor(hubTimeMs % 1000)).padStart(3, '0')}`;
}
