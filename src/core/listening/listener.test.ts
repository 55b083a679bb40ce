import { describe, expect, it } from 'vitest';
import { MouthDrummer, type MouthSound } from '../standIn/mouthDrummer';
import { seededNoise } from '../standIn/noise';
import { FORMANTS, type Tract, type Vowel } from '../standIn/tract';
import { HOP_MS, SAMPLE_RATE_HZ } from './audio';
import { Level, LevelFollower, SILENCE_DB } from './level';
import { LISTENER_SETTINGS, Listener, type ListenerSettings, type ListenerSink } from './listener';
import { SoundBook } from './mouth/taughtSounds';
import { NOTE_SETTINGS } from './notes/segmenter';
import { collectSound, collectVowels } from './teach';
import { hops, melody, sing } from './testSinging';

interface HeardNote {
  note: number;
  pitch: number;
  beginsMs: number;
  endsMs: number;
  moves: number[];
}

function listen(samples: Float32Array, settings: Partial<ListenerSettings> = {}, each: (listener: Listener) => void = () => undefined) {
  const notes: HeardNote[] = [];
  const strikes: { sound: string | null; onsetMs: number; knownMs: number }[] = [];
  const sink: ListenerSink = {
    begins: (_, pitch) => void notes.push({ note: Math.round(pitch), pitch, beginsMs: listener.timeMs, endsMs: Infinity, moves: [] }),
    moves: (_, pitch) => void notes.at(-1)!.moves.push(pitch),
    ends: () => void (notes.at(-1)!.endsMs = listener.timeMs),
    strikes: (sound, _, onsetMs) => void strikes.push({ sound, onsetMs, knownMs: listener.timeMs }),
  };
  const listener: Listener = new Listener({ ...LISTENER_SETTINGS, ...settings }, sink);
  hops(samples, (block) => {
    listener.push(block);
    each(listener);
  });
  listener.stop();
  return { notes, strikes };
}

/** A mouth that strikes sounds in turn, a beat every so many ms. */
function drum(sounds: readonly MouthSound[], everyMs: number, seed: number, strength: (i: number) => number = (i) => [1, 0.5, 0.25, 0.7][i % 4]!): Float32Array {
  const drummer = new MouthDrummer(SAMPLE_RATE_HZ, seed);
  const noise = seededNoise(seed);
  let struck = 0;
  return Float32Array.from({ length: Math.round(((sounds.length * everyMs + 400) * SAMPLE_RATE_HZ) / 1000) }, (_, i) => {
    if (struck < sounds.length && (1000 * i) / SAMPLE_RATE_HZ >= 200 + struck * everyMs) {
      drummer.strike(sounds[struck]!, strength(struck));
      struck++;
    }
    return drummer.sample() + 0.0005 * noise();
  });
}
const times = <T>(count: number, of: (i: number) => T): T[] => Array.from({ length: count }, (_, i) => of(i));

describe('level', () => {
  it('of a sine of full scale is -3.01 dB, and is right 10 ms after a step', () => {
    const level = new Level();
    const sine = (timeS: number, size: number) => size * Math.sin(2 * Math.PI * 1000 * timeS);
    const samples = Float32Array.from({ length: 9600 }, (_, i) => sine(i / SAMPLE_RATE_HZ, i < 4800 ? 0.1 : 1));
    const db: number[] = [];
    hops(samples, (block) => {
      level.push(block);
      db.push(level.db);
    });
    expect(db[30]).toBeCloseTo(20 * Math.log10(0.1 / Math.SQRT2), 1);
    expect(db[Math.ceil((100 + 10.7) / HOP_MS)]).toBeCloseTo(-3.01, 1);
    level.push(new Float32Array(128));
    expect(new Level().db).toBe(SILENCE_DB);
  });
});

