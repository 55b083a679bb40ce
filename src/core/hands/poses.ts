import { ExampleBook, type Taught } from '../gesture/exampleBook';
import { INDEX_KNUCKLE, JOINTS, LITTLE_KNUCKLE, MIDDLE_KNUCKLE, WRIST, type Side } from './landmarks';

/** A shape of the hand that was taught by showing it. Plain data. */
export type TaughtPose = Taught;

export const POSES_MOST = 8;
export const EXAMPLES_OF_A_POSE = 24;
/** Each joint but the wrist, in three directions. */
export const POSE_FEATURES = 3 * (JOINTS - 1);
/** No coordinate is held more exactly than this, in palms. */
const LEAST_SPREAD_PALMS = 0.09;

/** Shapes of the hand that can be told apart. */
export class PoseBook extends ExampleBook {
  constructor(taught: readonly TaughtPose[]) {
    super(taught, LEAST_SPREAD_PALMS);
  }
}

/**
 * The shape of a hand, wherever it is, however large it is and however it is turned: its joints from the wrist, in axes of its own
 * palm, in lengths of the palm; a right hand as its mirror image, so that both hands share what was taught.
 */
export function poseFeatures(world: ArrayLike<number>, side: Side): number[] {
  const from = (joint: number): Vector => [world[3 * joint]! - world[0]!, world[3 * joint + 1]! - world[1]!, world[3 * joint + 2]! - world[2]!];
  const along = from(MIDDLE_KNUCKLE);
  const palm = Math.hypot(...along) || 1;
  const up = scaled(along, 1 / palm);
  const spread = minus(from(LITTLE_KNUCKLE), from(INDEX_KNUCKLE));
  const across = unit(minus(spread, scaled(up, dot(spread, up))));
  const out = cross(across, up);
  const turn = side === 'left' ? 1 : -1;
  const features: number[] = [];
  for (let joint = WRIST + 1; joint < JOINTS; joint++) {
    const at = from(joint);
    features.push(dot(at, across) / palm, dot(at, up) / palm, (turn * dot(at, out)) / palm);
  }
  return features;
}

type Vector = [number, number, number];
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const scaled = (a: Vector, by: number): Vector => [a[0] * by, a[1] * by, a[2] * by];
const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const unit = (a: Vector): Vector => scaled(a, 1 / (Math.hypot(...a) || 1));
const cross = (a: Vector, b: Vector): Vector => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
