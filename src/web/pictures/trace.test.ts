import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { SlotsById } from '../live/slots';
import { Trace, TRACE_MS } from './trace';

let values: SlotsById<number>;
let moves: boolean[];
const follow = (trace = new Trace()) => {
  trace.follow(values, 'rope', (moved) => moves.push(moved));
  return trace;
};
const seen = (trace: Trace) => [...trace.since(performance.now())];

beforeEach(() => {
  vi.useFakeTimers();
  values = new SlotsById(() => undefined);
  moves = [];
});
afterEach(() => vi.useRealTimers());

it('shows what is told first as what stood there all the while: nothing moves in it', () => {
  const trace = follow();
  values.set('rope', 0.4);
  expect(moves).toEqual([false]);
  expect(seen(trace)).toEqual([[-Infinity, 0.4]]);
});

it('begins with the first value where there was none before', () => {
  const trace = follow();
  values.silent.add('rope');
  values.set('rope', 0.4);
  expect(moves).toEqual([true]);
  expect(seen(trace)).toEqual([[performance.now(), 0.4]]);
});

it('moves with another value, not with the same told again', () => {
  follow();
  for (const value of [0.4, 0.4, 0.5, 0.5]) values.set('rope', value);
  expect(moves).toEqual([false, false, true, false]);
});

it('shows at once what is kept up for another picture, and not what may be old', () => {
  values.set('rope', 0.4);
  expect(seen(follow())).toEqual([]);
  values.set('rope', 0.6);
  expect(seen(follow())).toEqual([[-Infinity, 0.6]]);
});

it('shows what is younger than the trace, and the one before it, from which its line comes', () => {
  const trace = follow();
  const startMs = performance.now();
  for (const value of [0.1, 0.2, 0.3]) {
    values.set('rope', value);
    vi.advanceTimersByTime(TRACE_MS / 2);
  }
  vi.advanceTimersByTime(1);
  expect(seen(trace)).toEqual([[startMs + TRACE_MS / 2, 0.2], [startMs + TRACE_MS, 0.3]]);
});
