import { expect, it } from 'vitest';
import { noneInWords, rateInWords } from './words';

it('says how often a signal comes, with a decimal below ten; of one that rests since when; of one that is not known nothing', () => {
  const said = (rateHz: number, lastHeardMsAgo: number | null) => rateInWords({ id: 'rope', rateHz, lastHeardMsAgo });
  expect([said(99.6, 3), said(9.96, 3), said(0.5, 3), said(0, 4200), said(0, 65_000), said(0, null), rateInWords(undefined)]).toEqual(['100/s', '10/s', '0.5/s', '4 s ago', '1 min ago', 'never', '']);
});

it('says of an input that shows no signal whether they are hidden, and else what to do', () => {
  expect([noneInWords(1, true), noneInWords(3, false)]).toEqual(['Its one signal is hidden.', 'All 3 of its signals are hidden.']);
  expect([noneInWords(0, true), noneInWords(0, false)]).toEqual(['No signals yet: each comes as soon as it is moved.', 'No signals yet. Switch on “Listen for new” and move it.']);
});
