import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { chosenForStage, MOST_ON_STAGE, nextOnStage, shownOnStage } from './onStage';

const ids = (mappings: readonly { id: string }[]) => mappings.map(({ id }) => id);

it('shows what was chosen, in the order chosen', () => {
  const { mappings } = testRig([{ onStage: 3 }, {}, { onStage: 1 }, { onStage: 2 }]);
  expect(ids(chosenForStage(mappings))).toEqual(['m2', 'm3', 'm0']);
  expect(nextOnStage(mappings)).toBe(4);
  expect(ids(shownOnStage(mappings, () => null, 0))).toEqual(['m2', 'm3', 'm0']);
});

it('else what moved in the last minute, in the order of the list; of too many those that moved last', () => {
  const { mappings } = testRig(Array.from({ length: 20 }, () => ({})));
  const heard = new Map([['m5', 100_000], ['m2', 141_000], ['m9', 199_000]]);
  expect(ids(shownOnStage(mappings, (id) => heard.get(id) ?? null, 200_000))).toEqual(['m2', 'm9']);
  const all = shownOnStage(mappings, (id) => 150_000 + Number(id.slice(1)), 200_000);
  expect(ids(all)).toEqual(ids(mappings.slice(-MOST_ON_STAGE)));
});
