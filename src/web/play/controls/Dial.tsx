import { useRef } from 'react';
import type { RigControl } from '../../../core/rig/document';
import type { PlayDesk } from '../playDesk';
import { useControl } from '../useControl';
import { frameStyle } from './frameStyle';

interface DialProps {
  control: Extract<RigControl, { kind: 'dial' }>;
  desk: PlayDesk;
  scale: number;
}

/** The arc runs over three quarters of the circle, the gap below. */
const SWEEP = 0.75;
const RADIUS = 40;

/** A dial with ends; it turns with the way the finger goes, so a small one is as fine as a large one. */
export function Dial({ control, desk, scale }: DialProps) {
  const arc = useRef<SVGCircleElement>(null);
  const hand = useRef<SVGGElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const { ref, ...handlers } = useControl(desk, control, ({ value = 0 }, held) => {
    arc.current!.style.strokeDasharray = `${value * SWEEP} 1`;
    hand.current!.style.transform = `rotate(${(value * SWEEP - SWEEP / 2) * 360}deg)`;
    number.current!.textContent = String(Math.round(value * 127));
    ref.current!.dataset.held = String(held);
    ref.current!.setAttribute('aria-valuenow', value.toFixed(2));
  });
  return (
    <div
      ref={ref}
      {...handlers}
      className="control dial"
      style={frameStyle(control.frame, scale)}
      role="slider"
      tabIndex={0}
      aria-label={control.label}
      aria-valuemin={0}
      aria-valuemax={1}
      data-control={control.id}
    >
      <svg viewBox="-50 -50 100 100" aria-hidden>
        <g transform={`rotate(${90 + (1 - SWEEP) * 180})`}>
          <circle r={RADIUS} className="track" pathLength={1} style={{ strokeDasharray: `${SWEEP} 1` }} />
          <circle r={RADIUS} className="arc" pathLength={1} ref={arc} />
        </g>
        <g ref={hand}>
          <line y1={-RADIUS + 9} y2={-14} className="hand" />
        </g>
      </svg>
      <span className="label">{control.label}</span>
      <span className="number" ref={number} />
    </div>
  );
}
