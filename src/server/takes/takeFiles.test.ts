import { expect, it } from 'vitest';
import { testRig } from '../../core/engine/testRig';
import { writeMidiFile } from '../../protocol/midiFile';
import { wholeTake } from './giveFiles';
import { readTakeFile, readWholeTake } from './takeFiles';

const fileOf = (...messages: [timeMs: number, ...bytes: number[]][]) => writeMidiFile(messages.map(([timeMs, ...bytes]) => ({ timeMs, track: 'Hull', bytes: Uint8Array.from(bytes) })), 120);
const taken = async (...messages: Parameters<typeof fileOf>) => {
  const { remarks, versions } = await readTakeFile('Hull.mid', fileOf(...messages), { id: 'rig', document: testRig([]) }, 0);
  return { remarks, messages: versions[0]!.version.messages };
};

it('notes of a MIDI file that only all notes off ends have ends, and those that nothing ends are said', async () => {
  expect(await taken([0, 0x90, 60, 90], [0, 0x90, 64, 90], [500, 0x80, 64, 64], [1000, 0xb0, 123, 0], [2000, 0xb0, 7, 1])).toEqual({ remarks: [], messages: 6 });
  expect((await taken([0, 0x90, 60, 90], [1000, 0xb1, 123, 0])).remarks).toEqual(['1 note of Hull had no end and end with the take, or where they are struck again.']);
});

it('a whole take that says something else than what was left out, and how often, is refused', async () => {
  const { start, versions } = await readTakeFile('Hull.mid', fileOf([0, 0x90, 60, 90], [500, 0x80, 60, 64]), { id: 'rig', document: testRig([]) }, 0);
  const fileWith = (leftOut: unknown) => {
    const [{ version, score, rig }] = versions as [(typeof versions)[number]];
    const summary = { id: 'one', name: 'Hull', rigId: 'rig', rigName: 'Test rig', startedAtMs: 0, lengthMs: 500, events: 0, bytes: 0, marks: [], sketch: null, state: 'whole' as const };
    return new TextDecoder().decode(wholeTake(summary, start, [], [{ version: { ...version, leftOut: leftOut as [string, number][] }, score, rig }]));
  };
  expect(readWholeTake(fileWith([['signal hull.gone', 3]])).versions[0]!.version.leftOut).toEqual([['signal hull.gone', 3]]);
  for (const wrong of [[null], ['abc'], [['a']], [['a', 'b']], [[3, 'a']], [{ 0: 'a', 1: 2 }]]) expect(() => readWholeTake(fileWith(wrong))).toThrow('This take cannot be taken in: ');
});
