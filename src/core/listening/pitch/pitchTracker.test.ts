import { PitchDetector } from 'pitchy';
import { describe, expect, it } from 'vitest';
import { seededNoise } from '../../standIn/noise';
import { HOP, HOP_MS, SAMPLE_RATE_HZ } from '../audio';
import { centsApart, hops, sing } from '../testSinging';
import { PitchTracker } from './pitchTracker';

/** By hop, once the window is full: what was found. */
function track(samples: Float32Array, skipMs = 60): { hz: number; clarity: number; timeMs: number }[] {
  const tracker = new PitchTracker();
  const found: { hz: number; clarity: number; timeMs: number }[] = [];
  let timeMs = 0;
  hops(samples, (block) => {
    tracker.push(block);
    timeMs += HOP_MS;
    if (timeMs > skipMs) found.push({ hz: tracker.hz, clarity: tracker.clarity, timeMs });
  });
  return found;
}
const middle = (numbers: number[]) => numbers.sort((a, b) => a - b)[numbers.length >> 1]!;

describe('pitch', () => {
  // ISO 16: 440 Hz is A4. Twelve equal steps an octave: C3 130.813 Hz, E2 82.407 Hz.
  it.each([
    ['men', 'heed', 82.407], ['men', 'hod', 130.813], ['men', 'whod', 220], ['men', 'hawed', 440], ['women', 'hod', 220], ['women', 'heed', 300], ['women', 'hod', 440], ['women', 'whod', 700], ['women', 'head', 1000],
  ] as const)('of %s who sing %s at %d Hz is within a cent, never an octave off', (tract, vowel, hz) => {
    const found = track(sing(0.5, () => ({ hz, vowel }), { tract }));
    expect(found.filter((hop) => hop.hz === 0)).toEqual([]);
    expect(middle(found.map((hop) => Math.abs(centsApart(hop.hz, hz))))).toBeLessThan(1);
    expect(Math.max(...found.map((hop) => Math.abs(centsApart(hop.hz, hz))))).toBeLessThan(50);
  });

  // Above its first formant (310 to 460 Hz) a tone is weak, and breath rings in the formant: a subharmonic there repeats better than the tone.
  it.each([
    ['women', 'heed', 620], ['women', 'heed', 850], ['laterWomen', 'heed', 825], ['laterWomen', 'heed', 990], ['women', 'whod', 620], ['laterWomen', 'whod', 900],
  ] as const)('of breathy %s who sing %s at %d Hz, far above the first formant, is no subharmonic', (tract, vowel, hz) => {
    for (const breath of [0.1, 0.3]) {
      const found = track(sing(1, () => ({ hz, vowel, breath }), { tract, seed: 5 }));
      const wrong = found.filter((hop) => Math.abs(centsApart(hop.hz, hz)) > 50);
      expect(wrong.length / found.length, `breath ${breath}`).toBeLessThan(0.05);
    }
  });

  // Closed form: of partials a1 to a4 half a period is as alike as (even - odd) / all of their squares, here 0.93; a whole period is 1.
  it.each([160, 220, 305, 380])('that is %d Hz with nearly all in its second partial, and begins an octave too high, is found within 40 ms', (hz) => {
    const partials = [0.18, 1, 0.05, 0.1];
    const samples = Float32Array.from({ length: SAMPLE_RATE_HZ / 2 }, (_, i) => {
      const timeS = i / SAMPLE_RATE_HZ;
      // The first partial comes a little after the second, as it does where a mouth opens.
      return 0.1 * Math.min(1, timeS / 0.01) * partials.reduce((sum, size, n) => sum + (n === 0 ? Math.min(1, timeS / 0.03) : 1) * size * Math.sin(2 * Math.PI * hz * (n + 1) * timeS), 0);
    });
    const found = track(samples, 70);
    expect(Math.max(...found.map((hop) => Math.abs(centsApart(hop.hz, hz))))).toBeLessThan(20);
  });

  it('of a breathy tone is nearly as near as that of another package, which looks at more than four times as many samples', () => {
    const hz = 196;
    const samples = sing(0.5, () => ({ hz, vowel: 'hod', breath: 0.3 }), { room: 0.003 });
    const peer = PitchDetector.forFloat32Array(2048);
    const its: number[] = [];
    for (let at = 4096; at < samples.length; at += HOP) its.push(Math.abs(centsApart(peer.findPitch(samples.slice(at - 2048, at), SAMPLE_RATE_HZ)[0], hz)));
    expect(middle(track(samples).map((hop) => Math.abs(centsApart(hop.hz, hz))))).toBeLessThanOrEqual(middle(its) + 0.75);
  });

  it.each([['low', 110, 146.8, 26], ['low, down', 130.8, 98, 28], ['high', 440, 659.3, 21]])('of a step is settled soon after it, %s', (_, from, to, withinMs) => {
    const found = track(sing(0.4, (timeS) => ({ hz: timeS < 0.2 ? from : to })));
    const late = found.filter(({ hz, timeMs }) => timeMs > 200 && Math.abs(centsApart(hz, to)) > 25).map(({ timeMs }) => timeMs);
    expect(Math.max(...late) + HOP_MS - 200).toBeLessThanOrEqual(withinMs);
  });

  it('of noise is none, of breath too, and of silence', () => {
    const noise = seededNoise(3);
    const voiced = (samples: Float32Array) => track(samples).filter(({ hz }) => hz > 0).length;
    expect(voiced(new Float32Array(SAMPLE_RATE_HZ).map(() => 0.1 * noise()))).toBe(0);
    let held = 0;
    expect(voiced(new Float32Array(SAMPLE_RATE_HZ).map(() => (held = 0.9 * held + 0.05 * noise())))).toBe(0);
    expect(voiced(sing(1, () => ({ hz: 200, voice: 0, breath: 1 })))).toBe(0);
    // Whispered vowels ring narrowly, and for a moment look like tones.
    const whispers = [1, 2, 3, 4].flatMap((seed) => (['heed', 'hod', 'whod', 'hawed'] as const).map((vowel) => voiced(sing(1, () => ({ hz: 200, voice: 0, breath: 1, vowel }), { seed }))));
    expect(whispers.reduce((sum, count) => sum + count, 0)).toBeLessThan(0.004 * whispers.length * (1000 / HOP_MS));
    expect(voiced(new Float32Array(SAMPLE_RATE_HZ))).toBe(0);
    // What is no number does not last.
    expect(track(sing(0.5, () => ({ hz: 220 }), {}).map((sample, i) => (i === 6000 ? NaN : sample)), 260).every(({ hz }) => Math.abs(hz - 220) < 2)).toBe(true);
  });

  it('keeps vibrato', () => {
    const found = track(sing(1, (timeS) => ({ hz: 220 * 2 ** ((0.5 * Math.sin(2 * Math.PI * 5.5 * timeS)) / 12) })));
    const cents = found.map(({ hz }) => centsApart(hz, 220));
    expect(Math.max(...cents)).toBeGreaterThan(45);
    expect(Math.min(...cents)).toBeLessThan(-45);
    expect(Math.max(...cents)).toBeLessThan(53);
  });
});
