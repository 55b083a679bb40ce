import { useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { BeforeFrame } from '../beforeFrame';
import type { PointerSaid } from './finger';
import { FramePicture } from './framePicture';

/**
 * Hears how a pointer moves over an element as soon as it does, and draws what comes of it with the next frame. Browsers keep `pointermove`
 * back for the frame, and make one of several; `pointerrawupdate` (Pointer Events, Level 3) they do not. Where a browser has none,
 * or the page is not secure, both go by `pointermove`.
 * @returns what draws from now on, and the handler that React is given
 */
export function useMoves<Shown extends unknown[]>(ref: RefObject<HTMLElement | null>, move: (event: PointerSaid) => void, draw: (...shown: Shown) => void) {
  const latest = useRef({ move, draw });
  const [picture] = useState(() => new FramePicture<Shown>((...shown) => latest.current.draw(...shown)));
  const [before] = useState(() => new BeforeFrame());
  useLayoutEffect(() => {
    latest.current = { move, draw };
  });
  useLayoutEffect(() => {
    const element = ref.current!;
    const hear = (event: Event) => {
      if (before.hears(event as PointerEvent)) picture.later(() => latest.current.move(event as PointerEvent));
    };
    element.addEventListener('pointerrawupdate', hear);
    return () => element.removeEventListener('pointerrawupdate', hear);
  }, [ref, picture, before]);
  const onPointerMove = (event: PointerSaid) => (before.wasHeard(event) ? picture.catchUp() : move(event));
  return { show: picture.show, onPointerMove };
}
