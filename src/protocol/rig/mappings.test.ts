import { describe, expect, it } from 'vitest';
import { ledgerOf } from '../../core/ledger/ledger';
import { testRig } from '../../core/engine/testRig';
import type { RigDocument } from '../../core/rig/document';
import { duplicateMapping } from '../../core/rig/duplicate';
import { remove } from '../../core/rig/remove';
import { applyEdit, type Change } from '../../core/rig/edit';
import { sceneDifference, takeScene } from '../../core/rig/scene';
import type { RigEdit } from '../../core/rig/edit';
import { check } from '../check';
import { checkEdited, checkRig, editSchema } from './index';

const after = (rig: RigDocument, changes: Change[]): RigDocument => {
  const applied = applyEdit(rig, { kind: 'change', changes });
  if (!applied.ok) throw new Error(applied.message);
  const checked = checkRig(applied.document);
  if (!checked.ok) throw new Error(checked.problems[0]!.message);
  return checked.value;
};

it('copies count on and never meet', () => {
  let rig = testRig([{ message: { kind: 'controlChange', channel: 1, controller: 30, range: [0, 127] } }, { signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 9 } }]);
  for (let i = 0; i < 12; i++) for (const id of ['m0', 'm1']) rig = after(rig, [duplicateMapping(rig, id)!.change]);
  expect(rig.mappings.slice(0, 3).map(({ id }) => id)).toEqual(['m0', 'm0-13', 'm0-12']);
  expect(rig.mappings.find(({ id }) => id === 'm0-2')).toMatchObject({ name: 'Mapping 0 2', message: { controller: 31 } });
  expect(ledgerOf(rig).clashes).toEqual([]);
  expect(duplicateMapping(rig, 'gone')).toBeNull();
});

it('removing a mapping leaves scenes that the rig takes', () => {
  const rig = testRig([{}, { message: { kind: 'polyPressure', channel: 1, note: { of: 'm0' }, range: [0, 127] } }, {}]);
  rig.scenes = [{ id: 's', name: 'S', mappings: { m0: true, m2: false }, pages: {}, values: {}, messages: [], glideMs: 0 }];
  const without = after(rig, remove(rig, [{ kind: 'mapping', id: 'm0' }]));
  expect([without.mappings.map(({ id }) => id), without.scenes[0]!.mappings]).toEqual([['m2'], { m2: false }]);
});

const AS_WRITTEN = { isOn: () => undefined, alone: [], values: {} };

it('a scene is taken and compared as the rig stands now, which another scene may have switched', () => {
  const rig = testRig([{}, { on: false }]);
  // A scene has switched the first off and the second on, and lets the receiver hear one voice alone.
  const now = { isOn: (id: string) => ({ m0: false, m1: true })[id], alone: ['weather'], values: {} };
  const taken = after(rig, [takeScene(rig, 'As it is', now).change]);
  expect(taken.scenes[0]!.mappings).toEqual({ m0: false, m1: true });
  const scene = { ...taken.scenes[0]!, alone: { weather: false }, banks: { deck: 1 } };
  expect(sceneDifference(taken, scene, now)).toMatchObject({ on: [], off: [], alone: [], together: [rig.receivers[0]!.name], banks: 1 });
  expect(sceneDifference(taken, scene, AS_WRITTEN)).toMatchObject({ on: ['Mapping 1'], off: ['Mapping 0'], together: [] });
});

