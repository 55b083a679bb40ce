import { useIsRecordBusy } from '../live/useLiveFacts';
import { RunningTime } from './RunningTime';
import styles from './RecordingSign.module.css';

/** On a page that plays: a take is being recorded, and for how long. */
export function RecordingSign() {
  if (!useIsRecordBusy()) return null;
  return (
    <p className={styles.sign} aria-label="A take is being recorded">
      <i aria-hidden />
      <RunningTime />
    </p>
  );
}
