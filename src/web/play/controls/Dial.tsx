import { useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import { DIAL_SWEEP, isUpright } from '../../../core/surface/touchValue';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

const RADIUS = 40;

/** A dial turns with the way the finger goes, so a small one is as fine as a large one. An endless one turns over the whole circle. */
export function Dial({ control }: { control: ControlOf<'dial'> }) {
  const { desk } = usePlaying();
  const arc = useRef<SVGCircleElement>(null);
  const hand = useRef<SVGGElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const sweep = control.endless ? 1 : DIAL_SWEEP;
  const { ref, ...handlers } = useControl(desk, control, ({ value = 0 }, held) => {
    arc.current!.style.strokeDasharray = control.endless ? '0 1' : `${value * sweep} 1`;
    hand.current!.style.transform = `rotate(${(value * sweep - (control.endless ? 0 : sweep / 2)) * 360}deg)`;
    number.current!.textContent = control.endless ? '' : String(Math.round(value * 127));
    ref.current!.dataset.held = String(held.size > 0);
    ref.current!.setAttribute('aria-valuenow', value.toFixed(2));
  });
  const look = isUpright(control.frame) ? 'dial upright' : 'dial';
  return (
    <Shell ref={ref} {...handlers} control={control} look={look} role="slider" tabIndex={0} aria-valuemin={0} aria-valuemax={1}>
      <svg viewBox="-50 -50 100 100" aria-hidden>
        <g transform={`rotate(${90 + (1 - sweep) * 180})`}>
          <circle r={RADIUS} className="track" pathLength={1} style={{ strokeDasharray: `${sweep} 1` }} />
          <circle r={RADIUS} className="arc" pathLength={1} ref={arc} />
        </g>
        <g ref={hand}>
          <line y1={-RADIUS + 9} y2={-14} className="hand" />
        </g>
      </svg>
      <span className="number" ref={number} />
    </Shell>
  );
}
