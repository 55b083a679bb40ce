import { useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import { INSET } from '../../../core/surface/controlTouch';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

/** A length on the surface, whatever its scale becomes. */
const units = (length: number) => `calc(${length} * var(--unit))`;

/** A sheet of chart paper with the bearing lines of one point, or a point for each of several fingers. */
export function XyPad({ control }: { control: ControlOf<'xy'> }) {
  const { desk } = usePlaying();
  const points = useRef<HTMLDivElement>(null);
  const upright = useRef<HTMLDivElement>(null);
  const level = useRef<HTMLDivElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const { width, height } = control.frame;
  const fingers = control.fingers ?? 1;
  const { ref, ...handlers } = useControl(desk, control, (values, held) => {
    const left = (x: number) => units(INSET + x * (width - 2 * INSET));
    const top = (y: number) => units(INSET + (1 - y) * (height - 2 * INSET));
    points.current!.childNodes.forEach((node, i) => {
      const tail = i === 0 ? '' : String(i + 1);
      const point = node as HTMLElement;
      point.style.transform = `translate(${left(values[`x${tail}`] ?? 0)}, ${top(values[`y${tail}`] ?? 0)})`;
      point.dataset.held = String(held.has(`x${tail}`));
    });
    const { x = 0, y = 0 } = values;
    upright.current!.style.transform = `translateX(${left(x)})`;
    level.current!.style.transform = `translateY(${top(y)})`;
    number.current!.textContent = `${Math.round(x * 127)} · ${Math.round(y * 127)}`;
    ref.current!.dataset.held = String(held.size > 0);
    ref.current!.setAttribute('aria-valuetext', `${x.toFixed(2)} across, ${y.toFixed(2)} up`);
  });
  return (
    <Shell ref={ref} {...handlers} control={control} look="xy" role="slider" tabIndex={0} aria-valuenow={0}>
      <div className="upright" ref={upright} hidden={fingers > 1} />
      <div className="level" ref={level} hidden={fingers > 1} />
      <div ref={points}>
        {Array.from({ length: fingers }, (_, i) => (
          <div className="point" key={i}>
            {fingers > 1 && i + 1}
          </div>
        ))}
      </div>
      <span className="number" ref={number} hidden={fingers > 1} />
    </Shell>
  );
}
