import { describe, expect, it } from 'vitest';
import { seededNoise } from '../standIn/noise';
import { chance } from '../signal/oscillator';
import { ClockFollower } from './clockFollower';

/** Clocks of a tempo with noise on each; gives the tempo after each. */
function follow(bpm: number, beats: number, noise: (i: number) => number, follower = new ClockFollower(), fromMs = 1000): number[] {
  return Array.from({ length: 24 * beats + 1 }, (_, i) => follower.clock(fromMs + (i * 60_000) / bpm / 24 + noise(i)));
}

describe('the tempo of a clock', () => {
  it('is exact without jitter, from half a beat on', () => {
    const tempi = follow(120, 2, () => 0);
    expect(tempi.slice(0, 12).every(Number.isNaN)).toBe(true);
    for (const bpm of tempi.slice(12)) expect(bpm).toBeCloseTo(120, 9);
  });
  it('is within 0.1 bpm after 2 beats at +-2 ms of jitter, 19 times in 20 (seeds 1-200)', () => {
    const errors = Array.from({ length: 200 }, (_, seed) => Math.abs(follow(120, 2, (i) => 4 * chance(seed + 1, i) - 2).at(-1)! - 120)).sort((a, b) => a - b);
    expect(errors[189]).toBeLessThan(0.1);
    expect(errors[199]).toBeLessThan(0.25);
  });
  it('is not drawn by a single clock that came late', () => {
    const tempi = follow(120, 4, (i) => (i === 60 ? 12 : 0));
    expect(tempi.every((bpm) => Number.isNaN(bpm) || Math.abs(bpm - 120) < 0.6)).toBe(true);
  });
  it('has tails: normal noise of 1 ms stays within 0.4 bpm', () => {
    const noise = seededNoise(3);
    for (const bpm of follow(120, 20, () => noise()).slice(48)) expect(Math.abs(bpm - 120)).toBeLessThan(0.4);
  });
  it('that jumps is another half a beat later', () => {
    const follower = new ClockFollower();
    follow(120, 2, () => 0, follower);
    const after = follow(90, 1, () => 0, follower, 2000 + 60_000 / 90 / 24);
    expect(after.filter((bpm) => !Number.isNaN(bpm) && Math.abs(bpm - 90) > 0.01).length).toBeLessThanOrEqual(1);
    expect(after.at(-1)).toBeCloseTo(90, 6);
  });
  it('begins anew after a pause', () => {
    const follower = new ClockFollower();
    follow(120, 2, () => 0, follower);
    expect(follower.clock(9000)).toBeNaN();
    expect(follower.clock(9000 + 60_000 / 60 / 24)).toBeNaN();
  });
});
