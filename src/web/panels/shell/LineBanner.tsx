import { useLineStatus, useLineWords } from '../../live/useLiveFacts';
import styles from './LineBanner.module.css';

/** Says so while the line to the hub is down; nothing on screen is live then. */
export function LineBanner() {
  const status = useLineStatus();
  const words = useLineWords();
  return (
    <div role="status" className={styles.lineBanner} data-line={status}>
      {status === 'lost' && `${words} What you see may be old.`}
    </div>
  );
}
