import { describe, expect, it } from 'vitest';
import { LANE_PX, TakenPointer, TRAVEL_PX } from './takenPointer';
import type { PointerTaking } from '../inputs/kinds/computer';

const taken = (taking: Partial<PointerTaking>, known: Record<string, number> = {}) => new TakenPointer({ as: 'lanes', lanes: 4, how: 'relative', key: null, ...taking }, (key) => known[key]);

describe('a pointer that is taken over, as lanes', () => {
  it('moves the lane in hand by the way it goes, up to its ends, the others not at all', () => {
    const pointer = taken({}, { 'lane 3': 0.5 });
    expect(pointer.lane).toBe(2);
    expect(pointer.move(0, -TRAVEL_PX / 4)).toEqual([{ key: 'lane 3', value: 0.75 }]);
    expect(pointer.move(0, -TRAVEL_PX)).toEqual([{ key: 'lane 3', value: 1 }]);
    expect(pointer.move(0, -TRAVEL_PX)).toEqual([]);
    // At the end at once: what went too far need not be gone back.
    expect(pointer.move(0, TRAVEL_PX / 10)).toEqual([{ key: 'lane 3', value: 0.9 }]);
  });
  it('goes to the next lane to the side, a little beyond the edge, and to no lane that there is not', () => {
    const pointer = taken({});
    pointer.move(LANE_PX * 0.6, 0);
    expect(pointer.lane).toBe(2);
    pointer.move(LANE_PX * 0.2, 0);
    expect(pointer.lane).toBe(3);
    pointer.move(LANE_PX * 50, 0);
    expect(pointer.lane).toBe(3);
    pointer.move(-LANE_PX * 50, 0);
    expect([pointer.lane, pointer.move(0, -TRAVEL_PX / 2)]).toEqual([0, [{ key: 'lane 1', value: 0.5 }]]);
  });
  it('keeps the lane while a button is held, as a finger does', () => {
    const pointer = taken({});
    expect(pointer.press(0)).toEqual([{ key: 'button left', value: 1 }]);
    expect(pointer.move(LANE_PX * 3, -TRAVEL_PX / 2)).toEqual([{ key: 'lane 3', value: 0.5 }]);
    expect(pointer.release(0)).toEqual([{ key: 'button left', value: 0 }]);
    pointer.move(LANE_PX * 3, 0);
    expect(pointer.lane).toBe(3);
  });
  it('with pick-up moves nothing until it meets the value, from below and from above', () => {
    // The pointer begins half-way up.
    const below = taken({ how: 'pickUp' }, { 'lane 3': 0.8 });
    expect(below.isInHand('lane 3')).toBe(false);
    expect(below.move(0, -TRAVEL_PX * 0.2)).toEqual([]);
    expect(below.move(0, -TRAVEL_PX * 0.15)).toEqual([{ key: 'lane 3', value: expect.closeTo(0.85, 9) as number }]);
    expect(below.isInHand('lane 3')).toBe(true);
    const above = taken({ how: 'pickUp' }, { 'lane 3': 0.2 });
    expect(above.move(0, TRAVEL_PX * 0.25)).toEqual([]);
    expect(above.move(0, TRAVEL_PX * 0.1)).toEqual([{ key: 'lane 3', value: expect.closeTo(0.15, 9) as number }]);
  });
  it('with pick-up meets a lane anew each time it comes to it', () => {
    const pointer = taken({ how: 'pickUp' }, { 'lane 3': 0.5, 'lane 4': 0.1 });
    expect(pointer.move(0, -TRAVEL_PX * 0.2)).toEqual([{ key: 'lane 3', value: expect.closeTo(0.7, 9) as number }]);
    pointer.move(LANE_PX, 0);
    expect(pointer.move(0, TRAVEL_PX * 0.4)).toEqual([]);
    pointer.move(-LANE_PX, 0);
    // It stands at 0.3 now, and the lane at 0.7.
    expect([pointer.isInHand('lane 3'), pointer.move(0, -TRAVEL_PX * 0.2)]).toEqual([false, []]);
    expect(pointer.move(0, -TRAVEL_PX * 0.3)).toEqual([{ key: 'lane 3', value: expect.closeTo(0.8, 9) as number }]);
  });
});

describe('what others move meanwhile', () => {
  it('is gone on from; what comes back of its own changes nothing', () => {
    const pointer = taken({}, { 'lane 3': 0.5 });
    const up = () => pointer.move(0, -TRAVEL_PX / 10)[0]!.value;
    const [first, second] = [up(), up()];
    // As it comes over the line, and late.
    pointer.heard('lane 3', Math.fround(first));
    expect(up()).toBeCloseTo(0.8, 9);
    pointer.heard('lane 3', Math.fround(second));
    pointer.heard('lane 3', Math.fround(0.8));
    // A scene.
    pointer.heard('lane 3', 0.2);
    expect(up()).toBeCloseTo(0.3, 9);
  });
  it('is met anew with pick-up, where it stands by then', () => {
    const pointer = taken({ how: 'pickUp' }, { 'lane 3': 0.5 });
    expect(pointer.move(0, -TRAVEL_PX / 10)).toHaveLength(1);
    pointer.heard('lane 3', 0.9);
    expect([pointer.isInHand('lane 3'), pointer.value('lane 3'), pointer.move(0, -TRAVEL_PX / 10)]).toEqual([false, 0.9, []]);
    expect(pointer.move(0, -TRAVEL_PX / 4)).toHaveLength(1);
  });
  it('in another lane it goes on from when it comes there', () => {
    const pointer = taken({}, { 'lane 3': 0.5 });
    pointer.heard('lane 4', 0.6);
    pointer.move(LANE_PX, 0);
    expect(pointer.move(0, -TRAVEL_PX / 10)).toEqual([{ key: 'lane 4', value: expect.closeTo(0.7, 9) as number }]);
  });
});

describe('as x and y', () => {
  it('moves both, upward and to the right', () => {
    const pointer = taken({ as: 'xy' });
    expect(pointer.move(TRAVEL_PX / 4, -TRAVEL_PX / 8)).toEqual([{ key: 'pointer x', value: 0.75 }, { key: 'pointer y', value: 0.625 }]);
  });
  it('with pick-up each axis is met by itself', () => {
    const pointer = taken({ as: 'xy', how: 'pickUp' }, { 'pointer x': 0.5, 'pointer y': 0.9 });
    expect(pointer.move(TRAVEL_PX * 0.1, -TRAVEL_PX * 0.1)).toEqual([{ key: 'pointer x', value: 0.6 }]);
    expect([pointer.isInHand('pointer x'), pointer.isInHand('pointer y')]).toEqual([true, false]);
  });
});

it('the wheel goes through its range in twelve notches of 100 px; three buttons are gates; all is let go at the end', () => {
  const pointer = taken({});
  for (let i = 0; i < 6; i++) pointer.wheel(-100);
  expect(pointer.value('wheel')).toBeCloseTo(0.5, 9);
  expect(pointer.wheel(-5000)).toEqual([{ key: 'wheel', value: 1 }]);
  expect([0, 1, 2, 3].flatMap((button) => pointer.press(button).map(({ key }) => key))).toEqual(['button left', 'button middle', 'button right']);
  expect(pointer.release(1)).toEqual([{ key: 'button middle', value: 0 }]);
  expect(pointer.end()).toEqual([{ key: 'button left', value: 0 }, { key: 'button right', value: 0 }]);
  expect(pointer.end()).toEqual([]);
});