describe('the signal of loudness', () => {
  it('rises and falls by its two times: 63.2 % of a step in each', () => {
    const follower = new LevelFollower(20, 200);
    follower.db = -60;
    for (let ms = 0; ms < 20; ms++) follower.step(-20, 1);
    expect(follower.db).toBeCloseTo(-60 + 40 * (1 - Math.exp(-1)), 6);
    follower.db = -20;
    for (let ms = 0; ms < 200; ms += 2) follower.step(-60, 2);
    expect(follower.db).toBeCloseTo(-60 + 40 * Math.exp(-1), 6);
    expect(new LevelFollower(0, 0).step(-3, 1)).toBe(-3);
  });
});

describe('sung notes', () => {
  const pitches = [57, 60, 62, 61, 64, 57, 59, 62, 65, 60, 59, 57, 52, 55];
  it.each([['men', 'hod', 0], ['men', 'whod', 25], ['women', 'heed', 25], ['women', 'hod', 40]] as const)('of a legato melody with vibrato come once each, none besides: %s, %s, gliding %d ms', (tract, vowel, glideMs) => {
    const at = melody(pitches, 4, 30, glideMs);
    const { notes } = listen(sing(pitches.length / 4 + 0.3, (timeS) => ({ hz: at(timeS), vowel, voice: timeS < pitches.length / 4 ? 1 : 0 }), { tract }));
    expect(notes.map(({ note }) => note)).toEqual(pitches);
    notes.forEach(({ beginsMs }, i) => expect(beginsMs - 250 * i, `note ${i}`).toBeLessThanOrEqual(glideMs + 45));
    expect(notes.every(({ endsMs }) => endsMs < Infinity)).toBe(true);
  });

  it('of a wobble within the band are one, and of one beyond it more', () => {
    const wobble = (cents: number) => listen(sing(2, (timeS) => ({ hz: 220 * 2 ** ((cents * Math.sin(2 * Math.PI * 0.7 * timeS)) / 1200) }))).notes.length;
    expect(wobble(45)).toBe(1);
    expect(wobble(140)).toBeGreaterThan(2);
  });

  it('sung twice at one pitch are struck again by a dip', () => {
    const { notes } = listen(sing(1, (timeS) => ({ hz: 220, voice: timeS > 0.45 && timeS < 0.53 ? 0.15 : 1 })));
    expect(notes.map(({ note }) => note)).toEqual([57, 57]);
    expect(listen(sing(1, (timeS) => ({ hz: 220, voice: timeS > 0.45 && timeS < 0.53 ? 0.8 : 1 }))).notes.length).toBe(1);
  });

  it('snap to a scale with their vibrato, or without bends stand still', () => {
    const major = Float64Array.from([57, 59, 61, 62, 64, 66, 68, 69]);
    const flat = sing(1, (timeS) => ({ hz: 220 * 2 ** ((-35 + 30 * Math.sin(2 * Math.PI * 5.5 * timeS)) / 1200) }));
    const [snapped] = listen(flat, { snaps: true, notes: { ...NOTE_SETTINGS, pitches: major } }).notes;
    const late = snapped!.moves.slice(200);
    expect(late.reduce((sum, pitch) => sum + pitch, 0) / late.length).toBeCloseTo(57, 1);
    expect(Math.max(...late) - Math.min(...late)).toBeGreaterThan(0.4);
    const [still] = listen(flat, { bends: false, shift: 12 }).notes;
    expect(new Set([still!.pitch, ...still!.moves])).toEqual(new Set([69]));
  });

  it('bring the chord of their degree along, which moves and ends with them', () => {
    const chords = Array.from({ length: 12 }, (_, semitone) => (semitone === 9 ? [3, 7] : semitone === 0 ? [4] : []));
    const log: string[] = [];
    const listener = new Listener({ ...LISTENER_SETTINGS, chords, bends: false }, { begins: (voice, pitch) => log.push(`on ${voice} ${pitch}`), moves: () => undefined, ends: (voice) => log.push(`off ${voice}`), strikes: () => undefined });
    const at = melody([57, 60, 62], 3, 20);
    hops(sing(1.3, (timeS) => ({ hz: at(timeS), voice: timeS < 1 ? 1 : 0 })), (block) => listener.push(block));
    expect(log).toEqual(['on 1 57', 'on 2 60', 'on 3 64', 'off 1', 'off 2', 'off 3', 'on 4 60', 'on 5 64', 'off 4', 'off 5', 'on 6 62', 'off 6']);
  });

  it('keep to their range, and to how clear they must be', () => {
    const low = sing(0.5, () => ({ hz: 110 }));
    expect(listen(low, { notes: { ...NOTE_SETTINGS, low: 47.5 } }).notes).toEqual([]);
    expect(listen(low, { notes: { ...NOTE_SETTINGS, low: 44.5 } }).notes).toHaveLength(1);
    const breathy = sing(0.5, () => ({ hz: 220, breath: 4 }));
    expect(listen(breathy, { notes: { ...NOTE_SETTINGS, clarity: 0.99 } }).notes).toEqual([]);
  });

  it('come on after samples that are no numbers, and nothing that is told is none', () => {
    const broken = sing(0.6, () => ({ hz: 220 })).map((sample, i) => (i > 9600 && i < 9700 ? NaN : i === 9800 ? Infinity : sample));
    const levels: number[] = [];
    const { notes } = listen(broken, {}, ({ level }) => void levels.push(level.db));
    expect(notes.at(-1)!.note).toBe(57);
    expect(levels.every(Number.isFinite)).toBe(true);
  });

  it('say why there are none', () => {
    const why = (samples: Float32Array) => {
      const said = new Set<string | null>();
      listen(samples, {}, ({ whyNot, timeMs }) => void (timeMs > 200 && said.add(whyNot)));
      return said;
    };
    expect(why(sing(0.6, () => ({ hz: 220 })))).toEqual(new Set([null]));
    expect(why(sing(0.6, () => ({ hz: 220, voice: 0.003, breath: 0 })))).toContain('softer than the gate');
    expect(why(sing(0.6, () => ({ hz: 220, voice: 0, breath: 2 })))).toContain('no pitch');
  });

  it('are none of 100 Hz hum below the gate', () => {
    expect(listen(Float32Array.from({ length: SAMPLE_RATE_HZ }, (_, i) => 0.002 * Math.sin((2 * Math.PI * 100 * i) / SAMPLE_RATE_HZ))).notes).toEqual([]);
  });
});

