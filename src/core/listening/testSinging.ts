import { Singer, type SungMoment, type SingerSettings } from '../standIn/singer';
import { seededNoise } from '../standIn/noise';
import { hzOfPitch, pitchOfHz } from '../voices/pitch';
import { HOP, SAMPLE_RATE_HZ } from './audio';

/** Audio of a singer for tests, and what is sung at each sample; noise in the room has a root mean square of `room`. */
export function sing(seconds: number, at: (timeS: number) => Partial<SungMoment> & { hz: number }, settings: Partial<SingerSettings> & { room?: number } = {}): Float32Array {
  const { room = 0.0005, ...rest } = settings;
  const singer = new Singer({ tract: 'men', rateHz: SAMPLE_RATE_HZ, seed: 1, ...rest });
  const noise = seededNoise(rest.seed ?? 1);
  return Float32Array.from({ length: Math.round(seconds * SAMPLE_RATE_HZ) }, (_, i) => singer.sing({ vowel: 'hod', voice: 1, breath: 0.1, ...at(i / SAMPLE_RATE_HZ) }) + room * noise());
}

/** A legato melody: which pitch is sung when, with vibrato, each note a little late in its change as throats are. */
export function melody(pitches: readonly number[], notesPerS: number, vibratoCents: number, glideMs = 25): (timeS: number) => number {
  return (timeS) => {
    const n = Math.min(pitches.length - 1, Math.floor(timeS * notesPerS));
    const intoMs = (timeS - n / notesPerS) * 1000;
    const from = pitches[Math.max(0, n - 1)]!;
    const glide = n === 0 || intoMs >= glideMs ? 1 : 0.5 - 0.5 * Math.cos((Math.PI * intoMs) / glideMs);
    return hzOfPitch(from + (pitches[n]! - from) * glide + (vibratoCents / 100) * Math.sin(2 * Math.PI * 5.5 * timeS));
  };
}

/** Calls with each whole hop of samples. */
export function hops(samples: Float32Array, each: (block: Float32Array) => void): void {
  for (let at = 0; at + HOP <= samples.length; at += HOP) each(samples.slice(at, at + HOP));
}

export const centsApart = (a: number, b: number): number => 100 * (pitchOfHz(a) - pitchOfHz(b));
