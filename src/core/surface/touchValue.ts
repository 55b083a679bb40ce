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

/** A dial turns over so much of the circle, the gap beneath. */
export const DIAL_SWEEP = 0.75;

/** A dial on a frame that is not wide has its words beneath it. */
export const isUpright = ({ width, height }: Frame): boolean => width < height * 1.5;
/** Of an upright frame so much is the dial's. */
const UPRIGHT_DIAL = 0.78;

/** Where around a dial a finger is: 0 at its lower left end, clockwise to 1 at the lower right one; in the gap the nearer end. */
export function dialPlace(frame: Frame, { x, y }: Point): UnitInterval {
  const radius = (isUpright(frame) ? Math.min(frame.width, UPRIGHT_DIAL * frame.height) : frame.height) / 2;
  const across = x - frame.x - (isUpright(frame) ? frame.width / 2 : radius);
  const up = frame.y + radius - y;
  return clampUnit(Math.atan2(across, up) / (2 * Math.PI * DIAL_SWEEP) + 0.5);
}

function along(distance: number, length: number, inset: number): UnitInterval {
  const travel = length - 2 * inset;
  return travel > 0 ? clampUnit((distance - inset) / travel) : 0;
}
