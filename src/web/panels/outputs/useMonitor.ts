import { useEffect, useRef, useState } from 'react';
import { HERE, type NamedFact } from '../../live/store';
import { useLive } from '../../live/LiveProvider';

export type Shown = 'both' | 'in' | 'out';

export interface MonitorRow {
  key: number;
  fact: NamedFact;
}

const KEPT = 200;
/** A list that people read need not change more often. */
const REFRESH_MS = 100;

/** The latest facts, newest first; listens even while paused, so that nothing looks lost afterwards. */
export function useMonitor(shown: Shown, paused: boolean): { rows: MonitorRow[]; missed: number; clear: () => void } {
  const live = useLive();
  const all = useRef<MonitorRow[]>([]);
  const nextKey = useRef(0);
  const [state, setState] = useState<{ rows: MonitorRow[]; missed: number }>({ rows: [], missed: 0 });
  const missed = useRef(0);

  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = () => {
      timer = undefined;
      const rows = shown === 'both' ? all.current : all.current.filter(({ fact }) => fact.direction === shown);
      setState({ rows: rows.slice(0, KEPT), missed: missed.current });
    };
    if (!paused) show();
    const remove = live.store.facts.listen(HERE, (facts, dropped) => {
      missed.current += dropped;
      const rows = facts.map((fact): MonitorRow => ({ key: nextKey.current++, fact })).reverse();
      all.current = [...rows, ...all.current].slice(0, 2 * KEPT);
      if (!paused) timer ??= setTimeout(show, REFRESH_MS);
    });
    return () => {
      clearTimeout(timer);
      remove();
    };
  }, [live, shown, paused]);

  const clear = () => {
    all.current = [];
    missed.current = 0;
    setState({ rows: [], missed: 0 });
  };
  return { ...state, clear };
}
