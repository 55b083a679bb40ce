import { useEffect, useState } from 'react';
import styles from './BeforePlaying.module.css';

/**
 * What a play page says before it is played: that its screen may fall asleep, where no page can hinder that, and offers the whole screen, where
 * that can be had. Gone with the first finger on a control, so that it is never under a playing one.
 */
export function BeforePlaying() {
  const [maySleep, sayMaySleep] = useState(false);
  const [offersWhole, offerWhole] = useState(false);
  useEffect(() => {
    const changed = () => offerWhole(document.fullscreenEnabled && document.fullscreenElement === null && !matchMedia('(display-mode: fullscreen), (display-mode: standalone)').matches);
    const played = (event: Event) => {
      if (!(event.target as Element).closest('.control')) return;
      sayMaySleep(false);
      offerWhole(false);
    };
    sayMaySleep(!('wakeLock' in navigator));
    changed();
    document.addEventListener('fullscreenchange', changed);
    document.addEventListener('pointerdown', played);
    return () => {
      document.removeEventListener('fullscreenchange', changed);
      document.removeEventListener('pointerdown', played);
    };
  }, []);
  return (
    <div className={styles.before}>
      {maySleep && <p>The screen may fall asleep here: switch off its auto-lock.</p>}
      {offersWhole && (
        <button type="button" onClick={() => void document.documentElement.requestFullscreen({ navigationUI: 'hide' }).catch(() => offerWhole(false))}>
          Full screen
        </button>
      )}
    </div>
  );
}
