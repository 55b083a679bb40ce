import { expect, it } from 'vitest';
import { ClockOffset } from './clockOffset';

it('knows nothing before the first answer, and says so as 0', () => expect(new ClockOffset().toHub(500)).toBe(0));

it('trusts the ping with the smallest round trip', () => {
  const offset = new ClockOffset();
  offset.add(0, 40, 1035);
  offset.add(100, 102, 1101);
  offset.add(200, 260, 1250);
  expect(offset.toHub(300)).toBe(1300);
});

it('half a minute in which every answer came late moves nothing', () => {
  const offset = new ClockOffset();
  offset.add(0, 2, 1001);
  // The answer alone was late, by up to 400 ms: taken by themselves they would say up to 200 ms less.
  for (let i = 1; i <= 30; i++) offset.add(i * 1000, i * 1000 + 100 + i * 10, i * 1000 + 1001);
  expect(offset.toHub(31_000)).toBe(32_000);
});

it('follows a clock that drifts: 50 ppm in ten minutes are 30 ms', () => {
  const offset = new ClockOffset();
  for (let s = 0; s <= 600; s++) offset.add(s * 1000, s * 1000 + 2, 1000 + (s * 1000 + 1) * 1.00005);
  expect(Math.abs(offset.toHub(600_000) - (1000 + 600_000 * 1.00005))).toBeLessThan(1);
});

it('a clock that stood still while a tablet slept is known at the next answer', () => {
  const offset = new ClockOffset();
  for (let s = 0; s < 10; s++) offset.add(s * 1000, s * 1000 + 2, s * 1000 + 1001);
  offset.add(10_000, 10_040, 10_020 + 61_000);
  expect(offset.toHub(10_040)).toBe(71_040);
});
