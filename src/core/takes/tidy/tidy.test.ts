import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hexOf } from '../../midi/describe';
import { MODE_NAMES } from '../../voices/scale';
import { lineOf } from '../notes';
import type { ScoreMessage } from '../score';
import { spellOutEnds } from './settle';
import { SUNG_RECIPE, tidy, type TidyStep } from './index';
import { nearestLineMs, type Quantise } from './quantise';
import { thin } from './thin';

const SOURCE = { output: 'weather', who: 'voice', mapping: 'song' } as const;
const say = (atMs: number, ...bytes: number[]): ScoreMessage => ({ atMs, source: SOURCE, bytes: Uint8Array.from(bytes) });
const on = (atMs: number, key: number, velocity = 90) => say(atMs, 0x90, key, velocity);
const off = (atMs: number, key: number) => say(atMs, 0x80, key, 64);
const cc = (atMs: number, value: number, controller = 21) => say(atMs, 0xb0, controller, value);
const words = (messages: readonly ScoreMessage[]) => messages.map(({ atMs, bytes }) => `${Math.round(atMs * 1000) / 1000} ${hexOf(bytes)}`);
const after = (messages: readonly ScoreMessage[], ...steps: TidyStep[]) => words(tidy(messages, steps, { bpm: 120, bendSemitonesOf }).messages);
const bendSemitonesOf = () => 2;
const STRAIGHT: Quantise = { kind: 'quantise', gridBeats: 0.25, swing: 0.5, strength: 1, ends: false, fromMs: 0 };

describe('quantise', () => {
  // At 120 beats a minute a sixteenth is 125 ms, worked by hand.
  it('sixteenths, triplets, swing and an origin of its own, by a table', () => {
    const lines = (step: Partial<Quantise>, ...at: number[]) => at.map((atMs) => nearestLineMs(atMs, { ...STRAIGHT, ...step }, 120));
    expect(lines({}, 0, 62, 63, 124, 200, 437)).toEqual([0, 0, 125, 125, 250, 375]);
    // Triplets of eighths: a third of a beat, 166.67 ms.
    expect(lines({ gridBeats: 1 / 3 }, 80, 90, 170, 250).map((ms) => Math.round(ms * 100) / 100)).toEqual([0, 166.67, 166.67, 333.33]);
    // Eighths swung by 2/3: the second of each pair of 500 ms at 333.33.
    expect(lines({ gridBeats: 0.5, swing: 2 / 3 }, 150, 180, 400, 420, 800).map((ms) => Math.round(ms * 100) / 100)).toEqual([0, 333.33, 333.33, 500, 833.33]);
    expect(lines({ fromMs: 40 }, 0, 40, 100, 110)).toEqual([40, 40, 40, 165]);
  });
  it('goes as far as its strength says, and a note keeps its length', () => {
    expect(after([on(100, 60), off(300, 60)], STRAIGHT)).toEqual(['125 90 3C 5A', '325 80 3C 40']);
    expect(after([on(100, 60), off(300, 60)], { ...STRAIGHT, strength: 0.4 })).toEqual(['110 90 3C 5A', '310 80 3C 40']);
  });
  it('ends too: a note that would be nothing keeps its share', () => {
    expect(after([on(10, 60), off(240, 60), on(260, 62), off(290, 62)], { ...STRAIGHT, ends: true })).toEqual(['0 90 3C 5A', '250 80 3C 40', '250 90 3E 5A', '280 80 3E 40']);
  });
  it('what belongs to a voice goes with it, and two notes never change places', () => {
    const bent = [say(98, 0xe0, 0, 70), on(98, 60), say(110, 0xe0, 0, 75), off(225, 60), on(226, 62), off(400, 62)];
    expect(after(bent, STRAIGHT)).toEqual(['125 E0 00 46', '125 90 3C 5A', '136.719 E0 00 4B', '249.023 80 3C 40', '250 90 3E 5A', '424 80 3E 40']);
    // A grace note in front of the beat: both go to it, the first sounds first, and is not nothing.
    expect(after([on(110, 60), off(120, 60), on(130, 62), off(200, 62)], STRAIGHT)).toEqual(['125 90 3C 5A', '125 90 3E 5A', '135 80 3C 40', '195 80 3E 40']);
  });
});

