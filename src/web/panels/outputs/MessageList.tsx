import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useLayoutEffect, useRef, useState } from 'react';
import type { RigDocument } from '../../../core/rig/document';
import type { NamedFact } from '../../live/store';
import type { Listed } from './factLog';
import { clockTime, inWords } from './factWords';
import styles from './outputs.module.css';
import monitor from './Monitor.module.css';
import shared from '../shared/shared.module.css';

/** The newest of so many can be scrolled to; the CSV has all. */
const LISTED = 2000;
/** As high as the stylesheet makes a line. */
const LINE_PX = 28;
/** Lines that are drawn above and below those in view. */
const BEYOND = 3;

interface MessageListProps {
  listed: Listed;
  rig: RigDocument;
  behindMs: number;
  /** Where something else is looked for, the list begins at its newest. */
  lookedFor: string;
  /** Said where the list is empty. */
  nothing: string;
}

/** Messages, newest on top; only the lines in view exist, as ten times a second all may be others. What is read further down stays in its place. */
export function MessageList({ listed, rig, behindMs, lookedFor, nothing }: MessageListProps) {
  /** What was listed when somebody scrolled away from the newest: it stays until they are back. */
  const [read, setRead] = useState<Listed | null>(null);
  const { count, before, at } = read && listed.count > 0 ? read : listed;
  const scroller = useRef<HTMLDivElement>(null);
  const { getVirtualItems, getTotalSize } = useVirtualizer({
    count: Math.min(count, LISTED),
    getScrollElement: () => scroller.current,
    estimateSize: () => LINE_PX,
    overscan: BEYOND,
    initialRect: { width: 900, height: 300 },
  });
  const lines = getVirtualItems();
  const readOn = (isAway: boolean) => setRead((known) => (isAway ? (known ?? listed) : null));
  useLayoutEffect(() => void scroller.current!.scrollTo(0, 0), [lookedFor]);
  return (
    <div ref={scroller} onScroll={({ currentTarget }) => readOn(currentTarget.scrollTop > LINE_PX)} className={monitor.rows} tabIndex={0} role="region" aria-label="List of messages">
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
          <tr aria-hidden style={{ height: lines[0]?.start ?? 0 }} />
          {lines.map(({ index }) => (
            <Row key={(before - index) % lines.length} fact={at(index)} rig={rig} behindMs={behindMs} />
          ))}
          <tr aria-hidden style={{ height: getTotalSize() - (lines.at(-1)?.end ?? 0) }} />
        </tbody>
      </table>
      {count === 0 && <p className={shared.empty}>{nothing}</p>}
    </div>
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
