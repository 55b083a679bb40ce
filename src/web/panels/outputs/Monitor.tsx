import { Button, Segmented } from 'antd';
import { useState } from 'react';
import type { Who } from '../../../core/engine/sink';
import { describeBytes, hexOf } from '../../../core/midi/describe';
import { findSignal } from '../../../core/rig/find';
import { useRig } from '../shell/useRig';
import { useMonitor, type MonitorRow, type Shown } from './useMonitor';

/** Everything that enters and leaves, newest on top. */
export function Monitor() {
  const [shown, setShown] = useState<Shown>('both');
  const [paused, setPaused] = useState(false);
  const { rows, missed, clear } = useMonitor(shown, paused);
  return (
    <section className="monitor" aria-labelledby="monitor-title">
      <header>
        <h2 id="monitor-title">Messages</h2>
        <Segmented
          aria-label="Which messages"
          value={shown}
          options={[
            { value: 'both', label: 'In and out' },
            { value: 'in', label: 'In' },
            { value: 'out', label: 'Out' },
          ]}
          onChange={setShown}
        />
        <Button onClick={() => setPaused(!paused)} aria-pressed={paused}>
          {paused ? 'Go on' : 'Pause'}
        </Button>
        <Button onClick={clear}>Clear</Button>
      </header>
      <div className="rows" tabIndex={0} role="region" aria-label="List of messages">
        <table>
          <thead>
            <tr>
              <th>Time</th>
              <th>
                <span className="visually-hidden">Direction</span>
              </th>
              <th>Signal or message</th>
              <th>Bytes</th>
              <th>Input or output</th>
              <th>By</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <Row key={row.key} row={row} />
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <p className="empty">Nothing yet. Move something on a surface.</p>}
      </div>
      <p className="missed">{missed > 0 && `${missed} messages came too fast to be listed; GET /api/monitor has them all.`}</p>
    </section>
  );
}

function Row({ row: { fact } }: { row: MonitorRow }) {
  const { document: rig } = useRig();
  if (fact.bytes) {
    const mapping = rig.mappings.find(({ id }) => id === fact.mapping);
    return (
      <tr data-direction="out">
        <td>{clockTime(fact.hubTimeMs)}</td>
        <td title="out">→</td>
        <td>{describeBytes(fact.bytes)}</td>
        <td>{hexOf(fact.bytes)}</td>
        <td>{rig.outputs.find(({ id }) => id === fact.where)?.name ?? fact.where}</td>
        <td>{mapping?.name ?? (fact.who === 'mapping' ? fact.mapping : <em>{BY[fact.who!]}</em>)}</td>
      </tr>
    );
  }
  const found = findSignal(rig, fact.where);
  return (
    <tr data-direction="in">
      <td>{clockTime(fact.hubTimeMs)}</td>
      <td title="in">←</td>
      <td>
        {found?.signal.name ?? fact.where} · {fact.value!.toFixed(3)}
      </td>
      <td />
      <td>{found?.from ?? ''}</td>
      <td />
    </tr>
  );
}

/** Who caused a message that no mapping did. */
const BY: Record<Exclude<Who, 'mapping'>, string> = { scene: 'a scene', thru: 'thru', clock: 'the clock', panic: 'Panic', ending: 'end of a note', return: 'told again', test: 'the test' };

/** Time of day to the millisecond. */
function clockTime(hubTimeMs: number): string {
  return `${new Date(hubTimeMs).toLocaleTimeString('en-GB')}.${String(Math.floor(hubTimeMs % 1000)).padStart(3, '0')}`;
}
