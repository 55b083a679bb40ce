import { describe, expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { applyEdit, type RigEdit } from './edit';
import { checkReferences } from './references';

describe('applyEdit', () => {
  const rig = testRig([{}, { name: 'Swell' }]);

  it.each<RigEdit>([
    { kind: 'setMapping', mapping: 'm1', set: { on: false, name: 'Height' } },
    { kind: 'setMapping', mapping: 'm0', set: { shaping: { smoothing: { kind: 'onePole', timeConstantMs: 5 } } } },
    { kind: 'setRig', set: { tempoBpm: 90 } },
    { kind: 'change', changes: [{ list: 'mappings', id: 'm0', to: null }], set: { startsBy: 'first note', tempoBpm: 80 } },
  ])('is taken back by its inverse: $kind', (edit) => {
    const done = applyEdit(rig, edit);
    if (!done.ok) throw new Error(done.message);
    expect(done.document).not.toEqual(rig);
    const undone = applyEdit(done.document, done.inverse);
    expect(undone.ok && undone.document).toEqual(rig);
  });
  it('names a mapping that does not exist', () => {
    expect(applyEdit(rig, { kind: 'setMapping', mapping: 'nope', set: { on: true } })).toEqual({
      ok: false,
      field: 'edit.mapping',
      message: 'There is no mapping "nope" in this rig.',
    });
  });
});

describe('checkReferences', () => {
  it('finds nothing in a sound rig', () => expect(checkReferences(testRig([{}]))).toEqual([]));
  it('names every dangling reference and every id used twice, each with its path', () => {
    const rig = testRig([{ signal: 'gone', output: 'nowhere' }, { id: 'm0' }]);
    expect(checkReferences(rig).map(({ path }) => path)).toEqual(['mappings[1].id', 'mappings[0].signal', 'mappings[0].output']);
  });
});
