import { useEffect } from 'react';
import { useLatest } from '../useLatest';

interface KeptHere {
  isKept: boolean;
  flush(leaves?: boolean): Promise<void>;
}

/**
 * Settings that other windows may have changed meanwhile are read again when this one is come back to, unless it is in use or has
 * changed them itself; what is not kept yet when it goes is kept then.
 */
export function useKeptElsewhere(kept: { readonly current: KeptHere | null }, isInUse: boolean, readAgain: () => void): void {
  const latest = useLatest({ isInUse, readAgain });
  useEffect(() => {
    const look = () => {
      if (kept.current?.isKept && !latest.current.isInUse) latest.current.readAgain();
    };
    const flush = () => void kept.current?.flush(true);
    addEventListener('focus', look);
    addEventListener('pagehide', flush);
    return () => {
      removeEventListener('focus', look);
      removeEventListener('pagehide', flush);
    };
  }, [kept, latest]);
}
