import type { SeenHand } from '../hands/landmarks';
import { modelHand, OPEN_HAND, type HandPose } from './modelHand';
import { seededNoise } from './noise';

/** Hands where there is no camera: the points of the hands at a moment, into the same sums. */
export interface HandsStandIn {
  id: string;
  name: string;
  /** What a camera would see at a time of the clip, in ms; it goes round. */
  at(timeMs: number): SeenHand[];
}

/** What stand-ins of hands call themselves: they are one input, whichever of them plays. */
export const HANDS_STAND_IN = 'stand-in gulls';

const ASPECT = 4 / 3;
export const STAND_IN_ASPECT = ASPECT;
/** How much the points of a camera tremble, in pictures and in metres. */
const TREMBLE_PICTURE = 0.0008;
const TREMBLE_M = 0.0006;

const all = (bend: number) => ({ index: bend, middle: bend, ring: bend, little: bend });
const turn = (timeMs: number, everyMs: number) => (timeMs / everyMs) * 2 * Math.PI;
/** 0 to 1 and back, resting a while at both ends. */
const toAndFro = (timeMs: number, everyMs: number) => Math.min(1, Math.max(0, 0.5 - 0.9 * Math.cos(turn(timeMs, everyMs))));
const held = (pose: Partial<HandPose> & { side: HandPose['side'] }): HandPose => ({ ...OPEN_HAND, ...pose });

/** What the gulls do, each a clip that goes round: which poses at which moment. */
const CLIPS: readonly { id: string; name: string; poses(timeMs: number): HandPose[] }[] = [
  { id: 'circle', name: 'Gulls, circling', poses: (timeMs) => [held({ side: 'right', x: 0.62 + 0.2 * Math.sin(turn(timeMs, 3000)), y: 0.5 + 0.25 * Math.cos(turn(timeMs, 3000)) })] },
  { id: 'fists', name: 'Gulls, closing to fists', poses: (timeMs) => [closing('left', 0.3, toAndFro(timeMs, 2400)), closing('right', 0.7, toAndFro(timeMs + 1200, 2400))] },
  { id: 'pinches', name: 'Gulls, pinching', poses: (timeMs) => [held({ side: 'right', x: 0.6, meets: { finger: (['index', 'middle', 'ring', 'little'] as const)[Math.floor(timeMs / 2000) % 4]!, share: toAndFro(timeMs, 2000) } })] },
  { id: 'crossing', name: 'Gulls, crossing', poses: (timeMs) => [held({ side: 'left', x: 0.5 - 0.3 * Math.cos(turn(timeMs, 6000)), y: 0.55 }), held({ side: 'right', x: 0.5 + 0.3 * Math.cos(turn(timeMs, 6000)), y: 0.4 })] },
  { id: 'turning', name: 'Gulls, turning', poses: (timeMs) => [held({ side: 'left', x: 0.4, turnDeg: 180 * toAndFro(timeMs, 4000) })] },
];

function closing(side: HandPose['side'], x: number, share: number): HandPose {
  return held({ side, x, bends: all(share), thumb: share });
}

export const HANDS_STAND_INS: readonly HandsStandIn[] = CLIPS.map(({ id, name, poses }) => {
  const noise = seededNoise(11);
  return { id, name, at: (timeMs) => poses(timeMs).map((pose) => trembling(modelHand(pose, ASPECT), noise)) };
});

function trembling(hand: SeenHand, noise: () => number): SeenHand {
  return { ...hand, picture: hand.picture.map((at) => at + TREMBLE_PICTURE * noise()), world: hand.world.map((at) => at + TREMBLE_M * noise()) };
}

/** A hand that is moved on screen: `closed`, `pinched` and `turned` from 0 to 1. */
export function movedHand(at: { x: number; y: number; closed: number; pinched: number; turned: number; size: number }): SeenHand {
  const { x, y, closed, pinched, turned, size } = at;
  return modelHand(held({ side: 'right', x, y, size, bends: all(closed), thumb: closed, turnDeg: 180 * turned, ...(pinched > 0 ? { meets: { finger: 'index', share: pinched } } : {}) }), ASPECT);
}
