import { useRef } from 'react';
import { noteName } from '../../../core/midi/describe';
import type { ControlOf } from '../../../core/rig/document';
import { keyFrames } from '../../../core/surface/parts';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { Shell } from './Shell';

/** The keys of a keyboard, or of a scale, drawn where they are struck. */
export function Keys({ control }: { control: ControlOf<'keys'> }) {
  const { desk } = usePlaying();
  const board = useRef<HTMLDivElement>(null);
  const { frame, scale } = control;
  const keys = keyFrames(control);
  const { ref, ...handlers } = useControl(desk, control, (values) => {
    for (const node of board.current!.childNodes) {
      const key = node as HTMLElement;
      key.dataset.on = String((values[`key${key.dataset.note}`] ?? 0) > 0);
    }
  });
  const share = (part: number, whole: number) => `${(100 * part) / whole}%`;
  return (
    <Shell ref={ref} {...handlers} control={control} look="keys" role="group" tabIndex={0}>
      <div ref={board}>
        {keys.map(({ note, black, frame: { x, width, height } }) => (
          <div
            key={note}
            className={black ? 'note-key black' : 'note-key'}
            data-part
            data-note={note}
            style={{ left: share(x - frame.x, frame.width), width: share(width, frame.width), height: share(height, frame.height) }}
          >
            {(scale || note % 12 === 0) && <span>{noteName(note)}</span>}
          </div>
        ))}
      </div>
    </Shell>
  );
}
