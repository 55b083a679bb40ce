import { useEffect } from 'react';
import type { LiveConnection } from './connection';

/** The key that silences everything, wherever the focus is. */
export const PANIC_KEY = 'F8';

/** Panic on its key, for pages that have no button for it. `onPressed` takes the place of what it does. */
export function usePanicKey(live: LiveConnection, onPressed: () => void = () => live.panic()): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key !== PANIC_KEY || event.repeat) return;
      event.preventDefault();
      onPressed();
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  });
}
