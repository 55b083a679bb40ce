import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { applyEdit } from '../rig/edit';
import { checkReferences } from '../rig/references';
import { remove } from '../rig/remove';
import { addOutput, goingWithOutput, leadTo, unusedPorts, type Leads } from './addOutput';
import { sameWay } from './kinds';

const rig = testRig([{}]);
const at = (report: string, slot = 1) => ({ report, slot });
const made = (leads: Leads, name: string, of = rig) => {
  const { id, changes } = addOutput(of, leads, name);
  const edited = applyEdit(of, { kind: 'change', changes });
  if (!edited.ok) throw new Error(edited.message);
  return { id, rig: edited.document };
};

it('adds an output with a receiver of its own, named apart from others, and nothing dangles', () => {
  const first = made({ kind: 'port', device: at('Horn') }, 'Horn');
  const second = made({ kind: 'port', device: at('Horn', 2) }, 'Horn', first.rig);
  expect(second.rig.outputs.slice(-2)).toEqual([
    { id: 'horn', name: 'Horn', receiver: 'horn', kind: 'port', device: at('Horn') },
    { id: 'horn-2', name: 'Horn 2', receiver: 'horn-2', kind: 'port', device: at('Horn', 2) },
  ]);
  expect(checkReferences(second.rig)).toEqual([]);
});

it('takes any name, also none and one that is far too long', () => {
  expect(made({ kind: 'standIn' }, '  ').rig.outputs.at(-1)!.name).toBe('Output');
  expect(made({ kind: 'standIn' }, 'x'.repeat(300)).rig.outputs.at(-1)!.name.length).toBeLessThanOrEqual(80);
});

it('keeps what an output is when it leads elsewhere, but for what OSC cannot do', () => {
  const { rig: with_ } = made({ kind: 'standIn' }, 'Horn');
  const horn = { ...with_.outputs.at(-1)!, sendsClock: true, delayMs: 20, muted: true };
  const port = leadTo(horn, { kind: 'port', device: at('Horn') });
  expect(port).toEqual({ id: 'horn', name: 'Horn', receiver: 'horn', sendsClock: true, delayMs: 20, muted: true, kind: 'port', device: at('Horn') });
  expect(leadTo(port, { kind: 'osc', host: '127.0.0.1', port: 9000 })).toEqual({ id: 'horn', name: 'Horn', receiver: 'horn', delayMs: 20, muted: true, kind: 'osc', host: '127.0.0.1', port: 9000 });
});

it('offers the ports that no output leads to yet', () => {
  const { rig: with_ } = made({ kind: 'port', device: at('Horn') }, 'Horn');
  expect(unusedPorts(with_, 'port', [at('Horn'), at('Horn', 2), at('Bell')])).toEqual([at('Horn', 2), at('Bell')]);
  expect(unusedPorts(with_, 'page', [at('Horn')])).toEqual([at('Horn')]);
});

it('goes with its receiver where nothing else plays it, and with its mappings', () => {
  const { rig: with_, id } = made({ kind: 'standIn' }, 'Horn');
  const shared = { ...with_, outputs: [...with_.outputs, { ...with_.outputs.at(-1)!, id: 'other', name: 'Other' }] };
  expect(remove(with_, goingWithOutput(with_, id)).map(({ list, to }) => [list, to])).toEqual([['outputs', null], ['receivers', null]]);
  expect(remove(shared, goingWithOutput(shared, id)).map(({ list }) => list)).toEqual(['outputs']);
  const [first] = rig.outputs;
  expect(remove(rig, goingWithOutput(rig, first!.id)).filter(({ list }) => list === 'mappings')).toHaveLength(1);
});

it('an output leads the same way as long as place, speed and delay are the same, whatever else changes', () => {
  const { rig: with_ } = made({ kind: 'port', device: at('Horn') }, 'Horn');
  const horn = with_.outputs.at(-1)!;
  expect(sameWay(horn, { ...horn, name: 'Bell', receiver: 'x', muted: true, filter: { channels: [1] } })).toBe(true);
  for (const other of [{ delayMs: 5 }, { bytesPerS: 3125 }, { device: at('Horn', 2) }, { kind: 'page' }]) expect(sameWay(horn, { ...horn, ...other } as typeof horn)).toBe(false);
});
