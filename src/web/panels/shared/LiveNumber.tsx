import { useEffect } from 'react';
import type { RigDerived, RigSignal } from '../../../core/rig/document';
import { useLive } from '../../live/LiveProvider';
import { addFigure } from '../../live/figures';
import { useInView } from './useInView';
import shared from './shared.module.css';

/** Decimals that tell two positions of a hand apart over this range. */
function decimalsFor([lo, hi]: readonly [number, number]): number {
  const width = Math.abs(hi - lo);
  return width >= 500 ? 0 : width >= 20 ? 1 : width >= 5 ? 2 : 3;
}

/** The value of a signal in its unit, in figures of one width; written past React, with all others of the page. */
export function LiveNumber({ signal }: { signal: RigSignal | RigDerived }) {
  const live = useLive();
  const { ref, inView } = useInView<HTMLSpanElement>();
  const decimals = decimalsFor(signal.range);
  const isGate = signal.kind === 'gate';
  useEffect(() => {
    let latest = live.store.signals.value(signal.id);
    const figure = addFigure(() => {
      if (ref.current && latest !== undefined) ref.current.textContent = isGate ? (latest > 0 ? `on ${latest.toFixed(2)}` : 'off') : latest.toFixed(decimals);
    }, inView);
    const remove = live.store.signals.listen(signal.id, (value) => {
      latest = value;
      figure.changed();
    });
    return () => {
      remove();
      figure.remove();
    };
  }, [ref, inView, live, signal.id, decimals, isGate]);
  return (
    <span className={shared.value} ref={ref} data-value>
      –
    </span>
  );
}
