import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { applyEdit } from '../rig/edit';
import { remove } from '../rig/remove';
import { voiceRig } from '../engine/voices/testVoices';
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

it('a voice mapping is learned at its layout, and is forgotten with it', () => {
  const rig = voiceRig({});
  const [voices] = rig.voiceMappings;
  const edited = applyEdit(rig, { kind: 'change', changes: taught(rig, voices!) });
  if (!edited.ok) throw new Error(edited.message);
  const { document } = edited;
  expect(isTaught(document, voices!)).toBe(true);
  expect(isTaught(document, { ...voices!, layout: { kind: 'run', first: 1, last: 4, steal: 'oldest' } })).toBe(false);
  const without = applyEdit(document, { kind: 'change', changes: remove(document, [{ kind: 'voiceMapping', id: voices!.id }]) });
  expect(without.ok && without.document.receivers[0]!.taughtVoices).toEqual({});
});
