import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Frame } from '../rig/document';
import { align, ALIGNMENTS, bounds, distribute, guidesOf, LEAST_SIDE, moveWithin, repeatOffsets, resize, sameSize, snap, touches } from './arrange';

const at = (x: number, y: number, width = 100, height = 50): Frame => ({ x, y, width, height });
const SURFACE = { width: 1000, height: 600 };
const frames = fc.array(fc.record({ x: fc.integer({ min: 0, max: 800 }), y: fc.integer({ min: 0, max: 500 }), width: fc.integer({ min: 24, max: 200 }), height: fc.integer({ min: 24, max: 100 }) }), { minLength: 1, maxLength: 8 });

describe('moving', () => {
  it('goes as far as the surface, several as one', () => {
    expect(moveWithin([at(10, 10), at(300, 100)], -50, 20, SURFACE)).toEqual([at(0, 30), at(290, 120)]);
    expect(moveWithin([at(850, 500)], 500, 500, SURFACE)).toEqual([at(900, 550)]);
    expect(moveWithin([], 1, 1, SURFACE)).toEqual([]);
  });
  it('never leaves the surface and keeps sizes and distances', () => {
    fc.assert(
      fc.property(frames, fc.integer({ min: -2000, max: 2000 }), fc.integer({ min: -2000, max: 2000 }), (before, dx, dy) => {
        const after = moveWithin(before, dx, dy, SURFACE);
        const around = bounds(after)!;
        expect(around.x).toBeGreaterThanOrEqual(0);
        expect(around.x + around.width).toBeLessThanOrEqual(SURFACE.width);
        expect(around.y + around.height).toBeLessThanOrEqual(SURFACE.height);
        after.forEach((frame, i) => expect(frame.x - after[0]!.x).toBe(before[i]!.x - before[0]!.x));
      }),
    );
  });
});

describe('sizing by a handle', () => {
  it('moves the edges of the handle alone', () => {
    expect(resize(at(100, 100), { x: 1, y: 1 }, 20, 10, SURFACE)).toEqual(at(100, 100, 120, 60));
    expect(resize(at(100, 100), { x: -1, y: 0 }, 20, 99, SURFACE)).toEqual(at(120, 100, 80, 50));
  });
  it('ends at the least size and at the edges of the surface', () => {
    expect(resize(at(100, 100), { x: -1, y: -1 }, 500, 500, SURFACE)).toEqual(at(200 - LEAST_SIDE, 150 - LEAST_SIDE, LEAST_SIDE, LEAST_SIDE));
    expect(resize(at(100, 100), { x: -1, y: -1 }, -500, -500, SURFACE)).toEqual(at(0, 0, 200, 150));
    expect(resize(at(900, 500), { x: 1, y: 1 }, 500, 500, SURFACE)).toEqual(at(900, 500, 100, 100));
  });
});

describe('snapping', () => {
  it('takes the nearest line in reach along each axis', () => {
    const guides = guidesOf([at(200, 100)], SURFACE);
    expect(snap(at(205, 300), guides, 8)).toEqual({ dx: -5, dy: 0, on: [{ axis: 'x', at: 200 }, { axis: 'y', at: 300 }] });
    expect(snap(at(330, 147), guides, 8)).toMatchObject({ dx: 0, dy: 3 });
    expect(snap(at(447, 20), guides, 8)).toMatchObject({ dx: 3, on: [{ axis: 'x', at: 500 }] });
  });
  it('with the edges of a handle leaves the others alone', () => {
    expect(snap(at(203, 297), guidesOf([at(200, 100)], SURFACE), 8, { x: [1], y: [] })).toMatchObject({ dx: -3, dy: 0 });
  });
});

describe('in line', () => {
  it.each(ALIGNMENTS)('%s: one line for all, nothing sized, nothing outside of where they were', (how) => {
    fc.assert(
      fc.property(frames, (before) => {
        const after = align(before, how);
        const line = ({ x, y, width, height }: Frame) => ({ left: x, centre: x + width / 2, right: x + width, top: y, middle: y + height / 2, bottom: y + height })[how];
        for (const frame of after) expect(Math.abs(line(frame) - line(after[0]!))).toBeLessThanOrEqual(1);
        after.forEach(({ width, height }, i) => expect([width, height]).toEqual([before[i]!.width, before[i]!.height]));
      }),
    );
  });
  it('with even gaps between, the outermost where they were', () => {
    expect(distribute([at(0, 0), at(700, 0), at(150, 0)], 'x', SURFACE)).toEqual([at(0, 0), at(700, 0), at(350, 0)]);
    expect(distribute([at(0, 0), at(9, 0)], 'x', SURFACE)).toEqual([at(0, 0), at(9, 0)]);
    expect(distribute([at(0, 0), at(0, 90), at(0, 500)], 'y', SURFACE).map(({ y }) => y)).toEqual([0, 250, 500]);
  });
  it('of one size, that of the first', () => expect(sameSize([at(0, 0, 30, 40), at(990, 10, 10, 20)], SURFACE)).toEqual([at(0, 0, 30, 40), at(970, 10, 30, 40)]));
});

it('repeats across and down, row by row', () => {
  expect(repeatOffsets(at(0, 0), 3, 2, 10, 20)).toEqual([{ dx: 110, dy: 0 }, { dx: 220, dy: 0 }, { dx: 0, dy: 70 }, { dx: 110, dy: 70 }, { dx: 220, dy: 70 }]);
});

it('knows what touches', () => {
  expect([touches(at(0, 0), at(99, 49)), touches(at(0, 0), at(100, 0)), touches(at(0, 0), at(0, 50))]).toEqual([true, false, false]);
});