describe('what ends all notes of a channel', () => {
  it.each([120, 123, 126])('%i has the end of each that sounds there before it (MIDI 1.0, channel mode messages)', (controller) => {
    const messages = [on(0, 60), on(10, 64), say(20, 0x91, 67, 90), off(30, 64), cc(50, 0, controller), off(60, 60), cc(70, 0, controller)];
    expect(words(spellOutEnds(messages))).toEqual(words([...messages.slice(0, 4), off(50, 60), ...messages.slice(4)]));
  });
  it('is nothing else: not a controller, a reset, another output, or a packet of OSC', () => {
    const messages = [on(0, 60), cc(10, 0, 121), cc(20, 0, 122), cc(30, 0, 64), { ...cc(40, 0, 123), source: { ...SOURCE, output: 'hull' } }, say(50, 0x2f, 0xb0, 123, 0)];
    expect(spellOutEnds(messages)).toEqual(messages);
  });
});

describe('steps by hand', () => {
  it('drop: shorter and softer notes go, with their ends', () => {
    expect(after([on(0, 60), off(40, 60), on(100, 62, 10), off(300, 62), on(400, 64), off(500, 64)], { kind: 'drop', shorterMs: 50, softer: 20 })).toEqual(['400 90 40 5A', '500 80 40 40']);
  });
  it('join: the same key again after a gap, and a short other one between', () => {
    expect(after([on(0, 60), off(200, 60), on(230, 60), off(400, 60)], { kind: 'join', gapMs: 50 })).toEqual(['0 90 3C 5A', '400 80 3C 40']);
    expect(after([on(0, 60), off(200, 60), on(200, 61), off(240, 61), on(240, 60), off(500, 60)], { kind: 'join', gapMs: 50 })).toEqual(['0 90 3C 5A', '500 80 3C 40']);
    expect(after([on(0, 60), off(200, 60), on(300, 60), off(400, 60)], { kind: 'join', gapMs: 50 })).toHaveLength(4);
  });
  it('join: over the channels of a zone, with what belongs to the voice; not where the channel was taken meanwhile, nor two at once', () => {
    const cut = [say(0, 0xe1, 0, 64), say(0, 0x91, 60, 90), say(100, 0xd1, 30), say(200, 0x81, 60, 64), say(220, 0xe2, 0, 66), say(220, 0x92, 60, 80), say(300, 0xb2, 74, 9), say(310, 0xe3, 5, 64), say(400, 0x82, 60, 64), say(410, 0xe2, 0, 64)];
    expect(after(cut, { kind: 'join', gapMs: 50 })).toEqual(['0 E1 00 40', '0 91 3C 5A', '100 D1 1E', '220 E1 00 42', '300 B1 4A 09', '310 E3 05 40', '400 81 3C 40', '410 E2 00 40']);
    const taken = [say(0, 0x91, 60, 90), say(200, 0x81, 60, 64), say(205, 0x91, 67, 90), say(220, 0x92, 60, 80), say(230, 0x81, 67, 64), say(400, 0x82, 60, 64)];
    expect(after(taken, { kind: 'join', gapMs: 5 })).toEqual(words(taken));
    const unison = [say(0, 0x91, 60, 90), say(100, 0x92, 60, 80), say(130, 0x81, 60, 64), say(200, 0x82, 60, 64)];
    expect(after(unison, { kind: 'join', gapMs: 50 })).toEqual(words(unison));
    // A wobble in a zone: each of the three on a channel of its own, worked by hand.
    const wobble = [say(0, 0x91, 60, 90), say(200, 0x81, 60, 64), say(200, 0x92, 61, 90), say(240, 0x82, 61, 64), say(240, 0x93, 60, 90), say(300, 0xe3, 1, 64), say(500, 0x83, 60, 64)];
    expect(after(wobble, { kind: 'join', gapMs: 50 })).toEqual(['0 91 3C 5A', '300 E1 01 40', '500 81 3C 40']);
  });
  it('legato closes a short gap, overlaps end where the next begins', () => {
    expect(after([on(0, 60), off(90, 60), on(100, 62), off(200, 62), on(500, 64), off(600, 64)], { kind: 'legato', gapMs: 20 })).toEqual(['0 90 3C 5A', '100 80 3C 40', '100 90 3E 5A', '200 80 3E 40', '500 90 40 5A', '600 80 40 40']);
    expect(after([on(0, 60), on(100, 62), off(150, 60), off(200, 62)], { kind: 'overlaps' })).toEqual(['0 90 3C 5A', '100 80 3C 40', '100 90 3E 5A', '200 80 3E 40']);
    // A chord is no overlap.
    expect(after([on(0, 60), on(0, 64), off(100, 60), off(100, 64)], { kind: 'overlaps' })).toEqual(['0 90 3C 5A', '0 90 40 5A', '100 80 3C 40', '100 80 40 40']);
  });
  it('snap: D minor; two that meet on a key end one before the other', () => {
    // 61 lies between 60 and 62: the lower. 63 between 62 and 64. 66 between 65 and 67.
    expect(after([on(0, 61), off(50, 61), on(100, 66), off(150, 66)], { kind: 'snap', root: 2, mode: 'minor' })).toEqual(['0 90 3C 5A', '50 80 3C 40', '100 90 41 5A', '150 80 41 40']);
    expect(after([on(0, 60), on(50, 61), off(80, 60), off(120, 61)], { kind: 'snap', root: 2, mode: 'minor' })).toEqual(['0 90 3C 5A', '50 80 3C 40', '50 90 3C 5A', '80 80 3C 40']);
  });
  it('strikes are evened about their mean, bends go to the centre, silence is trimmed', () => {
    expect(after([on(0, 60, 40), off(1, 60), on(2, 60, 100), off(3, 60)], { kind: 'strikes', amount: 0.5 }).filter((line) => line.includes(' 90 '))).toEqual(['0 90 3C 37', '2 90 3C 55']);
    expect(after([say(0, 0xe0, 0, 96)], { kind: 'bends', amount: 0.5 })).toEqual(['0 E0 00 50']);
    expect(after([say(0, 0xe0, 0, 96)], { kind: 'bends', amount: 1 })).toEqual(['0 E0 00 40']);
    expect(after([cc(10, 5), on(1000, 60), off(1500, 60), cc(4000, 9)], { kind: 'trim', keepMs: 100 })).toEqual(['0 B0 15 05', '100 90 3C 5A', '600 80 3C 40']);
    // A pedal that is pressed only later is not, and one that is lifted later is lifted where it is cut.
    expect(after([on(1000, 60), off(1500, 60), cc(4000, 127, 64)], { kind: 'trim', keepMs: 100 })).toEqual(['100 90 3C 5A', '600 80 3C 40']);
    expect(after([cc(0, 127, 64), on(1000, 60), off(1500, 60), cc(4000, 60, 64), cc(4100, 0, 64)], { kind: 'trim', keepMs: 100 })).toEqual(['0 B0 40 7F', '100 90 3C 5A', '600 80 3C 40', '700 B0 40 00']);
  });
});

