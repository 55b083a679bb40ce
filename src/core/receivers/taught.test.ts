import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { applyEdit } from '../rig/edit';
import { remove } from '../rig/remove';
import { isTaught, taught } from './taught';

it('what a receiver learned is remembered for the address it was learned at, and goes with its mapping', () => {
  const rig = testRig([{}, {}]);
  const [first] = rig.mappings;
  expect(isTaught(rig, first!)).toBe(false);
  const edited = applyEdit(rig, { kind: 'change', changes: taught(rig, first!) });
  if (!edited.ok) throw new Error(edited.message);
  const { document } = edited;
  expect(document.mappings.map((mapping) => isTaught(document, mapping))).toEqual([true, false]);
  expect(isTaught(document, { ...first!, message: { kind: 'controlChange', channel: 9, controller: 9, range: [0, 127] } })).toBe(false);
  const without = applyEdit(document, { kind: 'change', changes: remove(document, [{ kind: 'mapping', id: first!.id }]) });
  expect(without.ok && without.document.receivers[0]!.taught).toEqual({});
});