describe('vowels', () => {
  it('formants lie where published tables have them (Peterson and Barney 1952; Hillenbrand and others 1995)', () => {
    for (const tract of Object.keys(FORMANTS) as Tract[]) {
      for (const vowel of Object.keys(FORMANTS.men) as Vowel[]) {
        let found = [0, 0];
        listen(sing(0.3, () => ({ hz: 120, vowel }), { tract }), {}, ({ openFront }) => (found = [openFront.firstHz, openFront.secondHz]));
        const [first, second] = FORMANTS[tract][vowel];
        expect(Math.abs(found[0]! / first - 1), `${tract} ${vowel}, first`).toBeLessThan(0.1);
        expect(Math.abs(found[1]! / second - 1), `${tract} ${vowel}, second`).toBeLessThan(0.06);
      }
    }
  });

  const vowels = ['heed', 'head', 'hod', 'hawed', 'whod'] as const;
  const taught = collectVowels(sing(5, (timeS) => ({ hz: 120 + 40 * (timeS % 1), vowel: vowels[Math.min(4, Math.floor(timeS))]! })), vowels.map((vowel, i) => ({ vowel, fromMs: 1000 * i, toMs: 1000 * (i + 1) })));
  it('that were taught by a second each are known at other pitches, soon, and hold where a voice is too high', () => {
    let right = 0;
    let all = 0;
    for (const hz of [100, 220, 330]) {
      listen(sing(3, (timeS) => ({ hz, vowel: vowels[(2 * Math.floor(timeS * 2)) % 5]! }), { seed: 5 }), { vowels: taught }, ({ vowel, timeMs }) => {
        if (timeMs % 500 < 60) return;
        all++;
        if (vowel !== null && taught.vowels[vowel]!.name === vowels[(2 * Math.floor(timeMs / 500)) % 5]) right++;
      });
    }
    expect(right / all).toBeGreaterThan(0.94);
    const seen = new Set<string>();
    listen(sing(1, (timeS) => ({ hz: timeS < 0.5 ? 200 : 600, vowel: timeS < 0.7 ? 'hod' : 'head' })), { vowels: taught }, ({ vowel, vowelsHold, timeMs, amounts }) => {
      if (timeMs > 600 && vowel !== null) seen.add(`${taught.vowels[vowel]!.name} ${vowelsHold}`);
      if (vowel !== null) expect(amounts.reduce((sum, amount) => sum + amount, 0)).toBeCloseTo(1, 9);
    });
    expect([...seen]).toEqual(['hod true']);
    // What is too high to be told is no example either, nor is silence.
    const heard = new Set<string>();
    listen(sing(0.9, (timeS) => ({ hz: timeS < 0.3 ? 200 : 600, voice: timeS < 0.6 ? 1 : 0, breath: 0 })), {}, ({ vowelNow, timeMs }) => void (timeMs % 300 > 100 && heard.add(`${Math.floor(timeMs / 300)} ${vowelNow !== null}`)));
    expect([...heard]).toEqual(['0 true', '1 false', '2 false']);
  });
});

