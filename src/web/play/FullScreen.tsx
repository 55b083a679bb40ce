import { useEffect, useState } from 'react';
import styles from './FullScreen.module.css';

/** Offers the whole screen until a control is played, so that it is never under a playing finger. */
export function FullScreen() {
  const [offered, offer] = useState(false);
  useEffect(() => {
    const changed = () => offer(document.fullscreenEnabled && document.fullscreenElement === null && !matchMedia('(display-mode: fullscreen), (display-mode: standalone)').matches);
    const played = (event: Event) => (event.target as Element).closest('.control') && offer(false);
    changed();
    document.addEventListener('fullscreenchange', changed);
    document.addEventListener('pointerdown', played);
    return () => {
      document.removeEventListener('fullscreenchange', changed);
      document.removeEventListener('pointerdown', played);
    };
  }, []);
  if (!offered) return null;
  return (
    <button type="button" className={styles.fullScreen} onClick={() => void document.documentElement.requestFullscreen({ navigationUI: 'hide' }).catch(() => offer(false))}>
      Full screen
    </button>
  );
}
