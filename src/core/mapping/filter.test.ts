import { expect, it } from 'vitest';
import { ALL, filtered, type Filter } from './filter';
import { testRig } from '../engine/testRig';

const rig = testRig([
  { name: 'Fog density' },
  { name: 'Twin of it' },
  { name: 'Bell stroke', signal: 'bell', on: false, message: { kind: 'note', channel: 10, note: 60, velocity: 1 } },
]);

it.each<[Partial<Filter>, string[]]>([
  [{}, ['m0', 'm1', 'm2']],
  [{ text: 'fog DENSITY' }, ['m0']],
  [{ text: 'deck cc' }, ['m0', 'm1']],
  [{ text: 'channel 10' }, ['m2']],
  [{ channel: 10 }, ['m2']],
  [{ state: 'off' }, ['m2']],
  [{ state: 'clash' }, ['m0', 'm1']],
  [{ input: 'deck', state: 'on' }, ['m0', 'm1']],
  [{ output: 'elsewhere' }, []],
])('%j lets %j through', (filter, ids) => expect(filtered(rig, { ...ALL, ...filter }).map(({ id }) => id)).toEqual(ids));

it('tells those that were not heard lately from the others, and finds words in groups and notes', () => {
  const noted = testRig([{ group: 'Ropes' }, { remark: 'calm it for the storm' }]);
  expect(filtered(noted, { ...ALL, state: 'silent' }, (id) => id === 'm1').map(({ id }) => id)).toEqual(['m1']);
  expect(filtered(noted, { ...ALL, text: 'ropes' }).map(({ id }) => id)).toEqual(['m0']);
  expect(filtered(noted, { ...ALL, text: 'storm' }).map(({ id }) => id)).toEqual(['m1']);
});
