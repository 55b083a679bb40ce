import { useRef, type RefObject } from 'react';
import { noteName } from '../../../core/midi/describe';
import type { ControlOf } from '../../../core/rig/document';
import { keyFrames } from '../../../core/surface/cells';
import { usePlaying } from '../PlayContext';
import { useControl } from '../useControl';
import { useVoices } from '../useVoices';
import { Shell } from './Shell';

/** The keys of a keyboard, or of a scale, drawn where they are struck: each a gate of its own. */
export function Keys({ control }: { control: ControlOf<'keys'> }) {
  const { desk } = usePlaying();
  const board = useRef<HTMLDivElement>(null);
  const { ref, ...handlers } = useControl(desk, control, (values) => light(board, (note) => (values[`key${note}`] ?? 0) > 0));
  return (
    <Shell ref={ref} {...handlers} control={control} look="keys" role="group" tabIndex={0}>
      <Board control={control} board={board} />
    </Shell>
  );
}

/** Keys that are voices of one stream. */
export function VoiceKeys({ control }: { control: ControlOf<'keys'> }) {
  const board = useRef<HTMLDivElement>(null);
  const keys = keyFrames(control);
  const at = (cell: number) => {
    const { x, y, width, height } = keys[cell]!.frame;
    return { at: { x: x + width / 2, y: y + height }, size: 0 };
  };
  const { ref, ...handlers } = useVoices(
    control,
    (voices) => {
      const held = new Set([...voices.values()].map(({ pitch }) => pitch));
      light(board, (note) => held.has(note));
    },
    { count: keys.length, at },
  );
  return (
    <Shell ref={ref} {...handlers} control={control} look="keys" role="group" tabIndex={0}>
      <Board control={control} board={board} />
    </Shell>
  );
}

function light(board: RefObject<HTMLDivElement | null>, isOn: (note: number) => boolean): void {
  for (const node of board.current!.childNodes) {
    const key = node as HTMLElement;
    key.dataset.on = String(isOn(Number(key.dataset.note)));
  }
}

function Board({ control, board }: { control: ControlOf<'keys'>; board: RefObject<HTMLDivElement | null> }) {
  const { frame, scale } = control;
  const share = (cell: number, whole: number) => `${(100 * cell) / whole}%`;
  return (
    <div ref={board}>
      {keyFrames(control).map(({ note, black, frame: { x, width, height } }) => (
        <div
          key={note}
          className={black ? 'note-key black' : 'note-key'}
          data-cell
          data-note={note}
          style={{ left: share(x - frame.x, frame.width), width: share(width, frame.width), height: share(height, frame.height) }}
        >
          {(scale || note % 12 === 0) && <span>{noteName(note)}</span>}
        </div>
      ))}
    </div>
  );
}
