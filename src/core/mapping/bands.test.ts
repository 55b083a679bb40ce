import { expect, it } from 'vitest';
import type { RigDocument } from '../rig/document';
import { applyEdit, type Change } from '../rig/edit';
import { bandRows, changeMappings, inGroup, landsBehind, moveMapping, onChannel } from './bands';
import { testRig } from '../engine/testRig';
import { voiceRig } from '../engine/voices/testVoices';

const rig = testRig([{ name: 'A' }, { name: 'B', group: 'Ropes' }, { name: 'C' }, { name: 'D', group: 'Lamps' }, { name: 'E', group: 'Ropes' }]);
const after = (changes: Change[], of: RigDocument = rig) => {
  const applied = applyEdit(of, { kind: 'change', changes });
  if (!applied.ok) throw new Error(applied.message);
  return applied.document;
};
const names = (of: RigDocument) => of.mappings.map(({ name, group }) => (group === undefined ? name : `${name} in ${group}`));

it('lists those without a group first, then each group under its heading', () => {
  const rows = (folded: string[]) => bandRows(rig.mappings, new Set(folded)).map((row) => (row.kind === 'heading' ? `${row.group} ${row.count}` : row.mapping.name));
  expect(rows([])).toEqual(['A', 'C', 'Ropes 2', 'B', 'E', 'Lamps 1', 'D']);
  expect(rows(['Ropes'])).toEqual(['A', 'C', 'Ropes 2', 'Lamps 1', 'D']);
});
it('moves a mapping to the place and into the group of another, and undo takes it back', () => {
  expect(names(after(moveMapping(rig, 'm0', 'm4')))).toEqual(['B in Ropes', 'C', 'D in Lamps', 'E in Ropes', 'A in Ropes']);
  expect(names(after(moveMapping(rig, 'm4', 'm0')))).toEqual(['E', 'A', 'B in Ropes', 'C', 'D in Lamps']);
  expect(moveMapping(rig, 'm0', 'm0')).toEqual([]);
  const moved = applyEdit(rig, { kind: 'change', changes: moveMapping(rig, 'm4', 'm0') });
  if (moved.ok) expect(applyEdit(moved.document, moved.inverse)).toMatchObject({ document: rig });
});
it('voice mappings stand behind the mappings of a group: among themselves they move, and elsewhere they change their group', () => {
  const mixed = { ...voiceRig({ name: 'V' }, { name: 'W', group: 'Ropes' }), mappings: rig.mappings };
  const voices = (changes: Change[]) => after(changes, mixed).voiceMappings.map(({ name, group }) => (group === undefined ? name : `${name} in ${group}`));
  expect(voices(moveMapping(mixed, 'v1', 'v0'))).toEqual(['W', 'V']);
  expect(voices(moveMapping(mixed, 'v0', 'm3'))).toEqual(['V in Lamps', 'W in Ropes']);
  expect(names(after(moveMapping(mixed, 'm0', 'v1'), mixed))).toEqual(['A in Ropes', 'B in Ropes', 'C', 'D in Lamps', 'E in Ropes']);
  expect(moveMapping(mixed, 'v1', 'm1')).toEqual([]);
  const marked = new Set(['m0', 'v0', 'v1']);
  expect(voices(changeMappings(mixed, marked, (mapping) => inGroup(mapping, 'Deck')))).toEqual(['V in Deck', 'W in Deck']);
  // A zone has more channels than one.
  expect(changeMappings(mixed, new Set(['v0']), (mapping) => onChannel(mapping, 7))).toEqual([]);
});
it('where a mapping will land is said before it is let go of: right behind the other, or right before it', () => {
  const ids = rig.mappings.map(({ id }) => id);
  for (const id of ids)
    for (const onto of ids.filter((other) => other !== id)) {
      const order = after(moveMapping(rig, id, onto)).mappings.map((mapping) => mapping.id);
      expect(order.indexOf(id) - order.indexOf(onto)).toBe(landsBehind(rig, id, onto) ? 1 : -1);
    }
});
it('changes many together, those alone that differ', () => {
  const marked = new Set(['m0', 'm1', 'm3']);
  expect(names(after(changeMappings(rig, marked, (mapping) => inGroup(mapping, 'Deck'))))).toEqual(['A in Deck', 'B in Deck', 'C', 'D in Deck', 'E in Ropes']);
  expect(names(after(changeMappings(rig, marked, (mapping) => inGroup(mapping, null))))).toEqual(['A', 'B', 'C', 'D', 'E in Ropes']);
  expect(after(changeMappings(rig, marked, (mapping) => onChannel(mapping, 7))).mappings.map(({ message }) => 'channel' in message && message.channel)).toEqual([7, 7, 3, 7, 3]);
  expect(changeMappings(rig, marked, (mapping) => mapping)).toEqual([]);
});
