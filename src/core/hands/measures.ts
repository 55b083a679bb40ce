import { clamp } from '../units/unitInterval';
import { FINGER_JOINTS, INDEX_KNUCKLE, INDEX_TIP, LITTLE_KNUCKLE, MIDDLE_KNUCKLE, PALM, THUMB_TIP, WRIST, type Finger, type SeenHand, type Side } from './landmarks';

/**
 * What a hand does, measured on its points. All of it but the place, the size and the turn in the picture is measured in the
 * world's points by proportions of the hand itself, so that it is the same near to the camera and far from it.
 */

/** Fingers that close; the thumb goes its own way. */
export const FOUR = ['index', 'middle', 'ring', 'little'] as const satisfies readonly Finger[];

/** How far a finger is bent at its three joints together, in degrees, in an open hand and in a fist, as the finder has them. */
const OPEN_BENT_DEG = 65;
const FIST_BENT_DEG = 230;
/** A pinch that counts as closed, and one that counts as wide open, in widths of the palm. */
const PINCH_CLOSED = 0.2;
const PINCH_OPEN = 1;
/** A thumb is foreshortened where a palm is not: the palm is measured along and across, and the longer counts. */
const ACROSS = 1.25;
/** The strongest that a palm faces the camera, or its back. */
const FULL_FACING = 0.65;

export function apart(points: ArrayLike<number>, a: number, b: number): number {
  return Math.hypot(points[3 * a]! - points[3 * b]!, points[3 * a + 1]! - points[3 * b + 1]!, points[3 * a + 2]! - points[3 * b + 2]!);
}

/** How far a finger reaches from the wrist, by the palm: about 1.8 stretched, about 0.8 closed. */
export function reach(world: ArrayLike<number>, finger: Finger): number {
  const palm = (apart(world, WRIST, INDEX_KNUCKLE) + apart(world, WRIST, MIDDLE_KNUCKLE) + apart(world, WRIST, LITTLE_KNUCKLE)) / 3;
  return palm > 0 ? apart(world, WRIST, FINGER_JOINTS[finger][3]) / palm : NaN;
}

/** How far the four fingers reach, on average. */
export function meanReach(world: ArrayLike<number>): number {
  return FOUR.reduce((sum, finger) => sum + reach(world, finger), 0) / FOUR.length;
}

/** How far the four fingers are bent, on average, at their three joints together, in degrees. */
export function meanBentDeg(world: ArrayLike<number>): number {
  const bent = (finger: Finger) => {
    const [a, b, c, d] = FINGER_JOINTS[finger];
    return angleDeg(world, WRIST, a, a, b) + angleDeg(world, a, b, b, c) + angleDeg(world, b, c, c, d);
  };
  return FOUR.reduce((sum, finger) => sum + bent(finger), 0) / FOUR.length;
}

/** 0 for an open hand, 1 for a fist: by how far its fingers are bent, which changes less with the distance than how far they reach. */
export function closure(world: ArrayLike<number>): number {
  return clamp((meanBentDeg(world) - OPEN_BENT_DEG) / (FIST_BENT_DEG - OPEN_BENT_DEG), 0, 1);
}

/** How far the tip of the thumb is from that of a finger, by the palm. */
export function thumbTo(world: ArrayLike<number>, finger: Exclude<Finger, 'thumb'>): number {
  return apart(world, THUMB_TIP, FINGER_JOINTS[finger][3]) / Math.max(apart(world, WRIST, MIDDLE_KNUCKLE), ACROSS * apart(world, INDEX_KNUCKLE, LITTLE_KNUCKLE));
}

/** 1 where thumb and index finger touch, 0 where they are a palm apart. */
export function pinch(world: ArrayLike<number>): number {
  return clamp((PINCH_OPEN - thumbTo(world, 'index')) / (PINCH_OPEN - PINCH_CLOSED), 0, 1);
}

/** The angle between the index and the little finger, each from its knuckle to its last joint, in degrees. */
export function spreadDeg(world: ArrayLike<number>): number {
  return angleDeg(world, INDEX_KNUCKLE, FINGER_JOINTS.index[2], LITTLE_KNUCKLE, FINGER_JOINTS.little[2]);
}

/** 1 where the palm faces the camera, -1 where its back does, 0 on edge. */
export function facing(world: ArrayLike<number>, side: Side): number {
  const along = (from: number, to: number, axis: number) => world[3 * to + axis]! - world[3 * from + axis]!;
  const crossed = along(WRIST, INDEX_KNUCKLE, 0) * along(WRIST, LITTLE_KNUCKLE, 1) - along(WRIST, INDEX_KNUCKLE, 1) * along(WRIST, LITTLE_KNUCKLE, 0);
  const palm = apart(world, WRIST, MIDDLE_KNUCKLE);
  return clamp(((side === 'left' ? 1 : -1) * crossed) / (palm * palm * FULL_FACING), -1, 1);
}

/** How the hand is turned in the picture, in degrees: 0 with its fingers up, to the performer's right above it, -180 to 180. */
export function rollDeg(world: ArrayLike<number>): number {
  // The picture has the performer's right at its left.
  return degrees(Math.atan2(-(world[3 * MIDDLE_KNUCKLE]! - world[3 * WRIST]!), -(world[3 * MIDDLE_KNUCKLE + 1]! - world[3 * WRIST + 1]!)));
}

/** How far the fingers point towards the camera, in degrees: 0 where the hand is upright, 90 straight at it, -90 away. */
export function pitchDeg(world: ArrayLike<number>): number {
  return degrees(Math.asin(clamp(-(world[3 * MIDDLE_KNUCKLE + 2]! - world[3 * WRIST + 2]!) / apart(world, WRIST, MIDDLE_KNUCKLE), -1, 1)));
}

/** A place as the performer has it: 0 to 1 to their right and upwards. */
export interface Place {
  x: number;
  y: number;
}

export function tipPlace({ picture }: SeenHand): Place {
  return { x: 1 - picture[3 * INDEX_TIP]!, y: 1 - picture[3 * INDEX_TIP + 1]! };
}

export function palmPlace({ picture }: SeenHand): Place {
  const mean = (axis: number) => PALM.reduce<number>((sum, joint) => sum + picture[3 * joint + axis]!, 0) / PALM.length;
  return { x: 1 - mean(0), y: 1 - mean(1) };
}

/** How long the palm is in the picture, in heights of it: the nearer the hand, the larger. */
export function palmSize({ picture }: SeenHand, aspect: number): number {
  const flat = (a: number, b: number) => Math.hypot((picture[3 * a]! - picture[3 * b]!) * aspect, picture[3 * a + 1]! - picture[3 * b + 1]!);
  return Math.max(flat(WRIST, MIDDLE_KNUCKLE), ACROSS * flat(INDEX_KNUCKLE, LITTLE_KNUCKLE));
}

function angleDeg(points: ArrayLike<number>, a: number, b: number, c: number, d: number): number {
  let dot = 0;
  for (let axis = 0; axis < 3; axis++) dot += (points[3 * b + axis]! - points[3 * a + axis]!) * (points[3 * d + axis]! - points[3 * c + axis]!);
  const lengths = apart(points, a, b) * apart(points, c, d);
  return lengths > 0 ? degrees(Math.acos(clamp(dot / lengths, -1, 1))) : 0;
}

const degrees = (radians: number) => (radians * 180) / Math.PI;
