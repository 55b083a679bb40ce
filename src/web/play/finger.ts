import type { Finger } from '../../core/surface/controlTouch';
import type { Point } from '../../core/surface/touchValue';

/** Short enough for every stroke of a roll to be felt. */
const TICK_MS = 8;
/** What browsers say of a touch whose force they do not know (Pointer Events, 10.1). */
const UNKNOWN_FORCE = 0.5;

/** What is said of a pointer, by React or the browser itself. */
export type PointerSaid = Pick<PointerEvent, 'pointerId' | 'pointerType' | 'clientX' | 'clientY' | 'width' | 'height' | 'pressure' | 'shiftKey' | 'timeStamp'>;

/** A pointer as a finger at a point of the surface. */
export function fingerOf({ width, height, pressure, pointerType }: PointerSaid, at: Point): Finger {
  return {
    at,
    // A mouse says 1: it has no size.
    size: width > 1 ? Math.max(width, height) : 0,
    force: pointerType === 'mouse' || pressure === UNKNOWN_FORCE ? 0 : pressure,
  };
}

/** Felt, where the device can: glass does not tell that a press was heard. */
export function tick(): void {
  if ('vibrate' in navigator) navigator.vibrate(TICK_MS);
}
