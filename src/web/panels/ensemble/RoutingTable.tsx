import { Switch } from 'antd';
import type { Route, Way } from '../../../core/ensemble/routing';
import { ScreenLink } from '../shared/ScreenLink';
import styles from './ensemble.module.css';

const LETS: Record<Way['lets'], string> = { all: 'everything', muted: 'nothing: muted', filtered: 'what its filter leaves' };

interface RoutingTableProps {
  routes: readonly Route[];
  /** What is switched here; absent where the table is only read. */
  onWay?: (voiceMapping: string, on: boolean) => void;
  onOutput?: (output: string, muted: boolean) => void;
}

/** Who hears whom and who goes where, a row a way; printed with the ledger. */
export function RoutingTable({ routes, onWay, onOutput }: RoutingTableProps) {
  return (
    <div className={styles.wiring}>
      <table aria-label="Wiring of the ensemble">
        <thead>
          <tr>
            <th scope="col">Member</th>
            <th scope="col">Hears</th>
            <th scope="col">Goes to</th>
            <th scope="col">Where there</th>
            <th scope="col">The output lets through</th>
            <th scope="col">Meets there</th>
          </tr>
        </thead>
        <tbody>
          {routes.flatMap(({ member, kind, hears, ways }) =>
            (ways.length > 0 ? ways : [null]).map((way, i) => (
              <tr key={`${member.id} ${way?.voiceMapping ?? ''}`} data-clash={(way?.meets.length ?? 0) > 0}>
                {i === 0 && (
                  <th scope="row" rowSpan={Math.max(1, ways.length)}>
                    {member.name} <small>{kind}</small>
                  </th>
                )}
                {i === 0 && <td rowSpan={Math.max(1, ways.length)}>{hears.length > 5 ? `${hears.slice(0, 4).join(', ')} and ${hears.length - 4} more` : hears.join(', ') || 'the transport'}</td>}
                {way ? <WayCells member={member.name} way={way} onWay={onWay} onOutput={onOutput} /> : <td colSpan={4}><em>nowhere</em></td>}
              </tr>
            )),
          )}
        </tbody>
      </table>
    </div>
  );
}

function WayCells({ member, way, onWay, onOutput }: { member: string; way: Way; onWay: RoutingTableProps['onWay']; onOutput: RoutingTableProps['onOutput'] }) {
  const { output, receiver, where, on, lets, meets } = way;
  return (
    <>
      <td>
        <span className={styles.switched}>
          {onWay && <Switch size="small" aria-label={`${member} goes to ${output}`} checked={on} onChange={(next) => onWay(way.voiceMapping, next)} />}
          <span>
            {output}
            {receiver !== output && `, ${receiver}`}
            {!on && !onWay && ', off'}
          </span>
        </span>
      </td>
      <td>{where}</td>
      <td>
        <span className={styles.switched}>
          {onOutput && <Switch size="small" aria-label={`${output} lets through what ${member} sends`} checked={lets !== 'muted'} onChange={(open) => onOutput(way.outputId, !open)} />}
          {lets === 'filtered' ? <ScreenLink href="/outputs">{LETS[lets]}</ScreenLink> : LETS[lets]}
        </span>
      </td>
      <td>{meets.length > 0 ? <em>{meets.join(', ')}</em> : <span className={styles.nobody}>nobody</span>}</td>
    </>
  );
}
