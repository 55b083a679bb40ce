import { useEffect, useMemo, useRef } from 'react';
import { transferOf } from '../../../core/mapping/transfer';
import type { RigDerived, RigMapping, RigSignal } from '../../../core/rig/document';
import { useLive } from '../../live/LiveProvider';
import { drawDot, drawTransfer, transferAxes, transferPath } from '../../pictures/drawTransfer';
import { useCanvas } from '../shared/useCanvas';
import { Trail, TRAIL_MS } from './trail';

interface ShapingPictureProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
}

/** What a mapping makes of its signal: the signal's range across, the message's range up, a dot where it is now and its trail. */
export function ShapingPicture({ mapping, signal }: ShapingPictureProps) {
  const live = useLive();
  const past = useRef(new Trail());
  const transfer = useMemo(() => transferOf(mapping, signal), [mapping, signal]);
  const { ref, wake } = useCanvas((drawing) => {
    const { context, palette, nowMs } = drawing;
    const axes = transferAxes(signal.range, mapping.message, drawing);
    drawTransfer(drawing, transferPath(signal.range, transfer, axes));
    context.fillStyle = palette.alive;
    for (const { age, value, level } of past.current.since(nowMs)) {
      context.globalAlpha = (1 - age) * 0.7;
      context.beginPath();
      context.arc(axes.x(value), axes.y(level), 2, 0, 2 * Math.PI);
      context.fill();
    }
    context.globalAlpha = 1;
    const value = live.signalValue(signal.id);
    const level = live.mappingLevel(mapping.id);
    if (value !== undefined && level !== undefined) drawDot(drawing, axes, value, level, transfer(value));
  });
  useEffect(() => {
    const leave = () => {
      const [value, level] = [live.signalValue(signal.id), live.mappingLevel(mapping.id)];
      if (value !== undefined && level !== undefined) past.current.push(performance.now(), value, level);
      wake(TRAIL_MS);
    };
    const removers = [live.onSignal(signal.id, leave), live.onMapping(mapping.id, leave)];
    return () => removers.forEach((remove) => remove());
  }, [live, signal.id, mapping.id, wake]);
  return <canvas ref={ref} className="shaping-picture" aria-hidden />;
}
