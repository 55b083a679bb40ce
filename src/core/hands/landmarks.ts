/** How many points of a hand are tracked. */
export const JOINTS = 21;

export const COORDINATES = 3 * JOINTS;

/** By finger, the places of its four joints among the points, from the palm to the tip. Point 0 is the wrist. */
export const FINGER_JOINTS = { thumb: [1, 2, 3, 4], index: [5, 6, 7, 8], middle: [9, 10, 11, 12], ring: [13, 14, 15, 16], little: [17, 18, 19, 20] } as const;
export type Finger = keyof typeof FINGER_JOINTS;

export const WRIST = 0;
export const INDEX_KNUCKLE = 5;
export const MIDDLE_KNUCKLE = 9;
export const LITTLE_KNUCKLE = 17;
export const THUMB_TIP = 4;
export const INDEX_TIP = 8;
/** What the middle of the palm is the middle of. */
export const PALM = [WRIST, INDEX_KNUCKLE, MIDDLE_KNUCKLE, 13, LITTLE_KNUCKLE] as const;

export const SIDES = ['left', 'right'] as const;
/** Whose hand of a performer it is: their own left or right. */
export type Side = (typeof SIDES)[number];

/** A hand in one picture, x, y, z of each point after one another. */
export interface SeenHand {
  side: Side;
  /** x and y in the picture as the camera has it, not mirrored: 0 to 1 from its left and its top. z in widths of the picture, away from the camera. */
  picture: Float64Array;
  /** In metres about the middle of the hand: x to the right of the picture, y down, z away from the camera. */
  world: Float64Array;
}

/** What was seen in one picture. */
export interface HandsFrame {
  timeMs: number;
  /** Its width by its height. */
  aspect: number;
  hands: readonly SeenHand[];
}
