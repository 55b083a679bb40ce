import { useCallback, useEffect, useRef, useState } from 'react';
import { HERE, type NamedFact } from '../../live/store';
import { useLive } from '../../live/LiveProvider';

/** So many are kept to be filtered and exported, and so many of them are drawn. */
const KEPT = 10_000;
const DRAWN = 200;
/** Of a list that is another one at each look nobody reads more than what is in sight, and more would cost frames. */
const DRAWN_IN_FLIGHT = 30;
const IN_FLIGHT = 60;
/** A list that people read need not change more often. */
const REFRESH_MS = 100;

interface Monitored {
  /** The newest of those that are shown, newest first. */
  rows: NamedFact[];
  /** How many of those that are kept would be shown. */
  count: number;
  missed: number;
  clear(): void;
  /** All that are kept and would be shown, oldest first. */
  all(): NamedFact[];
}

/** The latest facts that `shows` lets through; listens even while paused, so that nothing looks lost afterwards. */
export function useMonitor(shows: (fact: NamedFact) => boolean, paused: boolean): Monitored {
  const live = useLive();
  /** Oldest first; trimmed only now and then, as that costs more than adding. Each is looked at once, and again where `shows` changes. */
  const kept = useRef<NamedFact[]>([]);
  const shown = useRef<NamedFact[]>([]);
  const missed = useRef(0);
  const [state, setState] = useState<{ rows: NamedFact[]; count: number; missed: number }>({ rows: [], count: 0, missed: 0 });

  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let fresh = 0;
    const show = () => {
      timer = undefined;
      const drawn = fresh > IN_FLIGHT ? DRAWN_IN_FLIGHT : DRAWN;
      // Once it is quiet again all of it is there.
      if (fresh > IN_FLIGHT) timer = setTimeout(show, REFRESH_MS);
      fresh = 0;
      setState({ rows: shown.current.slice(-drawn).reverse(), count: shown.current.length, missed: missed.current });
    };
    shown.current = kept.current.filter(shows);
    if (!paused) show();
    const remove = live.store.facts.listen(HERE, (facts, dropped) => {
      missed.current += dropped;
      for (const fact of facts) {
        kept.current.push(fact);
        if (shows(fact)) {
          shown.current.push(fact);
          fresh++;
        }
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

function trim(rows: { current: NamedFact[] }): void {
  if (rows.current.length > 2 * KEPT) rows.current = rows.current.slice(-KEPT);
}
