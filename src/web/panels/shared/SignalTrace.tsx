import { useEffect, useRef } from 'react';
import type { RigDerived, RigSignal } from '../../../core/rig/document';
import { rangeIn } from '../../../core/shaping/rangeIn';
import { useLive } from '../../live/LiveProvider';
import { drawTrace, drawTraceEnd, isAlive } from '../../pictures/drawTrace';
import { Trace, TRACE_MS } from '../../pictures/trace';
import { useCanvas } from './useCanvas';
import styles from './TraceCanvas.module.css';

/** The last four seconds of a signal; sulphur while it moves. */
export function TraceCanvas({ signal }: { signal: RigSignal | RigDerived }) {
  const live = useLive();
  const trace = useRef(new Trace());
  const changedMs = useRef(-Infinity);
  const { ref, wake } = useCanvas((drawing) => {
    const { context, width, height, palette, nowMs } = drawing;
    context.fillStyle = palette.hairline;
    context.fillRect(0, height - 1, width, 1);
    const toUnit = (value: number) => rangeIn(value, signal.range[0], signal.range[1]);
    drawTrace(drawing, trace.current, toUnit, palette.ink);
    drawTraceEnd(drawing, trace.current, toUnit, isAlive(changedMs.current, nowMs));
  }, true);
  useEffect(
    () =>
      live.store.signals.listen(signal.id, (value) => {
        const nowMs = performance.now();
        if (value !== trace.current.latest) changedMs.current = nowMs;
        trace.current.push(nowMs, value);
        wake(TRACE_MS);
      }),
    [live, signal.id, wake],
  );
  return <canvas ref={ref} className={styles.trace} aria-hidden />;
}
