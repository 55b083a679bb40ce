import { useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

/** A floor of slabs; one that is struck harder glows more. */
export function Pads({ control }: { control: ControlOf<'pads'> }) {
  const { desk } = usePlaying();
  const slabs = useRef<HTMLDivElement>(null);
  const count = control.columns * control.rows;
  const { ref, ...handlers } = useControl(desk, control, (values) => {
    slabs.current!.childNodes.forEach((node, i) => {
      const slab = node as HTMLElement;
      const strength = values[`pad${i + 1}`] ?? 0;
      slab.dataset.on = String(strength > 0);
      slab.style.setProperty('--strength', `${Math.round(40 + strength * 60)}%`);
    });
  });
  return (
    <Shell ref={ref} {...handlers} control={control} look="pads" role="group" tabIndex={0}>
      <div className="floor" ref={slabs} style={{ gridTemplate: `repeat(${control.rows}, 1fr) / repeat(${control.columns}, 1fr)` }}>
        {Array.from({ length: count }, (_, i) => (
          <div className="slab" key={i} data-part data-strength={control.strength}>
            <span>{i + 1}</span>
          </div>
        ))}
      </div>
    </Shell>
  );
}
