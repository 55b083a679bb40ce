import { useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

/** One step down on the left, one up on the right, the number between. */
export function Stepper({ control }: { control: ControlOf<'stepper'> }) {
  const { desk } = usePlaying();
  const number = useRef<HTMLSpanElement>(null);
  const { ref, ...handlers } = useControl(desk, control, ({ value = 0 }) => {
    const step = Math.round(value * (control.steps - 1)) + 1;
    number.current!.textContent = String(step);
    ref.current!.setAttribute('aria-valuenow', String(step));
  });
  return (
    <Shell ref={ref} {...handlers} control={control} look="stepper" role="spinbutton" tabIndex={0} aria-valuemin={1} aria-valuemax={control.steps}>
      <span className="step down" aria-hidden>
        −
      </span>
      <span className="number" ref={number} />
      <span className="step up" aria-hidden>
        +
      </span>
    </Shell>
  );
}
