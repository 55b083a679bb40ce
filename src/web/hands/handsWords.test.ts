import { expect, it } from 'vitest';
import { handInWords, lightInWords, rateInWords } from './handsWords';

it('says how many results a second there are, and why there are few', () => {
  const usual = { model: 'exact', hands: 2 } as const;
  expect(rateInWords(28.6, 0.5, usual)).toBe('29 a second');
  expect(rateInWords(7, 0.1, usual)).toBe('too dark: 7 a second; more light on the hands makes the camera faster');
  expect(rateInWords(5, 0.5, usual)).toBe('5 a second: few; choose the fast model, or look for one hand, or close other programs');
  // What is done already is not advised.
  expect(rateInWords(5, 0.5, { model: 'fast', hands: 1 })).toBe('5 a second: few; close other programs');
  // A stand-in has no light.
  expect(rateInWords(30, NaN, usual)).toBe('30 a second');
});

it('says when it is dark and when the camera is covered', () => {
  expect([lightInWords(0.5), lightInWords(0.1), lightInWords(0.01), lightInWords(NaN)]).toEqual(['50 %', '10 %: too dark', '1 %: the camera is covered, or the room is dark', 'needs none']);
});

it('says what each hand does', () => {
  const now = { hands: [{ side: 'left' as const, picture: new Float64Array(0), gestures: ['fist', 'palm'], pose: 'claw' }, { side: 'right' as const, picture: new Float64Array(0), gestures: [], pose: null }], strangers: 0, delayMs: 0, lookMs: 0, light: NaN };
  expect([handInWords(now, 'left'), handInWords(now, 'right'), handInWords({ ...now, hands: [] }, 'left')]).toEqual(['fist, palm, claw', 'there', 'not there']);
});
