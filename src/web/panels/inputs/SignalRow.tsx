import type { RigSignal } from '../../../core/rig/document';
import { useFeedWords } from '../../live/useLiveFacts';
import { LiveNumber } from '../shared/LiveNumber';
import { SignalTrace } from '../shared/SignalTrace';
import { rateInWords } from './words';
import styles from './SignalRow.module.css';
import shared from '../shared/shared.module.css';

interface SignalRowProps {
  signal: RigSignal;
  selected: boolean;
  onSelect: (id: string) => void;
}

/** One signal: its name, the last four seconds, its value, how often it comes. */
export function SignalRow({ signal, selected, onSelect }: SignalRowProps) {
  return (
    <li className={styles.signalRow} data-signal={signal.id} data-selected={selected} data-hidden={signal.hidden === true}>
      <button type="button" onClick={() => onSelect(signal.id)} aria-label={`Signal ${signal.name}`} aria-pressed={selected} />
      <span className={styles.signalName}>{signal.name}</span>
      <SignalTrace signal={signal} />
      <LiveNumber signal={signal} />
      <span className={shared.unit}>{signal.unit === 'unit' ? '' : signal.unit}</span>
      <Rate signal={signal} />
    </li>
  );
}

function Rate({ signal }: { signal: RigSignal }) {
  return <span className={styles.rate}>{useFeedWords(signal.input, (feed) => rateInWords(feed?.signals.find(({ id }) => id === signal.id)))}</span>;
}