it('a scene is what is on and where the controls stand; recalled at once it changes nothing', () => {
  const values = { fog: 0.25, bell: 1 };
  const rig = testRig([{ on: false }, {}]);
  const taken = after(rig, [takeScene(rig, 'Fog bank', { ...AS_WRITTEN, values }).change]);
  expect(taken.scenes[0]).toMatchObject({ id: 'fog-bank', name: 'Fog bank', mappings: { m0: false, m1: true }, values: { fog: 0.25 } });
  expect(sceneDifference(taken, taken.scenes[0]!, { ...AS_WRITTEN, values })).toEqual({ on: [], off: [], alone: [], together: [], moved: [], pages: 0, banks: 0, messages: 0, transport: null });
  const moved = after(taken, [{ list: 'mappings', id: 'm0', to: { ...taken.mappings[0]!, on: true } }]);
  expect(sceneDifference(moved, moved.scenes[0]!, { ...AS_WRITTEN, values: { fog: 0.5 } })).toMatchObject({ off: ['Mapping 0'], moved: [{ signal: 'fog', from: 0.5, to: 0.25 }] });
});

describe('checking an edited rig', () => {
  const before = testRig([{}, {}, {}]);
  const edited = (change: object) => ({ ...before, mappings: before.mappings.with(2, { ...before.mappings[2]!, ...change }) });
  it('takes what is good, the very document', () => {
    const after = edited({ name: 'Mist' });
    const checked = checkEdited(before, after);
    expect(checked.ok && checked.value).toBe(after);
  });
  it.each([
    [{ message: { kind: 'controlChange', channel: 17, controller: 1, range: [0, 127] } }, 'mappings[2].message.channel'],
    [{ signal: 'moon' }, 'mappings[2].signal'],
    [{ id: 'm0' }, 'mappings[2].id'],
  ])('%j is refused at its place in the whole document', (change, field) => {
    const checked = checkEdited(before, edited(change) as typeof before);
    expect(checked.ok ? null : checked.problems[0]!.field).toBe(field);
  });
});

it.each([
  ['bell', { off: 0.3 }, 'mappings[0].gate.off: expected at most 0, where this gate goes on unless "on" says otherwise, found 0.3'],
  ['fog', { off: 0.6 }, 'mappings[0].gate.off: expected at most 0.5, where this gate goes on unless "on" says otherwise, found 0.6'],
  ['fog', { off: 0.5 }, null],
])('a gate of %s that is %j', (signal, gate, sentence) => {
  const checked = checkRig(testRig([{ signal, gate }]));
  expect(checked.ok ? null : checked.problems[0]!.message).toBe(sentence);
});

it.each([
  [[0x90, 0x3d], '90 3D'],
  [[0xf0, 0x7e, 1], 'F0 7E 01'],
  [[0x3d, 0x40], '3D 40'],
  [[0x90, 0x3d, 0x80], '90 3D 80'],
  [[0xb0, 1, 2, 0xb0, 1, 3], 'B0 01 02 B0 01 03'],
  [[0xf5], 'F5'],
])('a scene refuses what is not one whole message: %j', (bytes, found) => {
  const rig = testRig([]);
  rig.scenes = [{ id: 's', name: 'S', mappings: {}, pages: {}, values: {}, glideMs: 0, messages: [{ output: 'weather', bytes }] }];
  const checked = checkRig(rig);
  expect(checked.ok ? null : checked.problems[0]).toMatchObject({ field: 'scenes[0].messages[0].bytes', message: `scenes[0].messages[0].bytes must be one whole MIDI message, found ${found}` });
});

it.each<RigEdit>([
  { kind: 'setMapping', mapping: 'm', set: { on: false } },
  { kind: 'setVoiceMapping', voiceMapping: 'v', set: { on: false, group: null } },
  { kind: 'setInput', input: 'deck', set: { name: 'Deck' } },
  { kind: 'setSignal', signal: 'fog', set: { name: 'Fog' } },
  { kind: 'setRig', set: { tempoBpm: 90 } },
  { kind: 'change', changes: [{ list: 'scales', id: 'tide', to: { id: 'tide', name: 'Tide', cents: [1200] } }] },
  { kind: 'change', changes: [{ list: 'scales', id: 'tide', to: null }], set: { startsBy: 'first note' } },
])('every kind of edit may come from a page: $kind', (edit) => expect(check(editSchema, edit)).toEqual({ ok: true, value: edit }));
