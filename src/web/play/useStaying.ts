import { useEffect } from 'react';

/** A step back so soon after a finger is a palm or an edge gesture, not a wish to leave. */
const SLIP_MS = 1500;

/** Stays on the page where a gesture of the playing hand would go back; a deliberate step back leaves. */
export function useStaying(): void {
  useEffect(() => {
    let touchedMs = -Infinity;
    let guarded = false;
    const guard = () => {
      guarded = true;
      history.pushState(history.state, '', location.href);
    };
    const touch = (event: Event) => {
      touchedMs = event.timeStamp;
      if (!guarded) guard();
    };
    const back = () => {
      if (performance.now() - touchedMs < SLIP_MS) guard();
      else if (guarded) {
        guarded = false;
        history.back();
      }
    };
    addEventListener('pointerdown', touch);
    addEventListener('pointermove', touch);
    addEventListener('popstate', back);
    return () => {
      removeEventListener('pointerdown', touch);
      removeEventListener('pointermove', touch);
      removeEventListener('popstate', back);
    };
  }, []);
}
