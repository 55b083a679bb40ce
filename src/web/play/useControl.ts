import { useEffect, useRef, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { RigControl } from '../../core/rig/document';
import type { ControlPicture, PlayDesk } from './playDesk';

interface ControlHandlers {
  ref: RefObject<HTMLDivElement | null>;
  onPointerDown: (event: PointerEvent<HTMLDivElement>) => void;
  onPointerMove: (event: PointerEvent<HTMLDivElement>) => void;
  onPointerUp: (event: PointerEvent<HTMLDivElement>) => void;
  onPointerCancel: (event: PointerEvent<HTMLDivElement>) => void;
  onLostPointerCapture: (event: PointerEvent<HTMLDivElement>) => void;
  onKeyDown: (event: KeyboardEvent<HTMLDivElement>) => void;
  onKeyUp: (event: KeyboardEvent<HTMLDivElement>) => void;
}

/** A key that presses a push counts as a finger of this number. */
const KEY_FINGER = -1;
/** Short enough for every stroke of a roll to be felt. */
const TICK_MS = 8;

/** Joins the element of a control to the desk: pointer events with capture, keys, and the drawing of its values. */
export function useControl(desk: PlayDesk, control: RigControl, picture: ControlPicture): ControlHandlers {
  const ref = useRef<HTMLDivElement>(null);
  const latest = useRef(picture);
  useEffect(() => {
    latest.current = picture;
  });
  useEffect(() => desk.place(control, ref.current!, (values, held) => latest.current(values, held)), [desk, control]);

  const at = (event: PointerEvent<HTMLDivElement>) =>
    desk.toSurface(event.clientX, event.clientY, { element: ref.current!, frame: control.frame });
  const lift = (event: PointerEvent<HTMLDivElement>) => desk.up(event.pointerId, event.timeStamp);

  return {
    ref,
    onPointerDown: (event) => {
      if (event.pointerType === 'mouse' && event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      desk.down(event.pointerId, control.id, at(event), event.timeStamp);
      // Felt, where the device can: glass does not tell that a press was heard.
      if (control.kind === 'push' && 'vibrate' in navigator) navigator.vibrate(TICK_MS);
    },
    onPointerMove: (event) => desk.move(event.pointerId, at(event), event.timeStamp),
    onPointerUp: lift,
    onPointerCancel: lift,
    onLostPointerCapture: lift,
    onKeyDown: (event) => {
      if (control.kind === 'push') {
        if ((event.key === ' ' || event.key === 'Enter') && !event.repeat) {
          event.preventDefault();
          desk.down(KEY_FINGER, control.id, control.frame, event.timeStamp);
        }
        return;
      }
      const role = control.kind === 'xy' ? (event.key === 'ArrowUp' || event.key === 'ArrowDown' ? 'y' : 'x') : 'value';
      if (desk.key(control.id, role, event.key, event.timeStamp)) event.preventDefault();
    },
    onKeyUp: (event) => {
      if (event.key === ' ' || event.key === 'Enter') desk.up(KEY_FINGER, event.timeStamp);
    },
  };
}
