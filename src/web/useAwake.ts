import { useEffect } from 'react';

/**
 * Keeps the screen on while the page is in view, where the browser can (Screen Wake Lock API; secure pages alone): a screen that sleeps
 * takes the sensors, the microphone and the camera of a phone along.
 */
export function useAwake(wanted = true): void {
  useEffect(() => {
    if (!wanted) return;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const hold = async () => {
      if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
      try {
        const held = await navigator.wakeLock.request('screen');
        if (over) void held.release();
        else lock = held;
      } catch {
        // A low battery may forbid it; the page goes on all the same.
      }
    };
    void hold();
    // The browser lets go of it whenever the page is hidden.
    document.addEventListener('visibilitychange', hold);
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', hold);
      void lock?.release();
    };
  }, [wanted]);
}
