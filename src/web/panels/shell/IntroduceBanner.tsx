import { useEffect } from 'react';
import { useLive } from '../../live/LiveProvider';
import { useIntroducing } from '../../live/useLiveFacts';
import styles from './IntroduceBanner.module.css';
import { useInTurnActions } from './InTurnProvider';
import { useRig } from './useRig';

/** Says, on every screen, that one mapping is sent alone, and leads through several; Escape or a button ends it. */
export function IntroduceBanner() {
  const live = useLive();
  const introducing = useIntroducing();
  const { document: rig } = useRig();
  const { running, learned, turnTo, end } = useInTurnActions();
  useEffect(() => {
    if (introducing === null) return;
    const press = (event: KeyboardEvent) => event.key === 'Escape' && end();
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, [live, introducing, end]);
  const name = [...rig.mappings, ...rig.voiceMappings].find(({ id }) => id === introducing)?.name ?? introducing;
  return (
    <div role="status" className={styles.banner}>
      {introducing !== null && (
        <>
          <span>
            Introducing <strong>{name}</strong> alone
            {running ? `, ${running.at + 1} of ${running.mappings.length}. Everything else is held back.` : '. Everything else is held back, for half a minute at most.'}
          </span>
          {running && (
            <>
              <button type="button" disabled={running.at === 0} onClick={() => turnTo(running.at - 1)}>
                Back
              </button>
              <button type="button" onClick={() => turnTo(running.at + 1)}>
                Skip
              </button>
              <button type="button" className={styles.main} onClick={learned}>
                Learned, next
              </button>
            </>
          )}
          <button type="button" onClick={end}>
            End <kbd>Esc</kbd>
          </button>
        </>
      )}
    </div>
  );
}
