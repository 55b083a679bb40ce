import { expect, it } from 'vitest';
import type { RigEdit } from './edit';
import { collide } from './footprint';

const fog = (set: object): RigEdit => ({ kind: 'setMapping', mapping: 'fog', set });
const gone: RigEdit = { kind: 'change', changes: [{ list: 'mappings', id: 'fog', to: null }] };

it.each<[string, RigEdit, RigEdit, boolean]>([
  ['one field of one mapping', fog({ on: false }), fog({ on: true }), true],
  ['two fields of one mapping', fog({ on: false }), fog({ name: 'Mist' }), false],
  ['the same field of two mappings', fog({ on: false }), { kind: 'setMapping', mapping: 'swell', set: { on: false } }, false],
  ['a field and the whole mapping', fog({ name: 'Mist' }), gone, true],
  ['the whole mapping and a field', gone, fog({ name: 'Mist' }), true],
  ['a mapping and a signal of one id', fog({ name: 'Mist' }), { kind: 'setSignal', signal: 'fog', set: { name: 'Mist' } }, false],
  ['name and tempo of the rig', { kind: 'setRig', set: { name: 'Late' } }, { kind: 'setRig', set: { tempoBpm: 90 } }, false],
  ['the tempo along with a mapping, and the tempo', { kind: 'change', changes: [], set: { tempoBpm: 80 } }, { kind: 'setRig', set: { tempoBpm: 90 } }, true],
  ['the tempo twice', { kind: 'setRig', set: { tempoBpm: 80 } }, { kind: 'setRig', set: { tempoBpm: 90 } }, true],
])('%s', (_, one, other, expected) => expect(collide(one, other)).toBe(expected));
