import type { MouseEvent, PointerEvent } from 'react';

/**
 * What a button does as a finger comes down on it: sooner than as it lifts, and also while another finger or a palm lies elsewhere, when browsers make
 * no click of a touch. Keys click without coming down.
 */
export function atOnce(does: () => void) {
  return {
    onPointerDown: ({ button }: PointerEvent) => button === 0 && does(),
    onClick: ({ detail }: MouseEvent) => detail === 0 && does(),
  };
}
