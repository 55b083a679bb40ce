import { useSyncExternalStore } from 'react';

/** Whether a media query holds in this window; on the server, and until the page has taken over, it does not. */
export function useMedia(query: string): boolean {
  return useSyncExternalStore(
    (listener) => {
      const media = matchMedia(query);
      media.addEventListener('change', listener);
      return () => media.removeEventListener('change', listener);
    },
    () => matchMedia(query).matches,
    () => false,
  );
}
