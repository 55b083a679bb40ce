import { HOP, SAMPLE_RATE_HZ } from '../listening/audio';
import { hzOfPitch } from '../voices/pitch';
import { MouthDrummer, type MouthSound } from './mouthDrummer';
import { seededNoise } from './noise';
import { Singer, type SungMoment } from './singer';
import type { Vowel } from './tract';

/** Who sings or drums where there is no microphone: audio, a hop at a time, into the same analysis. */
export interface HeardStandIn {
  id: string;
  name: string;
  /** Writes the next hop. */
  fill(block: Float32Array): void;
}

/** The tune of the watch: pitch, vowel, beats. A rest has no pitch. */
const TUNE: readonly (readonly [pitch: number | null, vowel: Vowel, beats: number])[] = [
  [50, 'whod', 2], [53, 'hod', 1], [55, 'hod', 1], [57, 'heed', 2], [null, 'hod', 1], [57, 'head', 0.5], [58, 'head', 0.5], [57, 'hod', 1], [55, 'hawed', 1], [53, 'hawed', 1], [50, 'whod', 3], [null, 'hod', 2],
];
const BEAT_S = 0.5;
const BEATS = TUNE.reduce((sum, [, , beats]) => sum + beats, 0);
const GLIDE_S = 0.05;
const ROOM = 0.0004;

/** What is sung at a moment: legato, with a vibrato that grows, and a consonant's gap before each new vowel. */
export function tuneAt(timeS: number): SungMoment {
  let at = (timeS / BEAT_S) % BEATS;
  let before = TUNE[0]![0]!;
  for (const [pitch, vowel, beats] of TUNE) {
    if (at >= beats) {
      at -= beats;
      before = pitch ?? before;
      continue;
    }
    if (pitch === null) return { hz: hzOfPitch(before), vowel, voice: 0, breath: 0 };
    const intoS = at * BEAT_S;
    const glide = Math.min(1, intoS / GLIDE_S);
    const vibrato = 0.3 * Math.min(1, intoS / 0.6) * Math.sin(2 * Math.PI * 5.2 * timeS);
    const fade = Math.min(1, (beats * BEAT_S - intoS) / 0.03);
    return { hz: hzOfPitch(before + (pitch - before) * (0.5 - 0.5 * Math.cos(Math.PI * glide)) + vibrato), vowel, voice: 0.6 * fade, breath: 0.08 };
  }
  return { hz: 100, vowel: 'hod', voice: 0, breath: 0 };
}

function singer(): HeardStandIn {
  const throat = new Singer({ tract: 'men', rateHz: SAMPLE_RATE_HZ, seed: 7 });
  const noise = seededNoise(7);
  let count = 0;
  return {
    id: 'singer',
    name: 'Foghorn, a singer',
    fill(block) {
      for (let i = 0; i < HOP; i++) block[i] = throat.sing(tuneAt(count++ / SAMPLE_RATE_HZ)) + ROOM * noise();
    },
  };
}

/** A beat of sixteen steps: what the mouth of the engine room says. */
const BEAT: readonly (MouthSound | null)[] = ['b', null, 'ts', null, 'k', null, 'ts', 'ts', 'b', 'b', 'ts', null, 'k', null, 'ts', 'pf'];
const STEP_S = 0.16;

function drummer(): HeardStandIn {
  const mouth = new MouthDrummer(SAMPLE_RATE_HZ, 11);
  const noise = seededNoise(11);
  let count = 0;
  let step = -1;
  return {
    id: 'drummer',
    name: 'Engine room, a mouth drummer',
    fill(block) {
      for (let i = 0; i < HOP; i++) {
        const now = Math.floor(count++ / SAMPLE_RATE_HZ / STEP_S);
        if (now !== step) {
          step = now;
          const sound = BEAT[step % BEAT.length];
          if (sound) mouth.strike(sound, 0.5 + 0.35 * ((step * 0.37) % 1));
        }
        block[i] = mouth.sample() + ROOM * noise();
      }
    },
  };
}

/** Those that ship with the program, made anew for each use. */
export const HEARD_STAND_INS: readonly { id: string; name: string; make: () => HeardStandIn }[] = [singer, drummer].map((make) => {
  const { id, name } = make();
  return { id, name, make };
});
