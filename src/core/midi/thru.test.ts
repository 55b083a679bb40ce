import { describe, expect, it } from 'vitest';
import { decode } from './decode';
import { hexOf } from './describe';
import { Thru } from './thru';
import { MIDI_THRU_KINDS, type MidiThru } from '../inputs/kinds/midi';

const everything: MidiThru = { output: 'weather', channels: [1, 2], kinds: [...MIDI_THRU_KINDS] };
const through = (thru: Thru, settings: MidiThru | undefined, ...bytes: number[]) => {
  const passed = thru.pass(decode(Uint8Array.from(bytes))!, settings);
  return passed.length === 0 ? null : passed.map(({ output, bytes: of }) => `${output} ${hexOf(of)}`).join(', ');
};

describe('a thru', () => {
  it('passes what its channels and kinds let through', () => {
    const thru = new Thru();
    expect(through(thru, everything, 0x90, 60, 100)).toBe('weather 90 3C 64');
    expect(through(thru, everything, 0x92, 60, 100)).toBeNull();
    expect(through(thru, { ...everything, kinds: ['notes'] }, 0xb0, 7, 1)).toBeNull();
    expect(through(thru, everything, 0xf8)).toBe('weather F8');
    expect(through(thru, undefined, 0x90, 61, 100)).toBeNull();
  });
  it('transposes notes and their pressure and puts all on its own channel; a note beyond the keys is left out with its end', () => {
    const thru = new Thru();
    const moved = { ...everything, transpose: 12, channel: 9 };
    expect(through(thru, moved, 0x90, 60, 100)).toBe('weather 98 48 64');
    expect(through(thru, moved, 0xa0, 60, 20)).toBe('weather A8 48 14');
    expect(through(thru, moved, 0xb1, 60, 20)).toBe('weather B8 3C 14');
    expect(through(thru, moved, 0x80, 60, 30)).toBe('weather 88 48 1E');
    expect(through(thru, moved, 0x90, 120, 100)).toBeNull();
    expect(through(thru, moved, 0x80, 120, 0)).toBeNull();
  });
  it('splits the keyboard: notes to one side, pedals and bends to both, and ends a note where it began', () => {
    const thru = new Thru();
    const split: MidiThru = { ...everything, split: { below: 60, output: 'bass', channel: 4, transpose: -12 } };
    expect(through(thru, split, 0x90, 60, 100)).toBe('weather 90 3C 64');
    expect(through(thru, split, 0x90, 59, 100)).toBe('bass 93 2F 64');
    expect(through(thru, split, 0xb0, 64, 127)).toBe('weather B0 40 7F, bass B3 40 7F');
    expect(through(thru, { ...split, split: { ...split.split!, below: 20 } }, 0x80, 59, 10)).toBe('bass 83 2F 0A');
    expect(thru.leadsElsewhere(split)).toBe(false);
    expect(thru.leadsElsewhere(everything)).toBe(true);
    expect(thru.letGo().map(({ output }) => output)).toEqual(['weather', 'bass']);
    expect(through(thru, { ...split, split: { below: 60, output: 'weather' } }, 0xe0, 0, 96)).toBe('weather E0 00 60');
  });
  it('ends a note as what it began as, whatever the thru says by now', () => {
    const thru = new Thru();
    through(thru, { ...everything, transpose: 5, channel: 3 }, 0x90, 60, 100);
    expect(thru.leadsElsewhere({ ...everything, output: 'bell' })).toBe(true);
    expect(through(thru, { ...everything, output: 'bell', transpose: -7 }, 0x90, 60, 0)).toBe('weather 92 41 00');
    expect(through(thru, everything, 0x80, 60, 0)).toBeNull();
  });
  it.each([120, 123, 126])('%i ends what it began of that channel, also where controllers do not pass', (controller) => {
    const thru = new Thru();
    const notesAlone: MidiThru = { ...everything, kinds: ['notes'], channel: 5, transpose: 1 };
    for (const on of [[0x90, 60, 9], [0x90, 64, 9], [0x91, 65, 9]]) through(thru, notesAlone, ...on);
    expect(through(thru, notesAlone, 0xb0, controller, 0)).toBe('weather 84 3D 40, weather 84 41 40');
    expect(through(thru, notesAlone, 0x80, 60, 0)).toBeNull();
    expect(through(thru, everything, 0xb0, controller, 0)).toBe(`weather B0 ${controller.toString(16).toUpperCase()} 00`);
    expect(through(thru, everything, 0xff)).toBe('weather 84 42 40');
  });
  it('a key that is struck twice ends what it began first, whatever it begins now', () => {
    const thru = new Thru();
    through(thru, everything, 0x90, 60, 9);
    expect(through(thru, { ...everything, transpose: 7 }, 0x90, 60, 9)).toBe('weather 80 3C 40, weather 90 43 09');
    expect(through(thru, everything, 0x80, 60, 0)).toBe('weather 80 43 00');
  });
  it('a reset of all controllers puts back what its channel held, also where controllers do not pass', () => {
    const thru = new Thru();
    for (const bytes of [[0xe0, 0, 96], [0xe1, 0, 96]]) through(thru, { ...everything, kinds: ['bend'] }, ...bytes);
    expect(through(thru, { ...everything, kinds: ['bend'] }, 0xb0, 121, 0)).toBe('weather E0 00 40');
    expect(through(thru, everything, 0xb0, 121, 0)).toBe('weather B0 79 00');
  });
  it('puts back pedals, bends and pressure that were left held, and nothing that came back by itself', () => {
    const thru = new Thru();
    for (const bytes of [[0xb0, 64, 127], [0xb1, 64, 127], [0xb1, 64, 0], [0xe0, 0, 96], [0xe1, 0, 96], [0xe1, 0, 64], [0xd0, 80], [0xb0, 7, 90]]) through(thru, { ...everything, channel: 4 }, ...bytes);
    // Both channels of the input become channel 4: the last of each counts.
    expect(thru.letGo().map(({ bytes }) => hexOf(bytes))).toEqual(['D3 00']);
    for (const bytes of [[0xb0, 64, 127], [0xb0, 66, 1], [0xe1, 0, 96]]) through(thru, everything, ...bytes);
    expect(thru.letGo().map(({ bytes }) => hexOf(bytes))).toEqual(['B0 40 00', 'B0 42 00', 'E1 00 40']);
    expect(thru.letGo()).toEqual([]);
  });
});
