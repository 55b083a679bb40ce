import { useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import { isLying } from '../../../core/surface/touchValue';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

/** Slabs in a row of which one is down. */
export function Choice({ control }: { control: ControlOf<'radio'> }) {
  const { desk } = usePlaying();
  const slabs = useRef<HTMLDivElement>(null);
  const { ref, ...handlers } = useControl(desk, control, ({ value = 0 }) => {
    const chosen = Math.round(value * (control.choices.length - 1));
    slabs.current!.childNodes.forEach((slab, i) => ((slab as HTMLElement).dataset.on = String(i === chosen)));
    ref.current!.setAttribute('aria-valuenow', String(chosen + 1));
    ref.current!.setAttribute('aria-valuetext', control.choices[chosen] ?? '');
  });
  return (
    <Shell ref={ref} {...handlers} control={control} look={`choice ${isLying(control.frame) ? '' : 'narrow'}`} role="slider" tabIndex={0} aria-valuemin={1} aria-valuemax={control.choices.length}>
      <div className="row" ref={slabs}>
        {control.choices.map((words, i) => (
          <div className="slab" key={i} data-cell>
            {words}
          </div>
        ))}
      </div>
    </Shell>
  );
}
