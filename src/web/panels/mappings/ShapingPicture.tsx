import { useEffect, useMemo } from 'react';
import { transferOf } from '../../../core/mapping/transfer';
import { fullness } from '../../../core/mapping/words';
import type { RigDerived, RigMapping, RigSignal } from '../../../core/rig/document';
import { rangeIn } from '../../../core/shaping/rangeIn';
import { useLive } from '../../live/LiveProvider';
import { useCanvas } from '../shared/useCanvas';

/** Points of the drawn curve. */
const POINTS = 96;

interface ShapingPictureProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
}

/** What a mapping makes of its signal: the signal's range across, the message's range up, and a dot where it is now. */
export function ShapingPicture({ mapping, signal }: ShapingPictureProps) {
  const live = useLive();
  const transfer = useMemo(() => transferOf(mapping, signal), [mapping, signal]);
  const { ref, wake } = useCanvas(({ context, width, height, palette }) => {
    const [lo, hi] = signal.range;
    const x = (value: number) => 4 + rangeIn(value, lo, hi) * (width - 8);
    const y = (level: number) => height - 4 - fullness(mapping.message, level) * (height - 8);
    context.strokeStyle = palette.hairline;
    context.lineWidth = 1;
    context.strokeRect(0.5, 0.5, width - 1, height - 1);
    context.strokeStyle = palette.accent;
    context.lineWidth = 1.75;
    context.beginPath();
    for (let i = 0; i <= POINTS; i++) {
      const value = lo + (i / POINTS) * (hi - lo);
      context.lineTo(x(value), y(transfer(value)));
    }
    context.stroke();

    const value = live.signalValue(signal.id);
    const level = live.mappingLevel(mapping.id);
    if (value === undefined || level === undefined) return;
    const moving = Math.abs(transfer(value) - level) > 0.004;
    context.fillStyle = moving ? palette.alive : palette.ink;
    context.beginPath();
    context.arc(x(value), y(level), 4, 0, 2 * Math.PI);
    context.fill();
  });
  useEffect(() => {
    const removers = [live.onSignal(signal.id, () => wake()), live.onMapping(mapping.id, () => wake())];
    return () => removers.forEach((remove) => remove());
  }, [live, signal.id, mapping.id, wake]);
  return <canvas ref={ref} className="shaping-picture" aria-hidden />;
}
