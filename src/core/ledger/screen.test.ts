import { expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { voiceRig } from '../engine/voices/testVoices';
import { applyEdit } from '../rig/edit';
import { ledgerCells } from './cells';
import { moveChannel } from './moveChannel';
import { ledgerRows } from './rows';
import type { MessageSpec } from '../messages';

const cc = (controller: number, channel = 1): MessageSpec => ({ kind: 'controlChange', channel, controller, range: [0, 127] });
const rig = testRig([
  { message: cc(20) },
  { message: cc(20), name: 'Twin' },
  { message: cc(7) },
  { message: { kind: 'note', channel: 10, note: 36, velocity: 100, chord: [0, 12] }, signal: 'bell' },
  { message: { kind: 'pitchBend', channel: 2, range: [0, 16383] } },
]);

it('shows each channel at a glance', () => {
  const [one, two] = ledgerCells(rig, 'weather');
  expect([one!.controllers[20], one!.controllers[7], one!.controllers[21], one!.controllers[50], one!.controllers[121]]).toEqual(['clash', 'warned', 'best', 'free', 'refused']);
  expect([two!.bend, two!.pressure]).toEqual(['used', null]);
  expect(ledgerCells(rig, 'weather')[9]!.notes).toBe(2);
  expect(ledgerCells(rig, 'elsewhere').every(({ controllers }) => controllers[20] === 'best')).toBe(true);
});

it('lists every mapping with what is to be said of it', () => {
  expect(ledgerRows(rig).map(({ channel, address, state, remark }) => [channel, address, state, remark])).toEqual([
    [1, 'channel 1 · CC 7', 'warned', 'receivers often hard-wire it'],
    [1, 'channel 1 · CC 20', 'clash', 'meets Twin'],
    [1, 'channel 1 · CC 20', 'clash', 'meets Mapping 0'],
    [2, 'channel 2 · bend', 'used', ''],
    [10, 'channel 10 · note C2', 'used', ''],
  ]);
});

it('moves a whole channel, and back again', () => {
  const applied = applyEdit(rig, { kind: 'change', changes: moveChannel(rig, { output: 'weather', from: 1, to: 15 }) });
  if (!applied.ok) throw new Error(applied.message);
  expect(applied.document.mappings.map(({ message }) => 'channel' in message && message.channel)).toEqual([15, 15, 15, 10, 2]);
  const back = applyEdit(applied.document, applied.inverse);
  expect(back.ok && back.document).toEqual(rig);
});

it('moves voices that all go to the channel, and no zone or run across it', () => {
  const rig = voiceRig(
    { layout: { kind: 'poly', channel: 1, voices: 4, steal: 'oldest' } },
    { layout: { kind: 'mono', channel: 2, priority: 'last', legato: false, glideMs: 0 } },
    { layout: { kind: 'run', first: 1, last: 4, steal: 'oldest' } },
    { layout: { kind: 'zone', zone: 'lower', members: 4, steal: 'oldest' } },
  );
  const changes = moveChannel(rig, { output: 'weather', from: 1, to: 15 });
  expect(changes).toEqual([{ list: 'voiceMappings', id: 'v0', to: { ...rig.voiceMappings[0], layout: { kind: 'poly', channel: 15, voices: 4, steal: 'oldest' } } }]);
  expect(moveChannel(rig, { output: 'weather', from: 2, to: 15 }).map(({ id }) => id)).toEqual(['v1']);
});
