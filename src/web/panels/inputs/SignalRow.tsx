import { memo } from 'react';
import type { RigSignal } from '../../../core/rig/document';
import { TraceCanvas } from '../shared/TraceCanvas';
import { LiveNumber } from '../shared/LiveNumber';
import { agoInWords } from './words';
import styles from './SignalRow.module.css';
import shared from '../shared/shared.module.css';

interface SignalRowProps {
  signal: RigSignal;
  rateHz: number | null;
  lastHeardMsAgo: number | null;
  selected: boolean;
  onSelect: (id: string) => void;
}

/** One signal: its name, the last four seconds, its value, how often it comes. */
export const SignalRow = memo(function SignalRow({ signal, rateHz, lastHeardMsAgo, selected, onSelect }: SignalRowProps) {
  return (
    <li className={styles.signalRow} data-signal={signal.id} data-selected={selected} data-hidden={signal.hidden === true}>
      <button type="button" onClick={() => onSelect(signal.id)} aria-label={`Signal ${signal.name}`} aria-pressed={selected} />
      <span className={styles.signalName}>{signal.name}</span>
      <TraceCanvas signal={signal} />
      <LiveNumber signal={signal} />
      <span className={shared.unit}>{signal.unit === 'unit' ? '' : signal.unit}</span>
      <span className={styles.rate}>{rateHz === null ? '' : rateHz > 0 ? `${rateHz.toFixed(rateHz < 10 ? 1 : 0)}/s` : agoInWords(lastHeardMsAgo)}</span>
    </li>
  );
});
