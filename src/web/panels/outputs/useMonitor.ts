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
  /** Oldest first; trimmed only now and then, as that costs more than adding. */
  const kept = useRef<MonitorRow[]>([]);
  const nextKey = useRef(0);
  const missed = useRef(0);
  const [state, setState] = useState<{ rows: MonitorRow[]; count: number; missed: number }>({ rows: [], count: 0, missed: 0 });

  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = () => {
      timer = undefined;
      const all = kept.current.filter(({ fact }) => shows(fact));
      setState({ rows: all.slice(-DRAWN).reverse(), count: all.length, missed: missed.current });
    };
    if (!paused) show();
    const remove = live.store.facts.listen(HERE, (facts, dropped) => {
      missed.current += dropped;
      for (const fact of facts) kept.current.push({ key: nextKey.current++, fact });
      if (kept.current.length > 2 * KEPT) kept.current = kept.current.slice(-KEPT);
      if (!paused) timer ??= setTimeout(show, REFRESH_MS);
    });
    return () => {
      clearTimeout(timer);
      remove();
    };
  }, [live, shows, paused]);

  const clear = useCallback(() => {
    kept.current = [];
    missed.current = 0;
    setState({ rows: [], count: 0, missed: 0 });
  }, []);
  const all = useCallback(() => kept.current.filter(({ fact }) => shows(fact)), [shows]);
  return { ...state, clear, all };
}
