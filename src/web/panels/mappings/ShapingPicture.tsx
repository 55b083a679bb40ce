import { useEffect, useMemo, useRef } from 'react';
import { transferOf } from '../../../core/mapping/transfer';
import { fullness } from '../../../core/mapping/words';
import type { RigDerived, RigMapping, RigSignal } from '../../../core/rig/document';
import { rangeIn } from '../../../core/shaping/rangeIn';
import { useLive } from '../../live/LiveProvider';
import { useCanvas } from '../shared/useCanvas';
import { Trail, TRAIL_MS } from './trail';

/** Points of the drawn curve. */
const POINTS = 96;
/** What the picture leaves free at its left and right. */
export const PICTURE_EDGE_PX = 4;

interface ShapingPictureProps {
  mapping: RigMapping;
  signal: RigSignal | RigDerived;
  /** Whether the dot leaves a trail. */
  trail?: boolean;
}

/** What a mapping makes of its signal: the signal's range across, the message's range up, and a dot where it is now. */
export function ShapingPicture({ mapping, signal, trail = false }: ShapingPictureProps) {
  const live = useLive();
  const past = useRef(new Trail());
  const transfer = useMemo(() => transferOf(mapping, signal), [mapping, signal]);
  const { ref, wake } = useCanvas(({ context, width, height, palette, nowMs }) => {
    const [lo, hi] = signal.range;
    const x = (value: number) => PICTURE_EDGE_PX + rangeIn(value, lo, hi) * (width - 2 * PICTURE_EDGE_PX);
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

    context.fillStyle = palette.alive;
    for (const { age, value, level } of past.current.since(nowMs)) {
      context.globalAlpha = (1 - age) * 0.7;
      context.beginPath();
      context.arc(x(value), y(level), 2, 0, 2 * Math.PI);
      context.fill();
    }
    context.globalAlpha = 1;

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
    const leave = () => {
      const [value, level] = [live.signalValue(signal.id), live.mappingLevel(mapping.id)];
      if (trail && value !== undefined && level !== undefined) past.current.push(performance.now(), value, level);
      wake(trail ? TRAIL_MS : undefined);
    };
    const removers = [live.onSignal(signal.id, leave), live.onMapping(mapping.id, leave)];
    return () => removers.forEach((remove) => remove());
  }, [live, signal.id, mapping.id, wake, trail]);
  return <canvas ref={ref} className="shaping-picture" aria-hidden />;
}
