import { expect, it } from 'vitest';
import { Memory } from './remember';

it('remembers in the browser; where that forbids it, or is full, as long as the page is there', () => {
  const stored = new Map([['name', 'Lantern']]);
  let room = 1;
  const browser = {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (room-- <= 0) throw new DOMException('full', 'QuotaExceededError');
      stored.set(key, value);
    },
  };
  const memory = new Memory(() => browser);
  expect([memory.get('name'), memory.get('volume')]).toEqual(['Lantern', null]);
  memory.set('name', 'Buoy');
  memory.set('name', 'Gull');
  expect([memory.get('name'), stored.get('name')]).toEqual(['Gull', 'Buoy']);
  room = 1;
  memory.set('name', 'Keel');
  expect([memory.get('name'), stored.get('name')]).toEqual(['Keel', 'Keel']);

  const forbidden = new Memory(() => {
    throw new DOMException('no', 'SecurityError');
  });
  expect(forbidden.get('name')).toBeNull();
  forbidden.set('name', 'Gull');
  expect(forbidden.get('name')).toBe('Gull');
});
