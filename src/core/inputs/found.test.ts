import { expect, it } from 'vitest';
import { applyEdit } from '../rig/edit';
import { newRig } from '../rig/starters';
import { microphoneSources } from '../listening/microphoneSources';
import type { Found } from './feed';
import { takeUp } from './found';

const keyboard = (report: string): Found => ({ feed: { kind: 'midi', report, slot: 1, name: report }, sources: [] });

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

it('addresses that an input takes from any sender are its own, whoever sends them; what else that sender says joins them', () => {
  const source = (address: string) => ({ key: `${address} 0`, name: address, kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number], osc: { address, argument: 0 } });
  const sent = (...addresses: string[]): Found => ({ feed: { kind: 'osc', report: 'here /rope', slot: 1, name: 'Rope' }, sources: addresses.map(source) });
  const empty = newRig('Watch', 'empty');
  const rig = { ...empty, inputs: [{ id: 'rope', name: 'Rope', kind: 'osc' as const }], signals: [{ id: 'rope.pull', name: 'Pull', input: 'rope', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number], osc: { address: '/rope/pull', argument: 0 } }] };
  expect(takeUp(rig, [sent('/rope/pull')])).toEqual([]);
  expect(takeUp(rig, [sent('/rope/pull', '/rope/twist')]).map(({ list, to }) => [list, (to as { input?: string }).input])).toEqual([['signals', 'rope']]);
  expect(takeUp(rig, [sent('/chain/pull')]).map(({ list }) => list)).toEqual(['inputs', 'signals']);
});

it('a microphone is taken up with its streams and all that it says, once', () => {
  const rig = newRig('Watch', 'empty');
  const heard: Found = { feed: { kind: 'microphone', report: 'deck', slot: 1, name: 'Foghorn' }, sources: microphoneSources(['a'], ['k']) };
  const edited = applyEdit(rig, { kind: 'change', changes: takeUp(rig, [heard]) });
  if (!edited.ok) throw new Error(edited.message);
  const { document } = edited;
  expect(document.streams).toEqual([
    { id: 'foghorn.sung', name: 'Foghorn, sung', input: 'foghorn', source: 'sung' },
    { id: 'foghorn.mouth-sounds', name: 'Foghorn, mouth sounds', input: 'foghorn', source: 'mouth' },
  ]);
  expect(document.signals.map(({ source, kind }) => [source, kind])).toEqual([['level', 'continuous'], ['open', 'continuous'], ['front', 'continuous'], ['vowel a', 'continuous'], ['sound k', 'gate']]);
  expect(takeUp(document, [heard])).toEqual([]);
});
