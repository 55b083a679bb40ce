import { useCallback, useEffect, useState } from 'react';
import { addFigure } from '../../live/figures';
import { HERE, type NamedFact } from '../../live/store';
import { useLive } from '../../live/LiveProvider';
import { FactLog, type Listed } from './factLog';

interface Monitored {
  listed: Listed;
  /** How many came too fast to be listed. */
  missed: number;
  clear(): void;
  /** All that are listed, oldest first. */
  all(): readonly NamedFact[];
}

/** The latest facts that `shows` lets through; listens even while paused, so that nothing looks lost afterwards. */
export function useMonitor(shows: (fact: NamedFact) => boolean, paused: boolean): Monitored {
  const live = useLive();
  const [log] = useState(() => new FactLog());
  const [state, setState] = useState(() => ({ listed: log.listed, missed: 0 }));

  useEffect(() => log.hold(paused), [log, paused]);
  useEffect(() => {
    log.lookFor(shows);
    // With all that changes on the page: a list that people read need not change more often.
    const list = addFigure(() => setState({ listed: log.listed, missed: log.missed }));
    const remove = live.store.facts.listen(HERE, (facts, dropped) => {
      log.hear(facts, dropped);
      if (!paused) list.changed();
    });
    return () => {
      list.remove();
      remove();
    };
  }, [live, log, shows, paused]);

  const clear = useCallback(() => {
    log.clear();
    setState({ listed: log.listed, missed: 0 });
  }, [log]);
  const all = useCallback(() => log.all, [log]);
  return { ...state, clear, all };
}
