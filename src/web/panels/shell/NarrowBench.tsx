import { useMedia } from '../../useMedia';
import { Leaving, Scenes } from '../stage/StagePanel';
import stage from '../stage/stage.module.css';
import shared from '../shared/shared.module.css';
import styles from './NarrowBench.module.css';

/** Windows of a phone held upright, and no others: a screen of half the width at 200 % is wider. */
const PHONE = '(max-width: 480px)';

export function useNarrow(): boolean {
  return useMedia(PHONE);
}

/** What the Bench is on a phone: scenes, what leaves, Panic in the bar above, and where the rest is. */
export function NarrowBench() {
  return (
    <div className={stage.screen}>
      <h1 className={shared.visuallyHidden}>Pumice on a phone</h1>
      <Scenes />
      <Leaving />
      <p className={styles.widerWindow}>Inputs, mappings, surfaces, outputs, ledger, takes and rigs want a wider window: open them on the computer or a tablet.</p>
    </div>
  );
}
