import type { Frame } from '../rig/document';
import { clampUnit, type UnitInterval } from '../units/unitInterval';

/** A point in the same lengths as the frame it is read against. */
export interface Point {
  x: number;
  y: number;
}

/**
 * The value of a fader under a finger: 0 at the lower (or left) end of its travel, 1 at the other. A control that is
 * wider than high lies down. The travel ends `inset` before the edges, so that both ends can be reached with certainty.
 */
export function faderValue(frame: Frame, finger: Point, inset: number): UnitInterval {
  if (isLying(frame)) return along(finger.x - frame.x, frame.width, inset);
  return along(frame.y + frame.height - finger.y, frame.height, inset);
}

/** A control that is wider than high lies down. */
export const isLying = ({ width, height }: Frame): boolean => width > height;

/** The two values of an XY pad: x from left to right, y from bottom to top. */
export function xyValue(frame: Frame, finger: Point, inset: number): { x: UnitInterval; y: UnitInterval } {
  return { x: along(finger.x - frame.x, frame.width, inset), y: along(frame.y + frame.height - finger.y, frame.height, inset) };
}

/** How far a finger must travel to turn a dial from end to end, in CSS pixels. */
export const DIAL_TRAVEL = 220;

function along(distance: number, length: number, inset: number): UnitInterval {
  const travel = length - 2 * inset;
  return travel > 0 ? clampUnit((distance - inset) / travel) : 0;
}
