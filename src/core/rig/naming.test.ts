import { expect, it } from 'vitest';
import { freeId, freeName } from './naming';

it.each([
  ['Fog Bell', 'fog-bell'],
  ['Fähre d’Hiver', 'fahre-d-hiver'],
  ['tilt.x', 'tilt.x'],
  ['..Chain!..', 'chain'],
  ['風', 'thing'],
  ['', 'thing'],
])('makes an id of "%s", and another where that is taken', (name, id) => {
  const taken = new Set<string>();
  expect([freeId(name, taken), freeId(name, taken), freeId(name, taken)]).toEqual([id, `${id}-2`, `${id}-3`]);
});

it('cuts a long name so that a number still fits, and never behind a hyphen', () => {
  const taken = new Set<string>();
  const ids = [freeId(`${'a'.repeat(57)} b`, taken), freeId(`${'a'.repeat(57)} c`, taken)];
  expect(ids).toEqual(['a'.repeat(57), `${'a'.repeat(57)}-2`]);
});

it('numbers names', () => {
  expect(freeName('Lantern', ['Lantern', 'Lantern 2'])).toBe('Lantern 3');
});
