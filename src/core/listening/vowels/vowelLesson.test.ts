import { expect, it } from 'vitest';
import { HOP_MS } from '../audio';
import { VowelLesson } from './vowelLesson';

/** Gives a lesson one hop after the other until it is over. @param hzAt by time in ms: what is sung, 0 for nothing */
function given(hzAt: (timeMs: number) => number) {
  const lesson = new VowelLesson('ah');
  for (let hop = 1; ; hop++) {
    const timeMs = hop * HOP_MS;
    const hz = hzAt(timeMs);
    // Above 400 Hz no vowel is known.
    if (lesson.hear({ pitch: { hz }, vowelNow: hz > 0 && hz <= 400 ? Float64Array.of(timeMs) : null })) return { examples: lesson.examples.map(([time]) => time!), tookMs: timeMs };
  }
}

it('lasts until enough of the vowel was heard, whenever that begins and however often it is taken up again', () => {
  const atOnce = given(() => 220);
  expect(atOnce.examples).toHaveLength(60);
  expect(atOnce.tookMs).toBeCloseTo(1300, -2);
  const late = given((timeMs) => (timeMs > 2000 ? 220 : 0));
  expect(late.tookMs - atOnce.tookMs).toBeCloseTo(2000, -1);
  const inPieces = given((timeMs) => (timeMs % 300 < 150 ? 220 : 0));
  expect(inPieces.examples).toHaveLength(60);
  expect(inPieces.tookMs).toBeGreaterThan(2 * atOnce.tookMs);
});

it('takes no moment in whose window there still is what was before', () => {
  const { examples } = given((timeMs) => (timeMs % 300 < 150 ? 220 : 0));
  expect(Math.min(...examples.map((timeMs) => timeMs % 300))).toBeGreaterThan(45 - HOP_MS);
});

it('ends after a while with what there was, of silence and of what is too high', () => {
  for (const hz of [0, 700]) expect(given(() => hz)).toMatchObject({ examples: [], tookMs: expect.closeTo(8000, -1) as number });
  expect(given((timeMs) => (timeMs < 500 ? 220 : 0)).examples.length).toBeGreaterThan(15);
});
