import { list, type Shape } from '../../messages/shapes';
import type { FormulaKind, Interval, Sources } from './kind';
import { listed } from './kind';

type TogetherOp = 'sum' | 'difference' | 'product' | 'minimum' | 'maximum' | 'average';

/** Several signals put together into one. */
export interface Together<Op extends TogetherOp = TogetherOp> {
  op: Op;
  of: string[];
}

export const MOST_SOURCES = 64;
export const signalId: Shape = { is: 'id', of: 'signal' };

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
const span = (values: readonly number[]): [number, number] => [Math.min(...values), Math.max(...values)];

interface Joining<Op extends TogetherOp> {
  name: string;
  words: (names: readonly string[]) => string;
  /** From the ranges of the sources. */
  range: (ranges: readonly Interval[]) => [number, number];
  /** One more value joins those before it. */
  join: (result: number, value: number) => number;
  op: Op;
}

function together<Op extends TogetherOp>({ op, name, words, range, join }: Joining<Op>): FormulaKind<Together<Op>> {
  return {
    name,
    fields: { of: list(signalId, 1, MOST_SOURCES) },
    movesByItself: false,
    restsCount: true,
    // A product of lengths is no length.
    ...(op === 'product' ? { unit: () => 'unit' as const } : {}),
    range: ({ of }, rangeOf) => range(of.map(rangeOf)),
    words: ({ of }, nameOf) => words(of.map(nameOf)),
    fresh: ({ take }) => ({ op, of: take(2) }),
    value(_, sources, __, values) {
      const result = joined(sources, values, join);
      return op === 'average' ? result / sources.sources.length : result;
    },
  };
}

/** One that was never heard lies at its rest, as a fader does that nobody touched; NaN before any was heard. */
function joined({ sources, rests }: Sources, values: Float64Array, join: (result: number, value: number) => number): number {
  let result = NaN;
  let heard = false;
  for (let i = 0; i < sources.length; i++) {
    const known = values[sources[i]!]!;
    heard ||= !Number.isNaN(known);
    const value = Number.isNaN(known) ? rests[i]! : known;
    result = i === 0 ? value : join(result, value);
  }
  return heard ? result : NaN;
}

export const sum = together({
  op: 'sum',
  name: 'Sum',
  words: (names) => names.join(' + '),
  range: (ranges) => ranges.reduce<[number, number]>(([lo, hi], [a, b]) => [lo + a, hi + b], [0, 0]),
  join: (result, value) => result + value,
});

export const difference = together({
  op: 'difference',
  name: 'Difference',
  words: (names) => names.join(' − '),
  range: ([first, ...others]) => others.reduce<[number, number]>(([lo, hi], [a, b]) => [lo - b, hi - a], [first![0], first![1]]),
  join: (result, value) => result - value,
});

export const product = together({
  op: 'product',
  name: 'Product',
  words: (names) => names.join(' × '),
  range: (ranges) => ranges.reduce<[number, number]>(([lo, hi], [a, b]) => span([lo * a, lo * b, hi * a, hi * b]), [1, 1]),
  join: (result, value) => result * value,
});

export const minimum = together({
  op: 'minimum',
  name: 'Lowest',
  words: (names) => `the lowest of ${listed(names)}`,
  range: (ranges) => [Math.min(...ranges.map(([lo]) => lo)), Math.min(...ranges.map(([, hi]) => hi))],
  join: Math.min,
});

export const maximum = together({
  op: 'maximum',
  name: 'Highest',
  words: (names) => `the highest of ${listed(names)}`,
  range: (ranges) => [Math.max(...ranges.map(([lo]) => lo)), Math.max(...ranges.map(([, hi]) => hi))],
  join: Math.max,
});

export const average = together({
  op: 'average',
  name: 'Average',
  words: (names) => `the average of ${listed(names)}`,
  range: (ranges) => [mean(ranges.map(([lo]) => lo)), mean(ranges.map(([, hi]) => hi))],
  join: (result, value) => result + value,
});
