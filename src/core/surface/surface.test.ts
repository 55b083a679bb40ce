import { describe, expect, it } from 'vitest';
import { fitInto } from './fit';
import { faderValue, xyValue } from './touchValue';

const upright = { x: 24, y: 24, width: 114, height: 540 };

describe('a finger', () => {
  it('on an upright fader gives 0 at the lower end, 1 at the upper, and stays there outside', () => {
    const at = (y: number) => faderValue(upright, { x: 60, y }, 18);
    expect([at(564), at(546), at(294), at(42), at(-200)]).toEqual([0, 0, 0.5, 1, 1]);
  });
  it('on a lying fader goes from left to right', () => {
    expect(faderValue({ x: 0, y: 0, width: 236, height: 80 }, { x: 68, y: 40 }, 18)).toBe(0.25);
  });
  it('on an XY pad gives x to the right and y upwards', () => {
    expect(xyValue({ x: 0, y: 0, width: 136, height: 136 }, { x: 43, y: 93 }, 18)).toEqual({ x: 0.25, y: 0.25 });
  });
  it('on a control with no travel gives 0', () => expect(faderValue({ x: 0, y: 0, width: 10, height: 20 }, { x: 5, y: 5 }, 18)).toBe(0));
});

describe('fitInto', () => {
  it('is as large as fits, in the middle', () => {
    expect(fitInto({ width: 400, height: 200 }, { width: 1000, height: 600 })).toEqual({ scale: 2.5, left: 0, top: 50 });
  });
});
