import { expect, it } from 'vitest';
import { crew, member, swell } from '../engine/ensemble/testCrew';
import { cc } from '../engine/testScript';
import { testRig } from '../engine/testRig';
import { mapperChanges, withMappers } from './changes';

const before = testRig([{ message: cc(20) }, { message: cc(21) }, { message: cc(22) }]);
const after = { ...testRig([{ message: cc(20) }, { message: cc(77) }]), name: 'Later' };
after.mappings.push({ ...after.mappings[0]!, id: 'swell', name: 'Swell', signal: 'swell', message: cc(30) });
after.signals.push({ ...after.signals[0]!, id: 'swell', name: 'Swell' });

it('says which mappings are others, new or gone', () => {
  expect(mapperChanges(before, after)).toEqual([
    { id: 'm1', name: 'Mapping 1', change: 'changed' },
    { id: 'swell', name: 'Swell', change: 'new' },
    { id: 'm2', name: 'Mapping 2', change: 'gone' },
  ]);
  expect(mapperChanges(before, before)).toEqual([]);
});
it('counts members of the ensemble, and a voice mapping of a new one brings it along with what it listens to', () => {
  const chord = member(swell);
  const echo = member({ kind: 'echo', listens: 'chord', times: 1, everyBeats: 1, softer: 1, fewer: 1, transpose: 0 });
  const [none, both] = [crew(), crew(chord, echo)];
  expect(mapperChanges(none, both).map(({ id, change }) => `${id} ${change}`)).toEqual(['to.chord new', 'to.echo new', 'chord new', 'echo new']);
  expect(withMappers(none, both, ['to.echo']).members.map(({ id }) => id)).toEqual(['chord', 'echo']);
  const louder = { ...both, members: [{ ...chord, level: 0.5 }, echo] };
  expect(mapperChanges(both, louder)).toEqual([{ id: 'chord', name: 'chord', change: 'changed' }]);
  expect(withMappers(both, louder, ['chord']).members[0]!.level).toBe(0.5);
});
it('takes the chosen ones alone, with what they refer to', () => {
  const controllers = (ids: string[]) => withMappers(before, after, ids).mappings.map(({ id, message }) => `${id} ${message.kind === 'controlChange' ? message.controller : '?'}`);
  expect(controllers([])).toEqual(['m0 20', 'm1 21', 'm2 22']);
  expect(controllers(['m1'])).toEqual(['m0 20', 'm1 77', 'm2 22']);
  expect(controllers(['m2', 'swell'])).toEqual(['m0 20', 'm1 21', 'swell 30']);
  expect(withMappers(before, after, ['swell']).signals.map(({ id }) => id)).toEqual(['fog', 'fog.touch', 'bell', 'swell']);
});
