import { expect, it } from 'vitest';
import { FRESH_PROFILE } from '../core/listening/profile';
import { check } from './check';
import { listeningProfilesSchema } from './listeningProfiles';

const problems = (profiles: unknown) => {
  const checked = check(listeningProfilesSchema, JSON.parse(JSON.stringify({ profiles })));
  return checked.ok ? [] : checked.problems.map(({ message }) => message);
};

it('takes what the page makes, taught or not', () => {
  expect(problems([FRESH_PROFILE])).toEqual([]);
  const taught = { ...FRESH_PROFILE, name: 'Mate', scale: null, vowels: [{ name: 'a', examples: [Array<number>(12).fill(1)] }], sounds: [{ name: 'k', examples: [Array<number>(38).fill(-3)] }], chords: [[], [3, 7]] };
  expect(problems([FRESH_PROFILE, taught, { ...FRESH_PROFILE, name: 'Cook', scale: { kind: 'steps', root: 2, cents: [204, 702, 1200] } }])).toEqual([]);
});

it.each([
  ['two of one name', [FRESH_PROFILE, FRESH_PROFILE]],
  ['none', []],
  ['features of another length', [{ ...FRESH_PROFILE, sounds: [{ name: 'k', examples: [[1, 2]] }] }]],
  ['too many sounds', [{ ...FRESH_PROFILE, sounds: Array.from({ length: 9 }, (_, i) => ({ name: `s${i}`, examples: [] })) }]],
  ['what it does not know', [{ ...FRESH_PROFILE, script: 'x' }]],
  ['a scale that does not begin again', [{ ...FRESH_PROFILE, scale: { kind: 'steps', root: 0, cents: [100, -5] } }]],
  ['a range turned round', [{ ...FRESH_PROFILE, range: { low: 60, high: 50 } }]],
  ['no numbers', [{ ...FRESH_PROFILE, gateDb: 'loud' }]],
])('refuses %s', (_, profiles) => {
  expect(problems(profiles).length).toBeGreaterThan(0);
});
