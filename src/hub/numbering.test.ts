import { expect, it } from 'vitest';
import { Numbering, TOLD_NOTHING } from './numbering';

function numbering() {
  const clock = { nowMs: 0 };
  return { clock, numbers: new Numbering(() => clock.nowMs) };
}

it('gives each id one number, and a number that was given back to another only after it has rested', () => {
  const { clock, numbers } = numbering();
  expect([numbers.take('fog'), numbers.take('bell'), numbers.take('fog')]).toEqual([0, 1, 0]);
  expect(numbers.retain(new Set(['bell']))).toEqual([0]);
  expect([numbers.find('fog'), numbers.idOf(0)]).toEqual([undefined, 'fog']);
  expect(numbers.take('lamp')).toBe(2);
  clock.nowMs = 10_000;
  expect([numbers.take('mist'), numbers.idOf(0)]).toEqual([0, 'mist']);
});

it('does not run out, however many ids come and go', () => {
  const { clock, numbers } = numbering();
  let largest = 0;
  for (let i = 0; i < 200_000; i++) {
    largest = Math.max(largest, numbers.take(`id-${i}`));
    if (i % 5000 === 4999) numbers.retain(new Set([`id-${i}`]));
    clock.nowMs += 0.01;
  }
  expect(largest).toBeLessThan(65_535);
});

it('tells what is new since it was last told, or everything to whoever is too far behind', () => {
  const { numbers } = numbering();
  numbers.take('fog');
  const first = numbers.since(TOLD_NOTHING);
  expect(first.numbered).toEqual([[0, 'fog']]);
  numbers.take('bell');
  const second = numbers.since(first.told);
  expect(second.numbered).toEqual([[1, 'bell']]);
  expect(numbers.since(second.told).numbered).toEqual([]);
  for (let i = 0; i < 9000; i++) numbers.take(`id-${i}`);
  expect(numbers.since(second.told).numbered).toHaveLength(9002);
});
