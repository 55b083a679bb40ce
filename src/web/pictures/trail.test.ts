import { expect, it } from 'vitest';
import { Trail, TRAIL_MS } from './trail';

it('begins with the first move: where the dot is seen first it stood before, and told again it stands', () => {
  const trail = new Trail();
  expect([trail.move(0, 0.2, 0.4), trail.move(10, 0.2, 0.4), trail.move(20, 0.2, 0.5)]).toEqual([false, false, true]);
  expect(trail.since(20)).toEqual([{ age: 0, value: 0.2, level: 0.5 }]);
});

it('fades, and ends', () => {
  const trail = new Trail();
  for (const timeMs of [0, 10]) trail.move(timeMs, timeMs, 0.5);
  expect(trail.since(10 + TRAIL_MS / 2)).toEqual([{ age: 0.5, value: 10, level: 0.5 }]);
  expect(trail.since(10 + TRAIL_MS)).toEqual([]);
});
