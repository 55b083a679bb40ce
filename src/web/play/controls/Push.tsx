import type { RigControl } from '../../../core/rig/document';
import type { PlayDesk } from '../playDesk';
import { useControl } from '../useControl';
import { frameStyle } from './frameStyle';

interface PushProps {
  control: Extract<RigControl, { kind: 'push' }>;
  desk: PlayDesk;
  scale: number;
}

/** A slab that sinks while it is held. */
export function Push({ control, desk, scale }: PushProps) {
  const { ref, ...handlers } = useControl(desk, control, ({ gate = 0 }) => {
    ref.current!.dataset.held = String(gate > 0);
    ref.current!.setAttribute('aria-pressed', String(gate > 0));
  });
  return (
    <div
      ref={ref}
      {...handlers}
      className="control push"
      style={frameStyle(control.frame, scale)}
      role="button"
      tabIndex={0}
      aria-label={control.label}
      data-control={control.id}
    >
      <span className="slab" aria-hidden />
      <span className="label">{control.label}</span>
    </div>
  );
}