describe('thinning', () => {
  const ramp = Array.from({ length: 128 }, (_, value) => cc(value * 10, value));
  it('as a receiver hears it: a value is held until the next, never further off than the tolerance', () => {
    const { messages, leftOut, largest } = thin(ramp, { kind: 'thin', tolerance: 2, bendCents: 0, as: 'steps' }, bendSemitonesOf);
    // 0, 3, 6 ... 126 and the last: 44 of 128.
    expect(messages.map(({ bytes }) => bytes[2])).toEqual([...Array.from({ length: 43 }, (_, i) => 3 * i), 127]);
    expect([leftOut, largest]).toEqual([84, 2]);
  });
  it('as lines: a straight way is its two ends, a corner stays', () => {
    expect(thin(ramp, { kind: 'thin', tolerance: 0.5, bendCents: 0, as: 'lines' }, bendSemitonesOf).messages.map(({ bytes }) => bytes[2])).toEqual([0, 127]);
    const corner = [...ramp, ...Array.from({ length: 20 }, (_, i) => cc(1280 + i * 10, 127))];
    expect(thin(corner, { kind: 'thin', tolerance: 0.5, bendCents: 0, as: 'lines' }, bendSemitonesOf).messages.map(({ atMs }) => atMs)).toEqual([0, 1270, 1470]);
  });
  it('agrees with a plain Ramer-Douglas-Peucker of the textbook, and keeps to the tolerance', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 30 }), fc.integer({ min: 0, max: 127 })), { minLength: 3, maxLength: 60 }), fc.constantFrom(1, 3, 8), (steps, tolerance) => {
        let atMs = 0;
        const points = steps.map(([afterMs, value]) => cc((atMs += afterMs), value));
        const kept = thin(points, { kind: 'thin', tolerance, bendCents: 0, as: 'lines' }, bendSemitonesOf);
        expect(kept.largest).toBeLessThanOrEqual(tolerance + 1e-6);
        expect(kept.messages).toEqual(textbook(points, tolerance));
        const held = thin(points, { kind: 'thin', tolerance, bendCents: 0, as: 'steps' }, bendSemitonesOf);
        expect(held.largest).toBeLessThanOrEqual(tolerance);
        let now = NaN;
        let next = 0;
        for (const point of points) {
          while (next < held.messages.length && held.messages[next]!.atMs <= point.atMs) now = held.messages[next++]!.bytes[2]!;
          expect(Math.abs(now - point.bytes[2]!)).toBeLessThanOrEqual(tolerance);
        }
      }),
      { numRuns: 300 },
    );
  });
  it('14 bits are one curve, said whole where they stay; switches, pedals and selected parameters are left alone', () => {
    const fine = Array.from({ length: 64 }, (_, i) => [cc(i * 10, i >> 3, 20), cc(i * 10, (i & 7) << 4, 52)]).flat();
    const { messages } = thin(fine, { kind: 'thin', tolerance: 1, bendCents: 0, as: 'steps' }, bendSemitonesOf);
    expect(messages.length).toBeLessThan(20);
    for (let i = 0; i < messages.length; i += 2) expect([messages[i]!.bytes[1], messages[i + 1]!.bytes[1]]).toEqual([20, 52]);
    const others = [cc(0, 127, 64), cc(10, 120, 64), cc(20, 0, 101), cc(20, 0, 100), cc(20, 48, 6), cc(30, 47, 6)];
    expect(thin(others, { kind: 'thin', tolerance: 60, bendCents: 0, as: 'steps' }, bendSemitonesOf)).toMatchObject({ messages: others, leftOut: 0, largest: 0 });
  });
  it('plain controllers of the numbers of lower halves are themselves: nothing is said of 7, the volume, where 39 alone was moved', () => {
    const way = (controller: number, by: string) => Array.from({ length: 60 }, (_, i): ScoreMessage => ({ ...cc(i * 20, i, controller), source: { ...SOURCE, mapping: by } }));
    const kept = (messages: ScoreMessage[], tolerance = 3) => thin(messages, { kind: 'thin', tolerance, bendCents: 0, as: 'steps' }, bendSemitonesOf);
    expect(kept(way(39, 'fog')).messages).toEqual(way(39, 'fog').filter(({ bytes }) => bytes[2]! % 4 === 0 || bytes[2] === 59));
    expect(kept(way(39, 'fog'), 0).messages).toEqual(way(39, 'fog'));
    // Two mappings that happen to move together.
    const both = way(7, 'swell').flatMap((message, i) => [message, way(39, 'fog')[i]!]);
    expect(kept(both, 0)).toMatchObject({ messages: both, largest: 0 });
    expect(new Set(kept(both).messages.map(({ source, bytes }) => `${source.mapping} ${bytes[1]}`))).toEqual(new Set(['swell 7', 'fog 39']));
  });
  it('halves that a keyboard sent one after the other are one curve', () => {
    const fine = Array.from({ length: 40 }, (_, i) => [cc(i * 20, i >> 3, 1), cc(i * 20 + 1, (i & 7) << 4, 33)]).flat();
    const { messages } = thin(fine, { kind: 'thin', tolerance: 1, bendCents: 0, as: 'steps' }, bendSemitonesOf);
    let [msb, lsb] = [0, 0];
    const heard = messages.map(({ bytes }) => (bytes[1] === 1 ? [(msb = bytes[2]!), (lsb = 0)] : [msb, (lsb = bytes[2]!)]).join('.'));
    expect(heard.at(-1)).toBe(`${39 >> 3}.${(39 & 7) << 4}`);
    expect([msb, lsb]).toEqual([4, 112]);
  });
  it('bends are measured in cents at the range of their output', () => {
    // At 48 semitones a cent is 1.7067 numbers: steps of 1 are 0.586 cents apart, and 5 cents are 8.53.
    const bent = Array.from({ length: 40 }, (_, i) => say(i * 10, 0xe0, i, 64));
    const { messages, largestCents } = thin(bent, { kind: 'thin', tolerance: 0, bendCents: 5, as: 'steps' }, () => 48);
    expect(messages.map(({ bytes }) => bytes[1])).toEqual([0, 9, 18, 27, 36, 39]);
    expect(largestCents).toBeCloseTo(8 / (8192 / 4800), 9);
  });
  it('what is said with the beginning of a note stays', () => {
    const take = [say(0, 0xe0, 0, 64), on(0, 60), say(5, 0xe0, 1, 64), say(10, 0xe0, 2, 64), off(20, 60), say(30, 0xe0, 3, 64), on(30, 62), off(40, 62), say(50, 0xe0, 4, 64)];
    expect(words(thin(take, { kind: 'thin', tolerance: 2, bendCents: 8, as: 'steps' }, bendSemitonesOf).messages)).toEqual(['0 E0 00 40', '0 90 3C 5A', '20 80 3C 40', '30 E0 03 40', '30 90 3E 5A', '40 80 3E 40', '50 E0 04 40']);
  });
});

