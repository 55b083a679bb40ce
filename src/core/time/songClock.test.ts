import { describe, expect, it } from 'vitest';
import { chance } from '../signal/oscillator';
import { SongClock } from './songClock';

/** Clocks of a tempo from `fromMs` on with noise on each; gives what it said of each. */
function follow(song: SongClock, bpm: number, beats: number, fromMs: number, noise: (i: number) => number = () => 0) {
  return Array.from({ length: Math.round(24 * beats) }, (_, i) => {
    const timeMs = fromMs + (i * 60_000) / bpm / 24 + noise(i);
    return { timeMs, ...song.clock(timeMs) };
  });
}

describe('where a clock stands', () => {
  it('is counted from its start: the first clock after it is beat 0 (MIDI 1.0)', () => {
    const song = new SongClock();
    expect(follow(song, 120, 1, 0).every(({ beat }) => Number.isNaN(beat))).toBe(true);
    song.start();
    const said = follow(song, 120, 2, 500);
    expect(said[0]!.beat).toBeCloseTo(0, 9);
    expect(said[24]!.beat).toBeCloseTo(1, 9);
  });
  it('is six clocks a sixteenth after a song position, and stays where it was after a stop', () => {
    const song = new SongClock();
    song.position(17);
    song.goOn();
    expect(song.clock(0).beat).toBeCloseTo(17 / 4, 9);
    song.stop();
    expect(song.clock(20).beat).toBeNaN();
    song.goOn();
    expect(song.clock(40).beat).toBeCloseTo(17 / 4 + 1 / 24, 9);
  });
  it('is within 3 ms at +-2 ms of jitter once two beats were heard, and the tempo within 0.1 bpm 19 times in 20 (seeds 1-200)', () => {
    const errors = Array.from({ length: 200 }, (_, seed) => {
      const song = new SongClock();
      song.start();
      return follow(song, 120, 4, 1000, (i) => 4 * chance(seed + 1, i) - 2).slice(49).map(({ timeMs, beat }) => Math.abs((beat - (timeMs - 1000) / 500) * 500));
    });
    expect(Math.max(...errors.flat())).toBeLessThan(3);
  });
  it('follows a step of 20 bpm within two beats', () => {
    for (const to of [100, 140]) {
      const song = new SongClock();
      song.start();
      follow(song, 120, 4, 0);
      const after = follow(song, to, 3, 4 * 500);
      const settled = after.findIndex((_, i) => after.slice(i).every(({ bpm }) => Math.abs(bpm - to) < 0.1));
      expect(settled).toBeLessThanOrEqual(48);
      expect(after.at(-1)!.beat).toBeCloseTo(4 + 71 / 24, 6);
    }
  });
  it('is held through a dropout of eight clocks, in its tempo and its place', () => {
    const song = new SongClock();
    song.start();
    const before = follow(song, 120, 4, 0);
    const after = follow(song, 120, 4, 4 * 500 + (8 * 500) / 24);
    expect(before.at(-1)!.bpm).toBeCloseTo(120, 6);
    expect(after.slice(30).every(({ bpm }) => Math.abs(bpm - 120) < 0.1)).toBe(true);
    expect(after[0]!.beat).toBeCloseTo(4 + 8 / 24, 1);
    expect(after.at(-1)!.beat).toBeCloseTo(4 + 8 / 24 + 95 / 24, 6);
  });
  it('counts clocks that come late all at once no more than once', () => {
    const song = new SongClock();
    song.start();
    follow(song, 120, 4, 0);
    // The next nine come together when the ninth is due.
    const lateMs = 4 * 500 + (8 * 500) / 24;
    for (let i = 0; i < 9; i++) song.clock(lateMs + i * 0.2);
    const after = follow(song, 120, 4, 4 * 500 + (9 * 500) / 24);
    expect(after.at(-1)!.beat).toBeCloseTo(4 + 9 / 24 + 95 / 24, 6);
  });
  it('jitter of half a clock at 300 bpm loses and invents none (seeds 1-50)', () => {
    for (let seed = 1; seed <= 50; seed++) {
      const song = new SongClock();
      song.start();
      const said = follow(song, 300, 16, 0, (i) => 8 * chance(seed, i) - 4);
      expect(Math.abs(said.at(-1)!.beat - (16 - 1 / 24))).toBeLessThan(0.06);
    }
  });
});