describe('mouth sounds', () => {
  const sounds = (['b', 'k', 'ts', 'pf'] as const).map((name, i) => ({ name, examples: collectSound(drum(times(8, () => name), 400, 10 + i)) }));
  it('each onset of a recording is an example', () => {
    expect(sounds.map(({ examples }) => examples.length)).toEqual([8, 8, 8, 8]);
  });

  it('are known within 20 ms whatever their strength, and what was not taught is nothing', () => {
    const played = times(60, (i): MouthSound => (['b', 'k', 'ts', 'pf', 'd'] as const)[(i * 7) % 5]!);
    const { strikes, notes } = listen(drum(played, 150, 77, (i) => 0.25 + 0.75 * ((i * 0.37) % 1)), { sounds });
    expect(notes).toEqual([]);
    let known = 0;
    played.forEach((name, i) => {
      const atMs = 200 + 150 * i;
      const heard = strikes.filter(({ onsetMs }) => onsetMs > atMs - 3 && onsetMs < atMs + 40);
      expect(heard.length, `${name} at ${atMs}`).toBeLessThanOrEqual(1);
      if (name === 'd') return expect(heard[0]?.sound ?? null).toBeNull();
      if (heard[0]?.sound === name) known++;
      else expect(heard[0]?.sound ?? null, `${name} at ${atMs}`).toBeNull();
      expect((heard[0]?.knownMs ?? atMs) - atMs).toBeLessThanOrEqual(22);
    });
    expect(known / played.filter((name) => name !== 'd').length).toBeGreaterThanOrEqual(0.95);
  });

  it('are not heard in singing, with its consonants', () => {
    const at = melody([57, 59, 60, 62], 3, 30);
    const sung = sing(4, (timeS) => ({ hz: at(timeS % 1.33), vowel: (timeS * 2) % 2 < 1 ? 'hod' : 'heed', voice: timeS % 0.5 < 0.05 ? 0 : 1, breath: timeS % 0.5 < 0.05 ? 1.5 : 0.1 }));
    expect(listen(sung, { sounds }).strikes.filter(({ sound }) => sound !== null)).toEqual([]);
  });

  it('a cough among the examples widens nothing', () => {
    const [b, , ts] = sounds as [(typeof sounds)[0], (typeof sounds)[0], (typeof sounds)[0]];
    const coughed = new SoundBook([b, { name: 'ts', examples: [...ts.examples, b.examples[0]!.map((feature) => feature + 25)] }]);
    expect(coughed.likeness()).toEqual(new SoundBook([b, ts]).likeness());
  });

  it('two that are alike say so', () => {
    const alike = new SoundBook([sounds[0]!, { name: 'again', examples: collectSound(drum(times(8, () => 'b'), 400, 99)) }, sounds[2]!]).likeness();
    expect(alike.find(({ one, other }) => one === 'b' && other === 'again')!.apart).toBeLessThan(1);
    expect(alike.find(({ one, other }) => one === 'b' && other === 'ts')!.apart).toBeGreaterThan(1);
  });
});
