import { expect, it } from 'vitest';
import { BIN_ENDS_MS } from '../protocol/delays';
import { DelayBook } from './delayBook';

it('gives median, 99 of 100 and worst, and where the time went, of all, of an output, of a mapping', () => {
  const book = new DelayBook();
  // 1 to 200 ms hundredths apart, by two outputs in turn; of mapping 7 every tenth.
  for (let i = 1; i <= 200; i++) book.add(1000, i % 2, i % 10 === 0 ? 7 : -1, i / 10, 0.5, i / 20);
  expect(book.report(1000, {})).toMatchObject({ count: 200, p50Ms: expect.closeTo(10.1, 5) as number, p99Ms: expect.closeTo(19.9, 5) as number, worstMs: 20 });
  expect(book.report(1000, { output: 1 })).toMatchObject({ count: 100, worstMs: expect.closeTo(19.9, 5) as number });
  expect(book.report(1000, { mapping: 7 })).toMatchObject({ count: 20, page: 0.5, line: expect.closeTo(5.5, 5) as number, hub: expect.closeTo(5, 5) as number });
  const { bins } = book.report(1000, {});
  expect(bins.reduce((sum, one) => sum + one, 0)).toBe(200);
  // Below half a millisecond: 0.1 to 0.4; in the column from 10 to 15: 10.0 to 14.9.
  expect([bins[0], bins[BIN_ENDS_MS.indexOf(15)]]).toEqual([4, 50]);
});

it('forgets what is older than a minute, and the oldest of very much', () => {
  const book = new DelayBook();
  book.add(0, 0, -1, 99, 0, 0);
  book.add(50_000, 0, -1, 1, 0, 0);
  expect(book.report(60_001, {})).toMatchObject({ count: 1, worstMs: 1 });
  for (let i = 0; i < 40_000; i++) book.add(60_002, 0, -1, 2, 0, 0);
  expect(book.report(60_002, {})).toMatchObject({ count: 32_768, worstMs: 2 });
  expect(new DelayBook().report(0, {})).toMatchObject({ count: 0, p50Ms: null, page: null });
});
