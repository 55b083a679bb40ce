import { Select } from 'antd';
import dynamic from 'next/dynamic';
import { useEffect, useState, type ReactNode } from 'react';
import type { DelayReport } from '../../../protocol/delays';
import { useLive } from '../../live/LiveProvider';
import { HERE } from '../../live/store';
import { useRig } from '../shell/useRig';
import styles from './Delays.module.css';
import shared from '../shared/shared.module.css';
import monitor from './Monitor.module.css';

/** The chart is fetched when it is looked at. */
const DelayChart = dynamic(() => import('./DelayChart').then((module) => module.DelayChart), { ssr: false });

const ALL = ' all';

/** How long it takes from a finger to its bytes: of the whole rig, of an output or of a mapping, over the last minute. */
export function Delays({ views }: { views: ReactNode }) {
  const { document: rig } = useRig();
  const live = useLive();
  const [of, choose] = useState(ALL);
  const [report, setReport] = useState<DelayReport | null>(null);
  useEffect(() => {
    const [kind, id] = of.split(' ') as [string, string];
    live.store.watchDelays(of === ALL ? {} : { [kind]: id });
    const end = live.store.delays.listen(HERE, setReport);
    return () => {
      end();
      live.store.watchDelays(null);
      setReport(null);
    };
  }, [live, of]);
  const options = [
    { value: ALL, label: 'the whole rig' },
    { label: 'Outputs', options: rig.outputs.map(({ id, name }) => ({ value: `output ${id}`, label: name })) },
    { label: 'Mappings', options: rig.mappings.map(({ id, name }) => ({ value: `mapping ${id}`, label: name })) },
  ];
  return (
    <section className={`${monitor.monitor} ${styles.delays}`} aria-labelledby="delays-title">
      <header>
        <h2 id="delays-title" className={shared.visuallyHidden}>
          Delay
        </h2>
        {views}
        <Select aria-label="Delay of" className={styles.of} showSearch={{ optionFilterProp: 'label' }} value={of} options={options} onChange={choose} />
        <p className={styles.said}>From a finger to its bytes, in the last minute.</p>
      </header>
      {report === null || report.count === 0 ? (
        <p className={shared.empty}>Nothing that a performer moved has left there in the last minute.</p>
      ) : (
        <div className={styles.figures}>
          <dl>
            <Figure name="Median" ms={report.p50Ms} />
            <Figure name="99 of 100 within" ms={report.p99Ms} />
            <Figure name="Worst" ms={report.worstMs} />
            <div>
              <dt>Messages</dt>
              <dd>{report.count.toLocaleString('en')}</dd>
            </div>
          </dl>
          <dl aria-label="Where the time goes, medians">
            <Figure name="At the page" ms={report.page} />
            <Figure name="On the line" ms={report.line} />
            <Figure name="In the hub" ms={report.hub} />
          </dl>
          <DelayChart bins={report.bins} />
        </div>
      )}
    </section>
  );
}

function Figure({ name, ms }: { name: string; ms: number | null }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{ms === null ? '–' : `${ms.toFixed(2)} ms`}</dd>
    </div>
  );
}
