import { useRef } from 'react';
import type { ControlOf } from '../../../core/rig/document';
import { INSET } from '../../../core/surface/controlTouch';
import { isLying } from '../../../core/surface/touchValue';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

/** A well that fills: the level stands in it like water in a lock. A strip is a well with a middle. */
export function Fader({ control }: { control: ControlOf<'fader' | 'strip'> }) {
  const { desk } = usePlaying();
  const water = useRef<HTMLDivElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const lying = isLying(control.frame);
  const strip = control.kind === 'strip';
  const { ref, ...handlers } = useControl(desk, control, ({ value = 0 }, held) => {
    const length = lying ? control.frame.width : control.frame.height;
    const edge = (INSET + value * (length - 2 * INSET)) / length;
    const axis = lying ? 'X' : 'Y';
    const off = edge - 0.5;
    // A strip fills from its middle to where it stands.
    water.current!.style.transform = strip ? `translate${axis}(${(lying ? off : -off) * 50}%) scale${axis}(${Math.abs(off)})` : `scale${axis}(${edge})`;
    number.current!.textContent = String(Math.round(value * 127));
    ref.current!.dataset.held = String(held.size > 0);
    ref.current!.setAttribute('aria-valuenow', value.toFixed(2));
  });
  return (
    <Shell
      ref={ref}
      {...handlers}
      control={control}
      look={`fader ${lying ? 'lying' : ''} ${strip ? 'strip' : ''}`}
      role="slider"
      tabIndex={0}
      aria-orientation={lying ? 'horizontal' : 'vertical'}
      aria-valuemin={0}
      aria-valuemax={1}
    >
      <div className="water" ref={water} />
      <div className="marks" aria-hidden />
      <span className="number" ref={number} />
    </Shell>
  );
}
