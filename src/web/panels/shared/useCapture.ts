import { useCallback, useEffect, useRef, useState } from 'react';
import { useLive } from '../../live/LiveProvider';

/** Every raw number of one signal, with its time on the hub's clock. */
export interface CapturedSignal {
  timesMs: number[];
  values: number[];
}

export type Captured = ReadonlyMap<string, CapturedSignal>;

/** Captures every raw number of some signals while `on`; what was captured before is forgotten when it goes on again. */
export function useCapture(signals: readonly string[], on: boolean): { count: number; take: () => Captured } {
  const live = useLive();
  const captured = useRef(new Map<string, CapturedSignal>());
  const [count, setCount] = useState(0);
  const key = signals.join('\n');
  useEffect(() => {
    if (!on) return;
    const all = new Map<string, CapturedSignal>();
    captured.current = all;
    let seen = 0;
    const removes = key.split('\n').map((signal) =>
      live.store.captured.listen(signal, (timeMs, value) => {
        const one = all.get(signal) ?? { timesMs: [], values: [] };
        one.timesMs.push(timeMs);
        one.values.push(value);
        all.set(signal, one);
        seen++;
      }),
    );
    const timer = setInterval(() => setCount(seen), 200);
    return () => {
      clearInterval(timer);
      setCount(seen);
      for (const remove of removes) remove();
    };
  }, [live, key, on]);
  const take = useCallback((): Captured => captured.current, []);
  return { count, take };
}
