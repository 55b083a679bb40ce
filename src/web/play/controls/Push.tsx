import type { ControlOf } from '../../../core/rig/document';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

/** A slab that sinks while it is held; a toggle's stays down until it is tapped again. */
export function Push({ control }: { control: ControlOf<'push' | 'toggle'> }) {
  const { desk } = usePlaying();
  const { ref, ...handlers } = useControl(desk, control, ({ gate = 0, value = 0 }) => {
    const down = gate > 0 || value > 0.5;
    ref.current!.dataset.held = String(down);
    ref.current!.setAttribute('aria-pressed', String(down));
  });
  return (
    <Shell ref={ref} {...handlers} control={control} look={control.kind === 'toggle' ? 'push toggle' : 'push'} role="button" tabIndex={0}>
      <span className="slab" aria-hidden />
      {control.kind === 'toggle' && <span className="lamp" aria-hidden />}
    </Shell>
  );
}
