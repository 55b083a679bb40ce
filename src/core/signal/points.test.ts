import fc from 'fast-check';
import { expect, it } from 'vitest';
import { assign } from './assignment';
import { chance } from './oscillator';
import { PointTracker, type LightPoint } from './points';

const at = (x: number, y: number, size = 0.1): LightPoint => ({ x, y, size });
const places = (seen: (LightPoint | null)[]) => seen.map((point) => point && [point.x, point.y]);

it('keeps the identity of points that come in another order', () => {
  const tracker = new PointTracker();
  const [a, b, c] = [at(0.1, 0.5, 0.3), at(0.5, 0.5, 0.2), at(0.9, 0.5, 0.1)];
  expect(places(tracker.see([a, b, c], 0))).toEqual([[0.1, 0.5], [0.5, 0.5], [0.9, 0.5], null]);
  expect(places(tracker.see([at(0.88, 0.5, 0.9), at(0.12, 0.5), at(0.5, 0.52)], 20))).toEqual([[0.12, 0.5], [0.5, 0.52], [0.88, 0.5], null]);
});

it('takes the sharing-out with the smallest sum, where the nearest alone would be wrong', () => {
  const tracker = new PointTracker();
  tracker.see([at(0.0, 0), at(0.4, 0)], 0);
  // Both moved right by 0.3: the first is now nearer to where the second was.
  expect(places(tracker.see([at(0.3, 0), at(0.7, 0)], 20)).slice(0, 2)).toEqual([[0.3, 0], [0.7, 0]]);
});

it('a point that vanishes leaves its place empty and takes it up again', () => {
  const tracker = new PointTracker();
  tracker.see([at(0.2, 0.2), at(0.8, 0.8)], 0);
  expect(places(tracker.see([at(0.8, 0.8)], 20)).slice(0, 2)).toEqual([null, [0.8, 0.8]]);
  expect(places(tracker.see([at(0.8, 0.8), at(0.21, 0.2)], 40)).slice(0, 2)).toEqual([[0.21, 0.2], [0.8, 0.8]]);
});

it('leaves out what is no number, and of more than four the smallest', () => {
  const tracker = new PointTracker();
  const many = [0.1, 0.3, 0.5, 0.7, 0.9].map((x, i) => at(x, 0, 0.1 * (i + 1)));
  expect(places(tracker.see([at(NaN, 0), ...many], 0)).flat()).not.toContain(0.1);
  expect(new PointTracker().see([], 0)).toEqual([null, null, null, null]);
});

it('takes numbers as large as there are: none holds up the rest', () => {
  const tracker = new PointTracker();
  tracker.see([{ x: 0.1, y: 0.1, size: 1 }, { x: 0.9, y: 0.9, size: 1 }], 0);
  const far = tracker.see([{ x: 1e200, y: 0, size: 4 }, { x: 0.9, y: 0.9, size: 3 }, { x: -1e308, y: 1e308, size: 2 }, { x: 1e155, y: 0, size: 1 }], 10);
  expect(far[1]).toEqual({ x: 0.9, y: 0.9, size: 3 });
  expect(far.filter((point) => point !== null)).toHaveLength(4);
  expect(tracker.see([{ x: -1e308, y: 0, size: 1 }], 20).filter((point) => point !== null)).toHaveLength(1);
});
it('tells sixteen apart while they cross, in whatever order they are said', () => {
  const tracker = new PointTracker(16);
  const random = (i: number, n: number) => chance(n, i) - 0.5;
  // Sixteen lamps on slow ways of their own, said in another order each time.
  const lampAt = (lamp: number, step: number) => at(0.5 + 0.4 * Math.sin(lamp + step / 90), 0.5 + 0.4 * Math.cos(2.3 * lamp + step / 70));
  const first = tracker.see(Array.from({ length: 16 }, (_, lamp) => lampAt(lamp, 0)), 0);
  const lampOf = first.map((point) => Array.from({ length: 16 }, (_, lamp) => lamp).find((lamp) => point!.x === lampAt(lamp, 0).x && point!.y === lampAt(lamp, 0).y)!);
  for (let step = 1; step <= 60; step++) {
    const said = Array.from({ length: 16 }, (_, lamp) => lamp).sort((a, b) => random(a, step) - random(b, step)).map((lamp) => lampAt(lamp, step));
    tracker.see(said, step * 16).forEach((point, t) => expect(point).toEqual(lampAt(lampOf[t]!, step)));
  }
});

it('shares out costs without end last, and ends', () => {
  expect(assign([[Infinity, 1], [Infinity, Infinity]])).toEqual([1, 0]);
  expect(assign([[NaN, 2], [1, NaN]])).toEqual([1, 0]);
  expect(assign([[1e308, -1e308], [1e308, 1e308]]).sort()).toEqual([0, 1]);
});
it('shares out at the smallest sum of costs (against every way that there is)', () => {
  const ways = (columns: number[]): number[][] => (columns.length === 0 ? [[]] : columns.flatMap((column, i) => ways(columns.toSpliced(i, 1)).map((rest) => [column, ...rest])));
  fc.assert(
    fc.property(fc.array(fc.array(fc.integer({ min: 0, max: 50 }), { minLength: 5, maxLength: 5 }), { minLength: 1, maxLength: 5 }), (costs) => {
      const costOf = (columns: readonly number[]) => costs.reduce((sum, row, r) => sum + row[columns[r]!]!, 0);
      const found = assign(costs);
      expect(new Set(found).size).toBe(costs.length);
      expect(costOf(found)).toBe(Math.min(...ways([0, 1, 2, 3, 4]).map(costOf)));
    }),
  );
});
