import { useLayoutEffect, useRef, type FocusEvent, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { Finger } from '../../core/surface/controlTouch';
import type { VoiceControl } from '../../core/surface/voiceTouch';
import { fingerOf, tick, type PointerSaid } from './finger';
import { usePlaying } from './PlayContext';
import { useMoves } from './useMoves';
import type { VoicePicture } from './voiceDesk';

/** A key of the computer counts as a finger of this number. */
const KEY_FINGER = -1;

/**
 * Joins the element of a control that plays a stream to the desk of voices. With the keyboard alone the cells are chosen with
 * the arrow keys and struck with the space bar.
 * @param cells how many there are to choose from, and where one is struck
 */
export function useVoices(control: VoiceControl, picture: VoicePicture, cells: { count: number; at: (cell: number) => Finger }) {
  const { desk, voices } = usePlaying();
  const ref: RefObject<HTMLDivElement | null> = useRef<HTMLDivElement>(null);
  const chosen = useRef(0);
  const { show, onPointerMove } = useMoves(ref, (event) => voices.move(event.pointerId, finger(event), event.timeStamp), picture);
  useLayoutEffect(() => voices.place(control, show), [voices, control, show]);
  const finger = (event: PointerSaid) => fingerOf(event, desk.toSurface(event.clientX, event.clientY, { element: ref.current!, frame: control.frame }));
  const lift = (event: PointerEvent<HTMLDivElement>) => voices.up(event.pointerId, event.timeStamp);
  return {
    ref,
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      if (event.pointerType === 'mouse' && event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      voices.down(event.pointerId, control.id, finger(event), event.timeStamp);
      tick();
    },
    onPointerMove,
    onPointerUp: lift,
    onPointerCancel: lift,
    onLostPointerCapture: lift,
    onKeyDown: (event: KeyboardEvent<HTMLDivElement>) => {
      const { key, timeStamp } = event;
      const step = key === 'ArrowRight' || key === 'ArrowUp' ? 1 : key === 'ArrowLeft' || key === 'ArrowDown' ? -1 : 0;
      if (step !== 0) {
        chosen.current = Math.min(cells.count - 1, Math.max(0, chosen.current + step));
        event.currentTarget.querySelectorAll('[data-cell]').forEach((cell, i) => cell.toggleAttribute('data-chosen', i === chosen.current));
      } else if (key === ' ' || key === 'Enter') {
        if (!event.repeat) voices.down(KEY_FINGER, control.id, cells.at(chosen.current), timeStamp);
      } else return;
      event.preventDefault();
    },
    onKeyUp: ({ key, timeStamp }: KeyboardEvent<HTMLDivElement>) => {
      if (key === ' ' || key === 'Enter') voices.up(KEY_FINGER, timeStamp);
    },
    // What is held down there comes up elsewhere, and would not be heard.
    onBlur: ({ timeStamp }: FocusEvent<HTMLDivElement>) => voices.up(KEY_FINGER, timeStamp),
  };
}