/** Ramer 1972 by recursion, distances in value. */
function textbook(points: readonly ScoreMessage[], tolerance: number): ScoreMessage[] {
  const value = (i: number) => points[i]!.bytes[2]!;
  const keep = (a: number, b: number): number[] => {
    let [furthest, where] = [0, -1];
    for (let i = a + 1; i < b; i++) {
      const share = (points[i]!.atMs - points[a]!.atMs) / (points[b]!.atMs - points[a]!.atMs);
      const away = Math.abs(value(i) - (value(a) + share * (value(b) - value(a))));
      if (away > furthest + 1e-7) [furthest, where] = [away, i];
    }
    return furthest > tolerance + 1e-7 ? [...keep(a, where), ...keep(where, b).slice(1)] : [a, b];
  };
  return keep(0, points.length - 1).map((i) => points[i]!);
}

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const ms = fc.integer({ min: 0, max: 400 });
const anyStep: fc.Arbitrary<TidyStep> = fc.oneof(
  fc.record({ kind: fc.constant('quantise' as const), gridBeats: fc.constantFrom(0.125, 0.25, 1 / 3, 1), swing: fc.constantFrom(0.5, 0.6, 2 / 3, 0.75), strength: unit, ends: fc.boolean(), fromMs: ms }),
  fc.record({ kind: fc.constant('drop' as const), shorterMs: ms, softer: fc.integer({ min: 0, max: 127 }) }),
  fc.record({ kind: fc.constant('join' as const), gapMs: ms }),
  fc.record({ kind: fc.constant('legato' as const), gapMs: ms }),
  fc.constant({ kind: 'overlaps' as const }),
  fc.record({ kind: fc.constant('snap' as const), root: fc.integer({ min: 0, max: 11 }), mode: fc.constantFrom(...MODE_NAMES) }),
  fc.record({ kind: fc.constant('strikes' as const), amount: unit }),
  fc.record({ kind: fc.constant('thin' as const), tolerance: fc.integer({ min: 0, max: 40 }), bendCents: fc.integer({ min: 0, max: 100 }), as: fc.constantFrom('steps' as const, 'lines' as const) }),
  fc.record({ kind: fc.constant('bends' as const), amount: unit }),
  fc.record({ kind: fc.constant('trim' as const), keepMs: ms }),
);
const anyMessage = fc
  .tuple(fc.constantFrom(0x90, 0x90, 0x80, 0xb0, 0xe0, 0xd0, 0xa0), fc.integer({ min: 0, max: 2 }), fc.constantFrom(21, 53, 60, 61, 62, 64), fc.integer({ min: 0, max: 127 }), fc.integer({ min: 0, max: 200 }), fc.constantFrom('song', 'drum'))
  .map(([status, channel, first, second, afterMs, mapping]) => ({ afterMs, mapping, bytes: status === 0xd0 ? [status | channel, second] : [status | channel, first, second] }));

