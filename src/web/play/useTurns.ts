import { useCallback, useEffect, useRef, useState } from 'react';
import type { Turn } from '../../protocol/live';
import { ofWindow } from '../remember';

interface Kept {
  to: unknown;
  seenMs: number;
}

/**
 * Where a surface is turned to, by hand and by the host, whoever did so last; a page that is loaded anew is there again. The host says its
 * last turn again with every scene and every line that is back, when a hand may have turned on since: each counts once.
 * @param key under which the window keeps it, null for not at all
 */
export function useTurns<T extends string | number>(key: string | null, first: T, turn: Turn<T> | undefined): [to: T, turnTo: (to: T) => void] {
  const [to, setTo] = useState(first);
  const seenMs = useRef(0);
  const turnTo = useCallback(
    (next: T) => {
      setTo(next);
      if (key !== null) ofWindow.set(key, JSON.stringify({ to: next, seenMs: seenMs.current } satisfies Kept));
    },
    [key],
  );
  useEffect(() => {
    const kept = key === null ? null : (JSON.parse(ofWindow.get(key) ?? 'null') as Kept | null);
    if (!kept) return;
    seenMs.current = kept.seenMs;
    setTo(kept.to as T);
  }, [key]);
  useEffect(() => {
    if (!turn || turn.atMs === seenMs.current) return;
    seenMs.current = turn.atMs;
    turnTo(turn.to);
  }, [turn, turnTo]);
  return [to, turnTo];
}
