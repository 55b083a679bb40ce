import { useEffect, useState } from 'react';

/** Where the focus is, unless it is nowhere in particular. */
const focused = (): HTMLElement | null => (typeof document === 'undefined' || document.activeElement === document.body ? null : (document.activeElement as HTMLElement | null));

/**
 * Gives the focus back to where it was before, when what uses this goes and takes the focus with it. Where that is gone too, the
 * next Tab begins with the screen and not with the whole page.
 */
export function useFocusBack(): void {
  const [before] = useState(focused);
  useEffect(() => {
    // What it was in may have gone in the same moment, and have given it back in its turn.
    const opener = before?.isConnected ? before : focused();
    return () => {
      if (focused()) return;
      // What is gone or locked takes none.
      opener?.focus({ preventScroll: true });
      if (!focused()) document.querySelector<HTMLElement>('main')?.focus({ preventScroll: true });
    };
  }, [before]);
}
