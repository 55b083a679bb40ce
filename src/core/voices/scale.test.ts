import { describe, expect, it } from 'vitest';
import { readKbm, readScl, readSteps } from './scala';
import { pitchOfHz } from './pitch';
import { nearestPitch, pitchesOf } from './scale';
import { PLAIN_KEY_MAP, tuningOf } from './tuning';

const scl = (text: string) => {
  const read = readScl(text);
  if (!read.ok) throw new Error(read.message);
  return read.value;
};
const file = (...notes: string[]) => `! hull.scl\n!\nHull\n ${notes.length}\n!\n${notes.map((note) => ` ${note}`).join('\n')}\n`;
const cents = (of: readonly number[]) => of.map((value) => Number(value.toFixed(3)));

describe('scales of the literature', () => {
  it('12 equal steps (ISO 16): 100 cents each', () => {
    const { cents: steps } = scl(file(...Array.from({ length: 11 }, (_, i) => `${100 * (i + 1)}.0`), '2/1'));
    expect(cents(steps)).toEqual([100, 200, 300, 400, 500, 600, 700, 800, 900, 1000, 1100, 1200]);
    expect(tuningOf(steps, PLAIN_KEY_MAP).keys).toEqual(Array.from({ length: 128 }, (_, key) => expect.closeTo(key, 9)));
  });
  it('just intonation of 5-limit, major (Helmholtz, On the Sensations of Tone): 203.910, 386.314, 498.045, 701.955, 884.359, 1088.269', () => {
    expect(cents(scl(file('9/8', '5/4', '4/3', '3/2', '5/3', '15/8', '2')).cents)).toEqual([203.91, 386.314, 498.045, 701.955, 884.359, 1088.269, 1200]);
  });
  it('quarter-comma meantone (Barbour, Tuning and Temperament): 76.049, 193.157, 310.265, 386.314, 503.422, 579.471, 696.578, ...', () => {
    // A fifth is the fourth root of 5; each degree that many fifths up or down, brought into the octave.
    const fifth = 1200 * Math.log2(5 ** 0.25);
    const fifths = [7, 2, -3, 4, -1, 6, 1, 8, 3, -2, 5].map((n) => ((n * fifth) % 1200 + 1200) % 1200);
    expect(cents(fifths)).toEqual([76.049, 193.157, 310.265, 386.314, 503.422, 579.471, 696.578, 772.627, 889.735, 1006.843, 1082.892]);
    const read = scl(file(...fifths.map((value) => value.toFixed(5)), '2/1'));
    expect(cents(read.cents)).toEqual([...cents(fifths), 1200]);
    // Laid on the keys with A4 at 440 Hz, C4 lies 889.735 cents below it.
    expect(tuningOf(read.cents, PLAIN_KEY_MAP).keys[60]).toBeCloseTo(69 - 8.89735, 4);
  });
});

describe('a file that is broken is refused with its line', () => {
  it.each([
    // The description may be empty, its line may not be missing.
    ['', 'line 2: expected the number of notes, 1 to 1024, found nothing'],
    ['! a comment\nHull\nmany\n', 'line 3: expected the number of notes, 1 to 1024, found "many"'],
    ['Hull\n2\n3/2\n', 'line 4: expected note 2 of 2, found nothing'],
    ['Hull\n2\n3/2\nrope\n', 'line 4: expected cents with a period (as 701.955) or a ratio (as 3/2), found "rope"'],
    ['Hull\n2\n3/0\n2\n', 'line 3: expected cents with a period (as 701.955) or a ratio (as 3/2), found "3/0"'],
    ['Hull\n1\n2/1\n3/1\n', 'line 4: expected no more than the 1 notes that were announced, found "3/1"'],
    ['Hull\n1\n-5.0\n', 'line 3: expected a last note above the first, after which the scale begins again, found "-5.0"'],
  ])('%j', (text, message) => expect(readScl(text)).toEqual({ ok: false, message }));
  it('what stands behind a note is a remark', () => expect(cents(scl('Hull\r\n 2 notes\r\n 3/2 a fifth\r\n 2/1 (octave)\r\n').cents)).toEqual([701.955, 1200]));
  it.each([
    ['12\n0\n127\n60\n69\nrope\n12\n', 'line 6: expected the frequency of the reference key in Hz, found "rope"'],
    ['2\n0\n127\n60\n69\n440\n2\n0\nrope\n', 'line 9: expected a degree, or x for a key that plays nothing, found "rope"'],
    ['1\n0\n127\n60\n69\n440\n1\n0\n0\n', 'line 9: expected no more than the 1 keys that were announced, found "0"'],
    ['0\n0\n128\n', 'line 3: expected the last key, found "128"'],
  ])('%j', (text, message) => expect(readKbm(text)).toEqual({ ok: false, message }));
});

describe('a keyboard map', () => {
  const map = (text: string) => {
    const read = readKbm(text);
    if (!read.ok) throw new Error(read.message);
    return read.value;
  };
  it('lays seven degrees on the white keys; the black ones play nothing', () => {
    const { keys } = tuningOf(scl(file('200.', '400.', '500.', '700.', '900.', '1100.', '2/1')).cents, map('! white keys\n12\n0\n127\n60\n69\n440.0\n7\n0\nx\n1\nx\n2\n3\nx\n4\nx\n5\nx\n6\n'));
    expect(keys.slice(60, 73)).toEqual([60, null, 62, null, 64, 65, null, 67, null, 69, null, 71, 72].map((key) => (key === null ? null : expect.closeTo(key, 9))));
  });
  it('counts from its own middle and reference: key 60 at 256 Hz', () => {
    expect(tuningOf([1200], map('0\n0\n127\n60\n60\n256\n0\n')).keys.slice(59, 62)).toEqual([-12, 0, 12].map((away) => expect.closeTo(pitchOfHz(256) + away, 9)));
  });
  it('keys that miss at its end play nothing, and a reference that plays nothing leaves all silent', () => {
    expect(map('3\n0\n127\n60\n60\n440\n3\n0\n').degrees).toEqual([0, null, null]);
    expect(tuningOf([1200], { ...PLAIN_KEY_MAP, degrees: [null] }).keys.every((key) => key === null)).toBe(true);
  });
});

describe('pitches to be pulled to', () => {
  it('of a mode on its root, up to the ends of the keys', () => {
    const pitches = pitchesOf({ kind: 'mode', root: 2, mode: 'minor pentatonic' }, 440, null);
    expect([...pitches].filter((pitch) => pitch >= 60 && pitch < 72)).toEqual([60, 62, 65, 67, 69]);
    expect([pitches[0], pitches.at(-1)]).toEqual([0, 127]);
  });
  it('finds the nearest, of two equally near the lower', () => {
    const pitches = Float64Array.of(60, 62, 65);
    expect([59, 60.9, 61, 61.1, 64, 80].map((pitch) => nearestPitch(pitches, pitch))).toEqual([60, 60, 60, 62, 65, 65]);
    expect(nearestPitch(new Float64Array(0), 60)).toBeNaN();
  });
});

it('steps of one\'s own are cents or ratios, with decimal commas too', () => {
  const cents = (text: string) => {
    const read = readSteps(text);
    return read.ok ? read.value.map((value) => Number(value.toFixed(3))) : read.message;
  };
  expect(cents('200 3/2 701,955; 1200')).toEqual([200, 701.955, 701.955, 1200]);
  expect(cents('2/1')).toEqual([1200]);
  expect(cents('')).toMatch(/found 0/);
  expect(cents('100 a')).toMatch(/found "a"/);
  expect(cents('100 -200')).toMatch(/last step above 0/);
});
