import { atOnce } from '../atOnce';
import { useLive } from '../live/LiveProvider';
import { useInTurn } from '../live/useLiveFacts';
import styles from './InTurnBar.module.css';

/** As high as it is. */
export const IN_TURN_BAR_PX = 56;

/** What is being introduced now, where that is one of several: a tap says that it was learned, and the next has its turn. */
export function InTurnBar() {
  const live = useLive();
  const inTurn = useInTurn();
  if (!inTurn) return null;
  return (
    // Another finger may be on what is introduced.
    <button type="button" className={styles.bar} {...atOnce(() => live.tell({ kind: 'introduceNext' }))}>
      <span>
        {inTurn.at} of {inTurn.of}: <strong>{inTurn.words}</strong>
      </span>
      <span className={styles.next}>Learned, next</span>
    </button>
  );
}
