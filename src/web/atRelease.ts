import type { MouseEvent, PointerEvent } from 'react';

/**
 * What a button does as a finger lifts from it, in a list that a finger may scroll: however long it lay there, where browsers make no click of a
 * long touch, and also while another lies elsewhere. One that scrolled or slid off does nothing. Keys click without a finger.
 */
export function atRelease(does: () => void) {
  return {
    onPointerDown: ({ currentTarget, pointerId }: PointerEvent) => currentTarget.setPointerCapture(pointerId),
    onPointerUp({ button, clientX, clientY, currentTarget, pointerId }: PointerEvent) {
      const { left, right, top, bottom } = currentTarget.getBoundingClientRect();
      const isOn = clientX >= left && clientX <= right && clientY >= top && clientY <= bottom;
      if (button === 0 && isOn && currentTarget.hasPointerCapture(pointerId)) does();
    },
    onClick: ({ detail }: MouseEvent) => detail === 0 && does(),
    // A long touch opens none.
    onContextMenu: (event: MouseEvent) => event.preventDefault(),
  };
}
