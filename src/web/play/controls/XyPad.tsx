import { useRef } from 'react';
import type { RigControl } from '../../../core/rig/document';
import { INSET, type PlayDesk } from '../playDesk';
import { useControl } from '../useControl';
import { frameStyle } from './frameStyle';

interface XyPadProps {
  control: Extract<RigControl, { kind: 'xy' }>;
  desk: PlayDesk;
  scale: number;
}

/** A sheet of chart paper with the bearing lines of one point. */
export function XyPad({ control, desk, scale }: XyPadProps) {
  const point = useRef<HTMLDivElement>(null);
  const upright = useRef<HTMLDivElement>(null);
  const level = useRef<HTMLDivElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const { width, height } = control.frame;
  const { ref, ...handlers } = useControl(desk, control, ({ x = 0, y = 0 }, held) => {
    const left = (INSET + x * (width - 2 * INSET)) * frameScale();
    const top = (INSET + (1 - y) * (height - 2 * INSET)) * frameScale();
    point.current!.style.transform = `translate(${left}px, ${top}px)`;
    upright.current!.style.transform = `translateX(${left}px)`;
    level.current!.style.transform = `translateY(${top}px)`;
    number.current!.textContent = `${Math.round(x * 127)} · ${Math.round(y * 127)}`;
    ref.current!.dataset.held = String(held);
    ref.current!.setAttribute('aria-valuetext', `${x.toFixed(2)} across, ${y.toFixed(2)} up`);
  });
  const frameScale = () => ref.current!.clientWidth / width;
  return (
    <div
      ref={ref}
      {...handlers}
      className="control xy"
      style={frameStyle(control.frame, scale)}
      role="slider"
      tabIndex={0}
      aria-label={control.label}
      aria-valuenow={0}
      data-control={control.id}
    >
      <div className="upright" ref={upright} />
      <div className="level" ref={level} />
      <div className="point" ref={point} />
      <span className="label">{control.label}</span>
      <span className="number" ref={number} />
    </div>
  );
}
