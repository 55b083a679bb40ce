import { useLayoutEffect, useRef, type FocusEvent, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { RigControl } from '../../core/rig/document';
import { rolesOf } from '../../core/surface/controlKinds';
import { fingerOf, tick, type PointerSaid } from './finger';
import type { ControlPicture, PlayDesk } from './playDesk';
import { useMoves } from './useMoves';

interface ControlHandlers {
  ref: RefObject<HTMLDivElement | null>;
  onPointerDown: (event: PointerEvent<HTMLDivElement>) => void;
  onPointerMove: (event: PointerEvent<HTMLDivElement>) => void;
  onPointerUp: (event: PointerEvent<HTMLDivElement>) => void;
  onPointerCancel: (event: PointerEvent<HTMLDivElement>) => void;
  onLostPointerCapture: (event: PointerEvent<HTMLDivElement>) => void;
  onKeyDown: (event: KeyboardEvent<HTMLDivElement>) => void;
  onKeyUp: (event: KeyboardEvent<HTMLDivElement>) => void;
  onBlur: (event: FocusEvent<HTMLDivElement>) => void;
}

/** A key that presses something counts as a finger of this number. */
const KEY_FINGER = -1;
/** What is struck or tapped, and so answers to the space bar. */
const STRUCK: ReadonlySet<RigControl['kind']> = new Set(['push', 'toggle', 'pads', 'keys']);
/** The cells of these are chosen with the arrow keys before something is done to them. */
const CHOSEN_FIRST: ReadonlySet<RigControl['kind']> = new Set(['pads', 'keys', 'faders', 'tracks']);

/** Joins the element of a control to the desk: pointer events with capture, keys, and the drawing of its values. */
export function useControl(desk: PlayDesk, control: RigControl, picture: ControlPicture): ControlHandlers {
  const ref = useRef<HTMLDivElement>(null);
  const chosen = useRef(0);
  const { show, onPointerMove } = useMoves(ref, (event) => desk.move(event.pointerId, finger(event), event.timeStamp, event.shiftKey), picture);
  // Taken from the desk before its elements are gone: what its finger holds is let go of, and shown, and a value may come between.
  useLayoutEffect(() => desk.place(control, ref.current!, show), [desk, control, show]);

  const finger = (event: PointerSaid) => fingerOf(event, desk.toSurface(event.clientX, event.clientY, { element: ref.current!, frame: control.frame }));
  const lift = (event: PointerEvent<HTMLDivElement>) => desk.up(event.pointerId, event.timeStamp);

  return {
    ref,
    onPointerDown: (event) => {
      if (event.pointerType === 'mouse' && event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      desk.down(event.pointerId, control.id, finger(event), event.timeStamp);
      if (STRUCK.has(control.kind)) tick();
    },
    onPointerMove,
    onPointerUp: lift,
    onPointerCancel: lift,
    onLostPointerCapture: lift,
    onKeyDown: (event) => {
      const { key, timeStamp } = event;
      if (STRUCK.has(control.kind) && (key === ' ' || key === 'Enter')) {
        event.preventDefault();
        if (!event.repeat) desk.strike(KEY_FINGER, control.id, chosen.current, timeStamp);
        return;
      }
      if (CHOSEN_FIRST.has(control.kind) && (key === 'ArrowLeft' || key === 'ArrowRight')) {
        const cells = rolesOf(control).filter(({ touch }) => !touch).length;
        chosen.current = Math.min(cells - 1, Math.max(0, chosen.current + (key === 'ArrowRight' ? 1 : -1)));
        event.currentTarget.querySelectorAll('[data-cell]').forEach((cell, i) => cell.toggleAttribute('data-chosen', i === chosen.current));
        event.preventDefault();
        return;
      }
      if (desk.key(control.id, key, timeStamp, levelOf(control, key, chosen.current))) event.preventDefault();
    },
    onKeyUp: ({ key, timeStamp }) => {
      if (key === ' ' || key === 'Enter') desk.up(KEY_FINGER, timeStamp);
    },
    // What is held down there comes up elsewhere, and would not be heard.
    onBlur: ({ timeStamp }) => desk.up(KEY_FINGER, timeStamp),
  };
}

/** Which level a key moves where a control has several. */
function levelOf(control: RigControl, key: string, cell: number): string | undefined {
  if (control.kind === 'xy') return key === 'ArrowUp' || key === 'ArrowDown' ? 'y' : 'x';
  if (control.kind === 'faders' || control.kind === 'tracks') return `value${cell + 1}`;
  return undefined;
}
