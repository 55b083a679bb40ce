import { FINGER_JOINTS, JOINTS, type SeenHand, type Side } from '../hands/landmarks';
import { FOUR } from '../hands/measures';

/** How a hand of the model is held, and where. */
export interface HandPose {
  side: Side;
  /** The middle of the palm in the picture as the performer has it: 0 to 1 to their right and upwards. */
  x: number;
  y: number;
  /** The length of the palm in heights of the picture. */
  size: number;
  /** How much each finger is bent, 0 to 1. */
  bends: Readonly<Record<(typeof FOUR)[number], number>>;
  /** How far the thumb lies over the palm, 0 to 1. */
  thumb: number;
  /** The finger whose tip the thumb's goes to, and how far, 0 to 1. */
  meets?: { finger: (typeof FOUR)[number]; share: number };
  /** To the performer's right, in degrees. */
  rollDeg: number;
  /** Towards the camera, in degrees. */
  pitchDeg: number;
  /** About the hand's own length: 0 shows the palm, 180 the back. */
  turnDeg: number;
}

export const OPEN_HAND: Omit<HandPose, 'side'> = { x: 0.5, y: 0.45, size: 0.22, bends: { index: 0, middle: 0, ring: 0, little: 0 }, thumb: 0, rollDeg: 0, pitchDeg: 0, turnDeg: 0 };

type Vector = readonly [x: number, y: number, z: number];

/**
 * A left hand with its palm to the camera, fingers up, in lengths of its palm from the wrist: x to the right of the picture, y up,
 * z towards the camera. Proportions of an adult hand, rounded; from memory.
 */
const KNUCKLES: Readonly<Record<(typeof FOUR)[number], Vector>> = { index: [-0.26, 0.95, 0], middle: [0, 1, 0.02], ring: [0.2, 0.93, 0], little: [0.39, 0.8, -0.02] };
const BONES: Readonly<Record<(typeof FOUR)[number], readonly [number, number, number]>> = { index: [0.46, 0.27, 0.22], middle: [0.51, 0.31, 0.22], ring: [0.47, 0.29, 0.22], little: [0.37, 0.21, 0.2] };
/** How far a finger leans outwards, in degrees. */
const LEANS: Readonly<Record<(typeof FOUR)[number], number>> = { index: -9, middle: -1, ring: 8, little: 18 };
/** What the three joints of a finger give at most, in degrees. */
const FLEXES = [85, 105, 70] as const;
const THUMB_OPEN: readonly Vector[] = [[-0.22, 0.2, 0.06], [-0.5, 0.48, 0.12], [-0.72, 0.72, 0.14], [-0.9, 0.92, 0.15]];
const THUMB_CLOSED: readonly Vector[] = [[-0.2, 0.22, 0.12], [-0.34, 0.5, 0.3], [-0.2, 0.72, 0.48], [0, 0.78, 0.52]];
const PALM_M = 0.09;
const PALM_MIDDLE: Vector = [0.066, 0.736, 0];

const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** What a camera would see of such a hand, far enough away that near and far fingers look alike. */
export function modelHand(pose: HandPose, aspect: number): SeenHand {
  const own = joints(pose);
  const world = new Float64Array(3 * JOINTS);
  const picture = new Float64Array(3 * JOINTS);
  own.forEach((joint, j) => {
    const away: Vector = [joint[0] - PALM_MIDDLE[0], joint[1] - PALM_MIDDLE[1], joint[2] - PALM_MIDDLE[2]];
    const [x, y, z] = turned(pose.side === 'left' ? away : [-away[0], away[1], away[2]], pose);
    world.set([x * PALM_M, -y * PALM_M, -z * PALM_M], 3 * j);
    picture.set([1 - pose.x + (x * pose.size) / aspect, 1 - pose.y - y * pose.size, (-z * pose.size) / aspect], 3 * j);
  });
  return { side: pose.side, picture, world };
}

function joints(pose: HandPose): Vector[] {
  const all: Vector[] = Array.from({ length: JOINTS }, () => [0, 0, 0]);
  for (const finger of FOUR) chain(finger, pose.bends[finger]).forEach((joint, i) => (all[FINGER_JOINTS[finger][i]!] = joint));
  THUMB_OPEN.forEach((open, i) => (all[FINGER_JOINTS.thumb[i]!] = between(open, THUMB_CLOSED[i]!, pose.thumb)));
  if (pose.meets) meet(all, pose.meets);
  return all;
}

/** The joints of a finger, each bone bent towards the palm from the one before. */
function chain(finger: (typeof FOUR)[number], bend: number): Vector[] {
  const lean = radians(LEANS[finger] * (1 - bend));
  let [x, y, z] = KNUCKLES[finger];
  const out: Vector[] = [[x, y, z]];
  let flex = 0;
  BONES[finger].forEach((length, i) => {
    flex += radians(FLEXES[i]! * bend);
    x += length * Math.cos(flex) * Math.sin(lean);
    y += length * Math.cos(flex) * Math.cos(lean);
    z += length * Math.sin(flex);
    out.push([x, y, z]);
  });
  return out;
}

/** Both tips go to a place between them, and the joints before follow a little. */
function meet(all: Vector[], { finger, share }: NonNullable<HandPose['meets']>): void {
  const tips = [FINGER_JOINTS.thumb[3], FINGER_JOINTS[finger][3]] as const;
  const middle = between(all[tips[0]]!, all[tips[1]]!, 0.5);
  const place: Vector = [middle[0], middle[1] - 0.1, middle[2] + 0.35];
  for (const tip of tips) {
    const gone = share * 0.97;
    [1, 0.45].forEach((part, i) => (all[tip - i] = between(all[tip - i]!, place, gone * part)));
  }
}

function turned([x, y, z]: Vector, { turnDeg, pitchDeg, rollDeg, side }: HandPose): Vector {
  const turn = radians(side === 'left' ? turnDeg : -turnDeg);
  const [x1, z1] = [x * Math.cos(turn) + z * Math.sin(turn), z * Math.cos(turn) - x * Math.sin(turn)];
  const pitch = radians(pitchDeg);
  const [y1, z2] = [y * Math.cos(pitch) - z1 * Math.sin(pitch), z1 * Math.cos(pitch) + y * Math.sin(pitch)];
  // The performer's right is at the left of the picture.
  const roll = radians(rollDeg);
  return [x1 * Math.cos(roll) - y1 * Math.sin(roll), y1 * Math.cos(roll) + x1 * Math.sin(roll), z2];
}

const between = (a: Vector, b: Vector, share: number): Vector => [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share];

