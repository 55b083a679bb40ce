import { useEffect, useRef } from 'react';
import type { RigDerived, RigMapping, RigSignal } from '../../../core/rig/document';
import { rangeIn } from '../../../core/shaping/rangeIn';
import { useLive } from '../../live/LiveProvider';
import { drawTrace } from '../../pictures/drawTrace';
import { Trace, TRACE_MS } from '../../pictures/trace';
import { useCanvas } from '../shared/useCanvas';

interface BeforeAfterProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
}

/** The signal as it comes in and the level as it leaves, on one time axis. */
export function BeforeAfter({ mapping, signal }: BeforeAfterProps) {
  const live = useLive();
  const before = useRef(new Trace());
  const after = useRef(new Trace());
  const { lo, hi } = mapping.shaping.rangeIn ?? { lo: signal.range[0], hi: signal.range[1] };
  const { ref, wake } = useCanvas((drawing) => {
    const { context, width, height, palette } = drawing;
    context.strokeStyle = palette.hairline;
    context.lineWidth = 1;
    for (let second = 1; second < 4; second++) {
      const x = Math.round((width * second) / 4) + 0.5;
      context.beginPath();
      context.moveTo(x, 0);
      context.lineTo(x, height);
      context.stroke();
    }
    drawTrace(drawing, before.current, (value) => rangeIn(value, lo, hi), palette.quiet);
    drawTrace(drawing, after.current, (level) => level, palette.accent);
  });
  useEffect(() => {
    const removers = [
      live.onSignal(signal.id, (value) => {
        before.current.push(performance.now(), value);
        wake(TRACE_MS);
      }),
      live.onMapping(mapping.id, (level) => {
        after.current.push(performance.now(), level);
        wake(TRACE_MS);
      }),
    ];
    return () => removers.forEach((remove) => remove());
  }, [live, signal.id, mapping.id, wake]);
  return (
    <figure className="before-after">
      <canvas ref={ref} role="img" aria-label="The signal before and the level after shaping, over four seconds" />
      <figcaption>
        <span className="key before">before</span>
        <span className="key after">after</span>
        <span>4 s</span>
      </figcaption>
    </figure>
  );
}
