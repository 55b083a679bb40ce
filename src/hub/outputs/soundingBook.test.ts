import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it, vi } from 'vitest';
import { memoryStore, SoundingBook } from './soundingBook';
import { openSoundingFile } from './soundingFile';

const on = (note: number, channel = 0) => Uint8Array.of(0x90 | channel, note, 100);
const off = (note: number, channel = 0) => Uint8Array.of(0x80 | channel, note, 64);

it('lets a note off pass only where its note sounds, once, on its own output and channel', () => {
  const book = new SoundingBook(memoryStore());
  expect(book.admits('weather', off(60))).toBe(false);
  expect(book.admits('weather', on(60))).toBe(true);
  expect([book.admits('bell', off(60)), book.admits('weather', off(60, 1)), book.admits('weather', off(61))]).toEqual([false, false, false]);
  expect(book.on('weather')).toEqual([{ channel: 0, note: 60 }]);
  expect([book.admits('weather', off(60)), book.admits('weather', off(60))]).toEqual([true, false]);
  expect(book.on('weather')).toEqual([]);
});

it('takes a note on with velocity 0 for the note off that it is (MIDI 1.0), and lets everything else pass', () => {
  const book = new SoundingBook(memoryStore());
  expect(book.admits('weather', Uint8Array.of(0x90, 60, 0))).toBe(false);
  book.admits('weather', on(60));
  expect(book.admits('weather', Uint8Array.of(0x90, 60, 0))).toBe(true);
  for (const bytes of [[0xb0, 64, 0], [0xf8], [0xe0, 0, 64], [0xf0, 1, 0xf7]]) expect(book.admits('weather', Uint8Array.from(bytes))).toBe(true);
});

it('has the pedals that hold notes, until they are up, and is found so again; a file from before them has none', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'pumice-sounding-'));
  const book = new SoundingBook(openSoundingFile(folder).store);
  const say = (...bytes: number[]) => book.admits('weather', Uint8Array.from(bytes));
  expect([say(0xb0, 64, 127), say(0xbf, 69, 1), say(0xb2, 66, 64), say(0xb2, 66, 0), say(0xb0, 67, 127), say(0xb0, 7, 127), say(0x90, 0, 1)]).toEqual(new Array(7).fill(true));
  const found = () => new SoundingBook(openSoundingFile(folder).store);
  await vi.waitFor(() => expect(found().pedalsOn('weather')).toEqual([{ channel: 0, controller: 64 }, { channel: 15, controller: 69 }]));
  expect(found().on('weather')).toEqual([{ channel: 0, note: 0 }]);
  expect([book.pedalsOn('bell'), book.on('bell')]).toEqual([[], []]);
  const whole = readFileSync(join(folder, 'sounding'));
  writeFileSync(join(folder, 'sounding'), whole.subarray(0, whole.length - 64 * 6));
  expect([found().pedalsOn('weather'), found().on('weather')]).toEqual([[], [{ channel: 0, note: 0 }]]);
});

it('is found again in its file by whoever opens it next: what sounds at once, what ended soon', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'pumice-sounding-'));
  const first = openSoundingFile(folder);
  expect(first.problem).toBeNull();
  const book = new SoundingBook(first.store);
  for (const note of [0, 60, 127]) book.admits('weather', on(note, 15));
  book.admits('bell-and-rigging', on(43, 9));
  book.admits('weather', off(60, 15));
  // Not closed: the process died.
  const size = readFileSync(join(folder, 'sounding')).length;
  const reopened = () => new SoundingBook(openSoundingFile(folder).store);
  expect(reopened().on('weather').map(({ note }) => note)).toEqual(expect.arrayContaining([0, 127]));
  await vi.waitFor(() => expect(reopened().on('weather')).toEqual([{ channel: 15, note: 0 }, { channel: 15, note: 127 }]));
  const next = reopened();
  expect(next.on('bell-and-rigging')).toEqual([{ channel: 9, note: 43 }]);
  for (let note = 0; note < 128; note++) next.admits('weather', on(note));
  expect(readFileSync(join(folder, 'sounding')).length).toBe(size);
});

it('has every note written down from before it leaves until it has ended, and all its ends once it is closed', () => {
  const folder = mkdtempSync(join(tmpdir(), 'pumice-sounding-'));
  const { store, close } = openSoundingFile(folder);
  const book = new SoundingBook(store);
  const sounding = new Set<number>();
  // Keys that share bytes, begun, repeated and ended in any order.
  for (let step = 0, key = 0; step < 400; step++) {
    key = (key * 13 + 7) % 24;
    const begins = step % 3 !== 0;
    book.admits('weather', begins ? on(key) : off(key));
    if (begins) sounding.add(key);
    else sounding.delete(key);
    const found = new SoundingBook(openSoundingFile(folder).store).on('weather').map(({ note }) => note);
    expect(found).toEqual(expect.arrayContaining([...sounding]));
  }
  close();
  expect(new SoundingBook(openSoundingFile(folder).store).on('weather').map(({ note }) => note)).toEqual([...sounding].sort((a, b) => a - b));
});

it('gives the place of a silent output away once there are too many', () => {
  const folder = mkdtempSync(join(tmpdir(), 'pumice-sounding-'));
  const book = new SoundingBook(openSoundingFile(folder).store);
  for (let i = 0; i < 200; i++) {
    book.admits(`output-${i}`, on(60));
    if (i !== 3) book.admits(`output-${i}`, off(60));
  }
  expect(book.on('output-3')).toHaveLength(1);
  expect(book.on('output-199')).toEqual([]);
});

it('takes a broken file for an empty one, and says where none can be written', () => {
  const folder = mkdtempSync(join(tmpdir(), 'pumice-sounding-'));
  writeFileSync(join(folder, 'sounding'), 'x');
  expect(new SoundingBook(openSoundingFile(folder).store).on('weather')).toEqual([]);
  const nowhere = openSoundingFile(join(folder, 'not', 'there'));
  expect(nowhere.problem).toMatch(/^What sounds cannot be written down/);
  expect(new SoundingBook(nowhere.store).admits('weather', on(60))).toBe(true);
});

it('lets every note off of an output pass that there was no room for', () => {
  const book = new SoundingBook(memoryStore(1));
  book.admits('weather', on(60));
  expect(book.admits('bell', off(61))).toBe(false);
  expect([book.admits('bell', on(61)), book.admits('bell', off(61))]).toEqual([true, true]);
});
