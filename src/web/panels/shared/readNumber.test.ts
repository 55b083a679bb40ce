import { expect, it } from 'vitest';
import { readNumber } from './readNumber';

const limits = { label: 'Range to', min: 0, max: 127 };

it.each([
  ['97,5', 97.5],
  ['97.5', 97.5],
  [' 12 ', 12],
  ['−3', 0],
  ['400', 127],
  ['', null],
  ['1e1', 10],
  ['９７，５', 97.5],
  ['－３', 0],
  ['٩٧٫٥', 97.5],
  ['۱۲', 12],
  ['½', null],
])('%j is %j', (text, number) => expect(readNumber(text, limits).number).toBe(number));

it('says what it made of a number out of its limits, and of none', () => {
  expect(readNumber('400', limits).sentence).toBe('Range to goes from 0 to 127: 400 became 127.');
  expect(readNumber('abc', limits)).toEqual({ number: null, sentence: 'Range to takes a number, and “abc” is none: it stays as it was.' });
  expect(readNumber('1,2,3', limits).number).toBeNull();
  expect(readNumber('97,5', { ...limits, precision: 0 })).toEqual({ number: 98 });
});
