import { expect, it } from 'vitest';
import type { NamedFact } from '../../live/store';
import { FactLog, type Listed } from './factLog';

const fact = (value: number): NamedFact => ({ hubTimeMs: value, direction: 'in', where: 'fog', who: null, mapping: null, value, bytes: null, delayMs: null });
const facts = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => fact(from + i));
const values = ({ count, at }: Listed) => Array.from({ length: count }, (_, place) => at(place).value);
const isEven = ({ value }: NamedFact) => value! % 2 === 0;

it('lists the newest first, and of them what is looked for', () => {
  const log = new FactLog();
  log.hear(facts(0, 5), 0);
  expect(values(log.listed)).toEqual([4, 3, 2, 1, 0]);
  log.lookFor(isEven);
  log.hear(facts(5, 9), 3);
  expect([values(log.listed), log.missed]).toEqual([[8, 6, 4, 2, 0], 3]);
  log.lookFor(() => true);
  expect(log.listed.count).toBe(9);
});

it('what is listed stays as it is while more comes, also while the oldest are let go', () => {
  const log = new FactLog();
  log.hear(facts(0, 20_000), 0);
  const { listed } = log;
  log.hear(facts(20_000, 20_003), 0);
  expect([listed.count, listed.at(0).value, listed.at(19_999).value]).toEqual([20_000, 19_999, 0]);
  // Each is known by how many came before it, whatever was let go.
  expect([log.listed.count, log.listed.at(0).value, log.listed.before - listed.before]).toEqual([10_000, 20_002, 3]);
});

it('held, it stands still and can be searched; what came meanwhile is there when it goes on', () => {
  const log = new FactLog();
  log.hear(facts(0, 3), 0);
  log.hold(true);
  log.hear(facts(3, 6), 0);
  expect(values(log.listed)).toEqual([2, 1, 0]);
  log.lookFor(isEven);
  expect(values(log.listed)).toEqual([2, 0]);
  log.hold(false);
  expect(values(log.listed)).toEqual([4, 2, 0]);
});

it('cleared, it begins anew, also while it is held', () => {
  const log = new FactLog();
  log.hear(facts(0, 3), 2);
  log.hold(true);
  log.clear();
  expect([log.listed.count, log.missed]).toEqual([0, 0]);
  log.hear(facts(3, 4), 0);
  log.hold(false);
  expect(values(log.listed)).toEqual([3]);
});
