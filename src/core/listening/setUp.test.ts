import { describe, expect, it } from 'vitest';
import { FRESH_PROFILE, settingsOf } from './profile';
import { loopDelayMs, measured, type SetUpHop } from './setUp';

const hops = (levelDb: number, hz = 0, clips = false): SetUpHop[] => Array.from({ length: 400 }, (_, i) => ({ levelDb: levelDb + (i % 5) - 2, hz, clips: clips && i % 50 === 0 }));

describe('setting up', () => {
  it('puts the gate between the room and soft singing', () => {
    const found = measured({ silence: hops(-62), soft: hops(-40, 200), loud: hops(-14, 220) })!;
    expect(found.remarks).toEqual([]);
    expect(found.gateDb).toBeGreaterThan(-58);
    expect(found.gateDb).toBeLessThan(-42);
    expect(found.softDb).toBeLessThan(found.loudDb);
    expect(found.floorDb).toBeCloseTo(-54, 0);
  });
  it.each([
    ['a loud room', { silence: hops(-30), soft: hops(-28), loud: hops(-20) }, /The room is loud/],
    ['a room as loud as the voice', { silence: hops(-30), soft: hops(-20), loud: hops(-12) }, /nearly as loud as the voice/],
    ['hum', { silence: hops(-60, 100), soft: hops(-40), loud: hops(-15) }, /hum/],
    ['clipping', { silence: hops(-60), soft: hops(-40), loud: hops(-1, 200, true) }, /cut off/],
    ['nothing but the room', { silence: hops(-60), soft: hops(-60), loud: hops(-60) }, /Nothing was heard above the room/],
    ['soft as loud', { silence: hops(-60), soft: hops(-20), loud: hops(-20) }, /nearly the same/],
  ])('says what to do about %s', (_, heard, remark) => {
    expect(measured(heard)!.remarks.join(' ')).toMatch(remark);
  });
  it('stays within what can be kept, however loud or silent it was', () => {
    for (const [silence, soft, loud] of [[2, 4, 6], [-120, -120, -120], [-3, -1, 0]] as const) {
      const { floorDb, gateDb, softDb, loudDb } = measured({ silence: hops(silence), soft: hops(soft), loud: hops(loud) })!;
      for (const db of [floorDb, gateDb, softDb, loudDb]) expect(db >= -120 && db <= 0, String(db)).toBe(true);
      expect(loudDb).toBeGreaterThan(softDb);
    }
  });
  it('wants half a second of each', () => {
    expect(measured({ silence: hops(-60), soft: hops(-40).slice(0, 100), loud: hops(-10) })).toBeNull();
  });
});

describe('the delay by clicks', () => {
  const clicks = [0, 600, 1200, 1800, 2400];
  it('is the middle of those that came back, whatever else was heard', () => {
    expect(loopDelayMs(clicks, [62, 300, 660, 1263, 1500, 1861, 2000])).toBe(62);
  });
  it('is none where few were heard, or not as regularly as clicks are', () => {
    expect(loopDelayMs(clicks, [])).toBeNull();
    expect(loopDelayMs(clicks, [60, 660])).toBeNull();
    expect(loopDelayMs(clicks, [20, 700, 1500, 2000, 2790])).toBeNull();
  });
});

describe('a profile', () => {
  it('says how a listener is set: its scale, its octave, what it was taught', () => {
    const settings = settingsOf({ ...FRESH_PROFILE, scale: { kind: 'mode', root: 9, mode: 'major pentatonic' }, octave: -1, vowels: [{ name: 'a', examples: Array.from({ length: 10 }, () => Array<number>(12).fill(1)) }] });
    expect([...settings.notes.pitches].filter((pitch) => pitch >= 57 && pitch <= 69)).toEqual([57, 59, 61, 64, 66, 69]);
    expect([settings.shift, settings.vowels!.vowels.map(({ name }) => name)]).toEqual([-12, ['a']]);
    expect(settingsOf({ ...FRESH_PROFILE, scale: null }).notes.pitches).toHaveLength(0);
    // In A, of five degrees: the chord of the second is that of B.
    const chords = settingsOf({ ...FRESH_PROFILE, scale: { kind: 'mode', root: 9, mode: 'major pentatonic' }, chords: [[], [3, 7]] }).chords!;
    expect(chords.flatMap((chord, semitone) => (chord.length > 0 ? [[semitone, ...chord]] : []))).toEqual([[11, 3, 7]]);
    expect(settingsOf(FRESH_PROFILE).chords).toBeNull();
    // Too few examples are no vowel.
    expect(settingsOf({ ...FRESH_PROFILE, vowels: [{ name: 'a', examples: [] }] }).vowels).toBeNull();
  });
});
