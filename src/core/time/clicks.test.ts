import { expect, it } from 'vitest';
import { clicksBetween } from './clicks';

it('4/4 at 120: every half second, the bar every two', () => {
  const time = { anchorMs: 1000, anchorBeat: 0, bpm: 120 };
  expect(clicksBetween(time, [4, 4], 1000, 4000)).toEqual([1000, 1500, 2000, 2500, 3000, 3500].map((atMs) => ({ atMs, isBar: (atMs - 1000) % 2000 === 0 })));
  expect(clicksBetween(time, [4, 4], 1001, 1500)).toEqual([]);
});
it('counts in before beat 0: a bar of 3/4 at 60 begins three seconds before', () => {
  const time = { anchorMs: 0, anchorBeat: -3, bpm: 60 };
  expect(clicksBetween(time, [3, 4], 0, 4000)).toEqual([0, 1000, 2000, 3000].map((atMs) => ({ atMs, isBar: atMs % 3000 === 0 })));
});
it('6/8 clicks on its eighths: a quarter at 100 is 600 ms, six clicks of 300 ms are a bar', () => {
  const clicks = clicksBetween({ anchorMs: 0, anchorBeat: 0, bpm: 100 }, [6, 8], 0, 3600);
  expect(clicks.map(({ atMs }) => Math.round(atMs))).toEqual(Array.from({ length: 12 }, (_, i) => 300 * i));
  expect(clicks.flatMap(({ isBar }, i) => (isBar ? [i] : []))).toEqual([0, 6]);
});
it('what lies side by side leaves none out and has none twice', () => {
  const time = { anchorMs: 17.3, anchorBeat: 2.6, bpm: 133 };
  const edges = Array.from({ length: 200 }, (_, i) => 40.7 * i);
  expect(edges.slice(1).flatMap((edge, i) => clicksBetween(time, [7, 8], edges[i]!, edge))).toEqual(clicksBetween(time, [7, 8], 0, edges.at(-1)!));
});
