import { expect, it } from 'vitest';
import { rateInWords } from './words';

it('says how often a signal comes, with a decimal below ten; of one that rests since when; of one that is not known nothing', () => {
  const said = (rateHz: number, lastHeardMsAgo: number | null) => rateInWords({ id: 'rope', rateHz, lastHeardMsAgo });
  expect([said(99.6, 3), said(9.96, 3), said(0.5, 3), said(0, 4200), said(0, 65_000), said(0, null), rateInWords(undefined)]).toEqual(['100/s', '10/s', '0.5/s', '4 s ago', '1 min ago', 'never', '']);
});
