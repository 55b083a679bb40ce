import { useEffect, useRef } from 'react';
import type { RigDocument } from '../../../core/rig/document';
import { useLive } from '../../live/LiveProvider';

/** What moved so long ago still counts as just moved. */
const RECENT_MS = 1000;
const KEPT = 128;

export interface RecentMoves {
  /** The values of the last second, oldest first, by signal. */
  values(): ReadonlyMap<string, readonly { timeMs: number; value: number }[]>;
  /** Whether it is known where everything lies. */
  isReady(): boolean;
  /** Tells of each further value until the function given back is called. */
  listen(listener: (signal: string, value: number, timeMs: number) => void): () => void;
}

/** Listens to every signal of the rig while a screen is open, so that what was moved just before a key was pressed is known. */
export function useRecentMoves(rig: RigDocument): RecentMoves {
  const live = useLive();
  const kept = useRef(new Map<string, { timeMs: number; value: number }[]>());
  const listeners = useRef(new Set<(signal: string, value: number, timeMs: number) => void>());
  const waited = useRef<readonly string[]>([]);
  const ids = rig.signals.flatMap(({ id, hidden }) => (hidden ? [] : [id])).join('\n');
  useEffect(() => {
    waited.current = ids.split('\n').filter(Boolean);
    const removes = waited.current.map((id) =>
      live.store.signals.listen(id, (value) => {
        const timeMs = performance.now();
        const values = kept.current.get(id) ?? [];
        // The last one before the window stays: it says where the signal lay.
        while (values.length > 1 && (values[1]!.timeMs < timeMs - RECENT_MS || values.length >= KEPT)) values.shift();
        values.push({ timeMs, value });
        kept.current.set(id, values);
        for (const listener of listeners.current) listener(id, value, timeMs);
      }),
    );
    return () => {
      for (const remove of removes) remove();
    };
  }, [live, ids]);
  const moves = useRef<RecentMoves>({
    values: () => {
      const fromMs = performance.now() - RECENT_MS;
      return new Map([...kept.current].map(([id, values]) => [id, values.filter(({ timeMs }, i) => timeMs >= fromMs || (values[i + 1]?.timeMs ?? Infinity) >= fromMs)]));
    },
    isReady: () => waited.current.every((id) => kept.current.has(id) || live.store.signals.silent.has(id)),
    listen: (listener) => {
      listeners.current.add(listener);
      return () => void listeners.current.delete(listener);
    },
  });
  return moves.current;
}
