import { expect, it } from 'vitest';
import { addLane, addPattern, putHit, removePattern, spreadEvenly, stepAt, withLength } from './editPattern';
import { freshPattern } from './kinds/pattern';
import type { Lane, PatternPart } from './parts';

const lane: Lane = { name: 'x', plays: { note: 36 }, length: 8, hits: [] };
const part: PatternPart = { kind: 'pattern', everyBeats: 0.25, present: 1, patterns: [freshPattern('A'), freshPattern('B')], fill: { gate: 'g', pattern: 1 } };
const places = (of: Lane) => of.hits.map(({ at }) => at);

it('a hit is put, changed and taken away', () => {
  const put = putHit(putHit(lane, 5, {}), 2, { strike: 0.4, chance: 0.5 });
  expect(put.hits).toEqual([{ at: 2, strike: 0.4, lasts: 0.5, chance: 0.5 }, { at: 5, strike: 0.8, lasts: 0.5 }]);
  expect(putHit(put, 2, { times: 3 }).hits[0]).toEqual({ at: 2, strike: 0.4, lasts: 0.5, chance: 0.5, times: 3 });
  expect(putHit(put, 2, { chance: undefined } as never).hits[0]).toEqual({ at: 2, strike: 0.4, lasts: 0.5 });
  expect(places(putHit(put, 2, null))).toEqual([5]);
  expect(places(withLength(put, 4))).toEqual([2]);
});
// Toussaint, The Euclidean Algorithm Generates Traditional Musical Rhythms (BRIDGES 2005): E(3,8) = [x..x..x.], E(5,8) = [x.xx.xx.], E(4,16), E(2,5) = [x.x..].
it.each([
  [3, 8, 'x..x..x.'],
  [5, 8, 'x.xx.xx.'],
  [4, 16, 'x...x...x...x...'],
  [2, 5, 'x.x..'],
])('%i hits over %i steps are the rhythm of the table, from some step on', (hits, length, expected) => {
  const made = spreadEvenly({ ...lane, length }, hits);
  const said = Array.from({ length }, (_, at) => (places(made).includes(at) ? 'x' : '.')).join('');
  // The same necklace, as Toussaint counts them.
  expect(expected + expected).toContain(said);
  expect(said[0]).toBe('x');
});
it('no hits, and more than there are steps', () => {
  expect(places(spreadEvenly(lane, 0))).toEqual([]);
  expect(places(spreadEvenly(lane, 99))).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
});
it('patterns are added and go; what played one that goes plays the one before', () => {
  expect(addPattern(part, 0).patterns.map(({ name }) => name)).toEqual(['A', 'B', 'C']);
  expect(removePattern(part, 1)).toMatchObject({ present: 0, fill: { pattern: 0 }, patterns: [{ name: 'A' }] });
  expect(removePattern({ ...part, patterns: [part.patterns[0]!] }, 0).patterns.length).toBe(1);
  expect(addLane(freshPattern('A')).lanes.at(-1)).toMatchObject({ name: 'clap', plays: { note: 39 }, length: 16 });
});
it('the nearest step of a beat, round the lane', () => {
  expect([0.1, 0.13, 1.99, -0.2].map((beat) => stepAt(beat, 0.25, 8))).toEqual([0, 1, 0, 7]);
});
