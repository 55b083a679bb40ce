import { expect, it } from 'vitest';
import { Calendar } from './calendar';

it('stays at one second however the comparison of the clocks trembles, and follows a computer that slept', () => {
  const calendar = new Calendar();
  expect(calendar.behindMs(0, 1e12)).toBe(0);
  // Half-way between two seconds.
  const said = new Set([499.6, 500.4, 499.9, 500.3, 498, 502].map((tremble) => calendar.behindMs(10_000, 1e12 + 10_000 + tremble)));
  expect([...said]).toEqual([1e12]);
  expect(calendar.behindMs(11_000, 1e12 + 11_000 + 3_600_000)).toBe(1e12 + 3_600_000);
});
