import { useRef } from 'react';
import type { RigControl } from '../../../core/rig/document';
import { INSET, type PlayDesk } from '../playDesk';
import { useControl } from '../useControl';
import { frameStyle } from './frameStyle';

interface FaderProps {
  control: Extract<RigControl, { kind: 'fader' }>;
  desk: PlayDesk;
  scale: number;
}

/** A well that fills: the level stands in it like water in a lock. */
export function Fader({ control, desk, scale }: FaderProps) {
  const water = useRef<HTMLDivElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const lying = control.frame.width > control.frame.height;
  const { ref, ...handlers } = useControl(desk, control, ({ value = 0 }, held) => {
    const length = lying ? control.frame.width : control.frame.height;
    const edge = (INSET + value * (length - 2 * INSET)) / length;
    water.current!.style.transform = lying ? `scaleX(${edge})` : `scaleY(${edge})`;
    number.current!.textContent = String(Math.round(value * 127));
    ref.current!.dataset.held = String(held);
    ref.current!.setAttribute('aria-valuenow', value.toFixed(2));
  });
  return (
    <div
      ref={ref}
      {...handlers}
      className={`control fader ${lying ? 'lying' : ''}`}
      style={frameStyle(control.frame, scale)}
      role="slider"
      tabIndex={0}
      aria-label={control.label}
      aria-orientation={lying ? 'horizontal' : 'vertical'}
      aria-valuemin={0}
      aria-valuemax={1}
      data-control={control.id}
    >
      <div className="water" ref={water} />
      <div className="marks" aria-hidden />
      <span className="label">{control.label}</span>
      <span className="number" ref={number} />
    </div>
  );
}
