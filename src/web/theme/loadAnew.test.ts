import { expect, it } from 'vitest';
import { loadAnew } from './loadAnew';

it('loads a page that broke, and leaves it where it breaks again at once', () => {
  const kept = new Map<string, string>();
  const store = { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, value: string) => void kept.set(key, value) };
  const loads: number[] = [];
  for (const nowMs of [50_000, 50_500, 59_999, 60_001, 65_000]) loadAnew(() => store, () => loads.push(nowMs), nowMs);
  expect(loads).toEqual([50_000, 60_001]);
  const forbidden = () => {
    throw new Error('The browser keeps nothing.');
  };
  loadAnew(forbidden, () => loads.push(0), 90_000);
  expect(loads).toHaveLength(2);
});
