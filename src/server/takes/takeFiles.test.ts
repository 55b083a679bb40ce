import { expect, it } from 'vitest';
import { testRig } from '../../core/engine/testRig';
import { writeMidiFile } from '../../protocol/midiFile';
import { readTakeFile } from './takeFiles';

const fileOf = (...messages: [timeMs: number, ...bytes: number[]][]) => writeMidiFile(messages.map(([timeMs, ...bytes]) => ({ timeMs, track: 'Hull', bytes: Uint8Array.from(bytes) })), 120);
const taken = async (...messages: Parameters<typeof fileOf>) => {
  const { remarks, versions } = await readTakeFile('Hull.mid', fileOf(...messages), { id: 'rig', document: testRig([]) }, 0);
  return { remarks, messages: versions[0]!.version.messages };
};

it('notes of a MIDI file that only all notes off ends have ends, and those that nothing ends are said', async () => {
  expect(await taken([0, 0x90, 60, 90], [0, 0x90, 64, 90], [500, 0x80, 64, 64], [1000, 0xb0, 123, 0], [2000, 0xb0, 7, 1])).toEqual({ remarks: [], messages: 6 });
  expect((await taken([0, 0x90, 60, 90], [1000, 0xb1, 123, 0])).remarks).toEqual(['1 note of Hull had no end and end with the take, or where they are struck again.']);
});
