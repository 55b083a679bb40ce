import { useCallback, useEffect, useRef, useState } from 'react';
import { HERE, type NamedFact } from '../../live/store';
import { useLive } from '../../live/LiveProvider';

export interface MonitorRow {
  key: number;
  fact: NamedFact;
}

/** So many are kept to be filtered and exported, and so many of them are drawn. */
const KEPT = 10_000;
const DRAWN = 200;
/** A list that people read need not change more often. */
const REFRESH_MS = 100;

interface Monitored {
  /** The newest of those that are shown, newest first. */
  rows: MonitorRow[];
  /** How many of those that are kept would be shown. */
  count: number;
  missed: number;
  clear(): void;
  /** All that are kept and would be shown, oldest first. */
  all(): MonitorRow[];
}

/** The latest facts that `shows` lets through; listens even while paused, so that nothing looks lost afterwards. */
export function useMonitor(shows: (fact: NamedFact) => boolean, paused: boolean): Monitored {
  const live = useLive();
  /** Oldest first; trimmed only now and then, as that costs more than adding. Each is looked at once, and again where `shows` changes. */
  const kept = useRef<MonitorRow[]>([]);
  const shown = useRef<MonitorRow[]>([]);
  const nextKey = useRef(0);
  const missed = useRef(0);
  const [state, setState] = useState<{ rows: MonitorRow[]; count: number; missed: number }>({ rows: [], count: 0, missed: 0 });

  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = () => {
      timer = undefined;
      setState({ rows: shown.current.slice(-DRAWN).reverse(), count: shown.current.length, missed: missed.current });
    };
    shown.current = kept.current.filter(({ fact }) => shows(fact));
    if (!paused) show();
    const remove = live.store.facts.listen(HERE, (facts, dropped) => {
      missed.current += dropped;
      for (const fact of facts) {
        const row = { key: nextKey.current++, fact };
        kept.current.push(row);
        if (shows(fact)) shown.current.push(row);
      }
      trim(kept);
      trim(shown);
      if (!paused) timer ??= setTimeout(show, REFRESH_MS);
    });
    return () => {
      clearTimeout(timer);
      remove();
    };
  }, [live, shows, paused]);

  const clear = useCallback(() => {
    kept.current = [];
    shown.current = [];
    missed.current = 0;
    setState({ rows: [], count: 0, missed: 0 });
  }, []);
  const all = useCallback(() => [...shown.current], []);
  return { ...state, clear, all };
}

function trim(rows: { current: MonitorRow[] }): void {
  if (rows.current.length > 2 * KEPT) rows.current = rows.current.slice(-KEPT);
}
