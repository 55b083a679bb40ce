import type { SeenHand, Side } from '../hands/landmarks';
import { modelHand, OPEN_HAND } from './modelHand';
import recorded from './recordedHands.json' with { type: 'json' };

/** Hands where there is no camera: the points of the hands at a moment, into the same sums. */
export interface HandsStandIn {
  id: string;
  name: string;
  /** What a camera would see at a time of the clip, in ms; it goes round. */
  at(timeMs: number): SeenHand[];
}

/** What stand-ins of hands call themselves: they are one input, whichever of them plays. */
export const HANDS_STAND_IN = 'stand-in gulls';
export const STAND_IN_ASPECT = 4 / 3;

/** The clips that were recorded, and in what coordinates are kept whole: pictures and metres. */
export const RECORDED_PARTS = ['circle', 'fists', 'pinches', 'crossing', 'turning'] as const;
export const RECORDED_UNIT = 1e-4;
const PICTURE_MS = 1000 / 15;

const NAMES: Readonly<Record<(typeof RECORDED_PARTS)[number], string>> = { circle: 'Gulls, circling', fists: 'Gulls, closing to fists', pinches: 'Gulls, pinching', crossing: 'Gulls, crossing', turning: 'Gulls, turning' };

/** Clips of what the finder saw of rendered hands (`bin/recordHands.ts`), with its own trembling and its own mistakes. */
export const HANDS_STAND_INS: readonly HandsStandIn[] = RECORDED_PARTS.map((id) => {
  const pictures = recorded[id].map((hands) => hands.map(({ side, picture, world }): SeenHand => ({ side: side as Side, picture: unpacked(picture), world: unpacked(world) })));
  return { id, name: NAMES[id], at: (timeMs) => pictures[Math.floor(timeMs / PICTURE_MS) % pictures.length]! };
});

function unpacked(points: readonly number[]): Float64Array {
  return Float64Array.from(points, (at) => at * RECORDED_UNIT);
}

/** A hand that is moved on screen: `closed`, `pinched` and `turned` from 0 to 1. */
export function movedHand({ x, y, closed, pinched, turned, size }: { x: number; y: number; closed: number; pinched: number; turned: number; size: number }): SeenHand {
  return modelHand({ ...OPEN_HAND, side: 'left', x, y, size, bends: { index: closed, middle: closed, ring: closed, little: closed }, thumb: closed, turnDeg: 180 * turned, ...(pinched > 0 ? { meets: { finger: 'index', share: pinched } } : {}) }, STAND_IN_ASPECT);
}
