import { expect, it } from 'vitest';
import { SteadyHand } from './steady';

const POINTS = 21;
const seen = (at: number) => ({ side: 'left' as const, picture: Float64Array.from({ length: 3 * POINTS }, () => at), world: Float64Array.from({ length: 3 * POINTS }, () => at) });

it('forgets a number that is none with the next picture', () => {
  const steady = new SteadyHand();
  steady.push(seen(0.5), 0);
  steady.push(seen(NaN), 33);
  expect([...steady.push(seen(0.6), 66).picture]).toEqual([...seen(0.6).picture]);
  const { picture } = steady.push(seen(0.7), 99);
  expect(picture[0]).toBeGreaterThan(0.6);
  expect(picture[0]).toBeLessThan(0.7);
});
