import { describe, expect, it } from 'vitest';
import { modelHand, OPEN_HAND, type HandPose } from '../standIn/modelHand';
import { JOINTS, type SeenHand } from './landmarks';
import { apart, closure, facing, meanBentDeg, meanReach, palmPlace, palmSize, pinch, pitchDeg, rollDeg, spreadDeg, thumbTo, tipPlace } from './measures';

/** A hand of hand-worked points: 3-4-5 triangles wherever they fit. Points that are not named lie on the wrist. */
function hand(points: Record<number, readonly [number, number, number]>): SeenHand {
  const world = new Float64Array(3 * JOINTS);
  for (const [joint, at] of Object.entries(points)) world.set(at, 3 * Number(joint));
  return { side: 'left', world, picture: world.slice() };
}

const model = (pose: Partial<HandPose> = {}) => modelHand({ ...OPEN_HAND, side: 'left', ...pose }, 4 / 3);
const all = (bend: number) => ({ index: bend, middle: bend, ring: bend, little: bend });

describe('measures on hand-worked triangles', () => {
  // Knuckles 5 units from the wrist; each tip 10 away: reach 2 for every finger.
  const open = hand({ 5: [-3, -4, 0], 9: [0, -5, 0], 17: [3, -4, 0], 8: [-6, -8, 0], 12: [0, -10, 0], 16: [6, -8, 0], 20: [8, -6, 0] });

  it('a distance is that of Pythagoras in space', () => expect(apart([0, 0, 0, 2, 3, 6], 0, 1)).toBe(7));
  it('reach is by the mean of three lines of the palm', () => expect(meanReach(open.world)).toBeCloseTo(2, 12));
  it('is bent by the angles of its joints: a right one and half of one more are 135 degrees', () => {
    // Each finger straight up from the wrist, then to the camera, then on between that and back.
    const finger = (first: number) => ({ [first]: [0, -4, 0], [first + 1]: [0, -4, -3], [first + 2]: [0, -3, -4], [first + 3]: [0, -2, -5] }) as const;
    const bent = hand({ ...finger(5), ...finger(9), ...finger(13), ...finger(17) });
    expect(meanBentDeg(bent.world)).toBeCloseTo(135, 4);
    expect(closure(bent.world)).toBeCloseTo((135 - 65) / (230 - 65), 6);
  });
  it('a pinch is by the longer of the palm along and 1.25 times across', () => {
    // Along 5, across 6 x 1.25 = 7.5; the tips 3 apart.
    expect(thumbTo(hand({ 5: [-3, -4, 0], 9: [0, -5, 0], 17: [3, -4, 0], 4: [-6, -8, 3], 8: [-6, -8, 0] }).world, 'index')).toBeCloseTo(3 / 7.5, 12);
    expect(pinch(hand({ 5: [-3, -4, 0], 9: [0, -5, 0], 17: [3, -4, 0], 4: [-6, -8, 4.5], 8: [-6, -8, 0] }).world)).toBeCloseTo(0.5, 12);
  });
  it('faces by the cross product over the square of the palm', () => {
    // (-3)(-4) - (-4)(3) = 24 over 25 * 0.65 is more than full; scaled down, exact.
    expect(facing(open.world, 'left')).toBe(1);
    expect(facing(open.world, 'right')).toBe(-1);
    expect(facing(hand({ 5: [-1, -4, 0], 9: [0, -5, 0], 17: [1, -4, 0] }).world, 'left')).toBeCloseTo(8 / 25 / 0.65, 12);
  });
  it('rolls to the performer\'s right above 0: the left of the picture', () => {
    expect(rollDeg(hand({ 9: [-5, 0, 0] }).world)).toBeCloseTo(90, 9);
    expect(rollDeg(hand({ 9: [5, -5, 0] }).world)).toBeCloseTo(-45, 9);
  });
  it('pitches towards the camera above 0', () => expect(pitchDeg(hand({ 9: [0, -4, -3] }).world)).toBeCloseTo(36.8699, 3));
  it('spreads by the angle of two fingers', () => expect(spreadDeg(hand({ 5: [-3, -4, 0], 7: [-3, -5, 0], 17: [3, -4, 0], 19: [4, -4, 0] }).world)).toBeCloseTo(90, 9));
  it('has its places as the performer has them, to their right and upwards', () => {
    const seen = hand({ 8: [0.2, 0.3, 0] });
    expect(tipPlace(seen)).toEqual({ x: 0.8, y: 0.7 });
    expect(palmPlace(hand({ 0: [0.5, 0.5, 0], 5: [0.5, 0.5, 0], 9: [0.5, 0.5, 0], 13: [0.5, 0.5, 0], 17: [0, 0, 0] }))).toEqual({ x: 1 - 0.4, y: 1 - 0.4 });
  });
  it('is as large as its palm in heights of the picture', () => expect(palmSize(hand({ 0: [0.5, 0.8, 0], 5: [0.5, 0.5, 0], 17: [0.5, 0.5, 0], 9: [0.5 + 0.15, 0.8 - 0.15, 0] }), 4 / 3)).toBeCloseTo(0.25, 12));
});

describe('measures of the model hand', () => {
  it('say the same at every distance, wherever the hand is', () => {
    for (const size of [0.1, 0.2, 0.4]) {
      const { world } = model({ size, x: 0.3, bends: all(0.6), thumb: 0.6 });
      expect(closure(world)).toBeCloseTo(closure(model({ bends: all(0.6), thumb: 0.6 }).world), 9);
    }
  });
  it('know open and closed, front and back, both hands alike', () => {
    expect(closure(model().world)).toBe(0);
    expect(closure(model({ bends: all(1), thumb: 1 }).world)).toBe(1);
    for (const side of ['left', 'right'] as const) {
      expect(facing(model({ side }).world, side)).toBeGreaterThan(0.8);
      expect(facing(model({ side, turnDeg: 180 }).world, side)).toBeLessThan(-0.8);
      expect(rollDeg(model({ side, rollDeg: 30 }).world)).toBeCloseTo(30, 6);
    }
  });
});
