import { useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import { INSET } from '../../../core/surface/controlTouch';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

/** Wells side by side: one object of many faders, or lanes that each keep a finger. */
export function Lanes({ control }: { control: ControlOf<'faders' | 'tracks'> }) {
  const { desk } = usePlaying();
  const lanes = useRef<HTMLDivElement>(null);
  const { ref, ...handlers } = useControl(desk, control, (values, held) => {
    const { height } = control.frame;
    lanes.current!.childNodes.forEach((lane, i) => {
      const role = `value${i + 1}`;
      const edge = (INSET + (values[role] ?? 0) * (height - 2 * INSET)) / height;
      (lane.firstChild as HTMLElement).style.transform = `scaleY(${edge})`;
      (lane as HTMLElement).dataset.held = String(held.has(role));
    });
    ref.current!.dataset.held = String(held.size > 0);
    ref.current!.setAttribute('aria-valuetext', Array.from({ length: control.count }, (_, i) => Math.round((values[`value${i + 1}`] ?? 0) * 127)).join(', '));
  });
  return (
    <Shell ref={ref} {...handlers} control={control} look={control.kind === 'tracks' ? 'lanes tracks' : 'lanes'} role="slider" aria-valuenow={0} tabIndex={0}>
      <div className="row" ref={lanes}>
        {Array.from({ length: control.count }, (_, i) => (
          <div className="lane" key={i} data-cell>
            <div className="water" />
          </div>
        ))}
      </div>
    </Shell>
  );
}
