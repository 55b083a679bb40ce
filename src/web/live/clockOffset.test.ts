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

it('forgets a good old ping after eight newer ones, so that a drifting clock is followed', () => {
  const offset = new ClockOffset();
  offset.add(0, 1, 1000.5);
  for (let i = 1; i <= 8; i++) offset.add(i * 1000, i * 1000 + 4, i * 1000 + 1102);
  expect(offset.toHub(0)).toBe(1100);
});
