import { expect, it } from 'vitest';
import { LIMITS } from '../protocol/limits';
import { BeforeFrame } from './beforeFrame';

/** Ten fingers move for a second, as often as their glass says, on a screen of 120 frames a second: how many moves are heard, and where each ended. */
function play(glassHz: number): { heard: number; ends: number[] } {
  const before = new BeforeFrame();
  const ends = Array.from({ length: 10 }, () => NaN);
  let heard = 0;
  const hear = (pointerId: number, place: number) => {
    heard++;
    ends[pointerId] = place;
  };
  let frame = 1;
  for (let i = 0; i <= glassHz; i++) {
    for (let pointerId = 0; pointerId < 10; pointerId++) if (before.hears({ pointerId, timeStamp: (1000 * i) / glassHz })) hear(pointerId, i);
    if ((i + 1) / glassHz < frame / 120 && i < glassHz) continue;
    frame++;
    for (let pointerId = 0; pointerId < 10; pointerId++) if (!before.wasHeard({ pointerId })) hear(pointerId, i);
  }
  return { heard, ends };
}

it.each([60, 120, 240, 480, 1000])('ten fingers on a glass of %i Hz say no more than a joined device may, and end where they are', (glassHz) => {
  const { heard, ends } = play(glassHz);
  expect(heard).toBeLessThan(LIMITS.framesPerSecond.device);
  expect(heard).toBeGreaterThanOrEqual(10 * Math.min(glassHz, 120));
  expect(ends).toEqual(Array.from({ length: 10 }, () => glassHz));
});

it('a pointer that comes after many others is heard', () => {
  const before = new BeforeFrame();
  for (let pointerId = 0; pointerId < 1000; pointerId++) expect([before.hears({ pointerId, timeStamp: pointerId }), before.wasHeard({ pointerId })]).toEqual([true, true]);
});