it('whatever is tidied, every note on has one note off after it, nothing hangs, times rise, and the first message stands', () => {
  fc.assert(
    fc.property(fc.array(anyMessage, { maxLength: 40 }), fc.array(anyStep, { minLength: 1, maxLength: 4 }), (said, steps) => {
      let atMs = 0;
      const take = said.map(({ afterMs, mapping, bytes }): ScoreMessage => ({ atMs: (atMs += afterMs), source: { ...SOURCE, mapping }, bytes: Uint8Array.from(bytes) }));
      const before = JSON.stringify(take.map(({ bytes, atMs: at }) => [at, [...bytes]]));
      const { messages, said: inWords } = tidy(take, [{ kind: 'overlaps' }, ...steps], { bpm: 97, bendSemitonesOf });
      expect(JSON.stringify(take.map(({ bytes, atMs: at }) => [at, [...bytes]]))).toBe(before);
      expect(inWords).toHaveLength(steps.length + 1);
      const sounding = new Set<string>();
      let lastMs = 0;
      for (const { atMs: at, source, bytes } of messages) {
        expect(at).toBeGreaterThanOrEqual(lastMs);
        lastMs = at;
        const key = `${source.output} ${bytes[0]! & 0x0f} ${bytes[1]}`;
        const status = bytes[0]! & 0xf0;
        if (status === 0x90 && bytes[2]! > 0) {
          expect(sounding.has(key)).toBe(false);
          sounding.add(key);
        } else if (status === 0x80 || status === 0x90) expect(sounding.delete(key)).toBe(true);
        for (const byte of bytes.slice(1)) expect(byte).toBeLessThan(128);
      }
      expect([...sounding]).toEqual([]);
    }),
    { numRuns: 10_000 },
  );
});
it('the recipe for what was sung leaves a line of notes that do not overlap their own line', () => {
  const sung = [on(0, 60), off(180, 60), on(185, 61), off(215, 61), on(220, 60), off(480, 60), on(520, 64, 50), off(540, 64), on(600, 65), off(900, 65)];
  expect(after(sung, ...SUNG_RECIPE)).toEqual(['0 90 3C 5A', '480 80 3C 40', '600 90 41 5A', '900 80 41 40']);
  expect(new Set(sung.map(lineOf)).size).toBe(1);
});
