import { expect, it } from 'vitest';
import { applyEdit } from '../rig/edit';
import { newRig } from '../rig/starters';
import type { Found } from './device';
import { takeUp } from './found';

const keyboard = (report: string): Found => ({ device: { kind: 'midi', report, slot: 1, name: report }, sources: [] });

it('the keyboard that a split rig waits for is the first that is plugged in; the next is one more', () => {
  const rig = newRig('Watch', 'split');
  const plug = (into: typeof rig, report: string) => {
    const edited = applyEdit(into, { kind: 'change', changes: takeUp(into, [keyboard(report)]) });
    if (!edited.ok) throw new Error(edited.message);
    return edited.document;
  };
  const first = plug(rig, 'Keys of the mate');
  expect(first.inputs).toEqual([{ ...rig.inputs[0], device: { report: 'Keys of the mate', slot: 1 } }]);
  expect(plug(first, 'Pads of the cook').inputs.map(({ name }) => name)).toEqual(['Keyboard', 'Pads of the cook']);
  expect(takeUp(first, [keyboard('Keys of the mate')])).toEqual([]);
});
