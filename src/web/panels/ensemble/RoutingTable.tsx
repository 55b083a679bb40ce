import type { Route } from '../../../core/ensemble/routing';
import styles from './ensemble.module.css';

/** Who hears whom and who goes where, a row a way; printed with the ledger. */
export function RoutingTable({ routes }: { routes: readonly Route[] }) {
  return (
    <div className={styles.wiring}>
      <table aria-label="Wiring of the ensemble">
        <thead>
          <tr>
            <th scope="col">Member</th>
            <th scope="col">Hears</th>
            <th scope="col">Output</th>
            <th scope="col">Receiver</th>
            <th scope="col">Where there</th>
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
                {i === 0 && <td rowSpan={Math.max(1, ways.length)}>{hears.join(', ') || 'the transport'}</td>}
                <td>{way ? way.output : <em>nowhere</em>}</td>
                <td>{way?.receiver}</td>
                <td>{way ? `${way.where}${way.on ? '' : ', off'}` : ''}</td>
                <td>{way && way.meets.length > 0 ? <em>{way.meets.join(', ')}</em> : <span className={styles.nobody}>nobody</span>}</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </div>
  );
}
