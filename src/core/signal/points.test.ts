import { expect, it } from 'vitest';
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
