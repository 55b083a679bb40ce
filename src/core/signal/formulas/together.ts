import { list, type Shape } from '../../messages/shapes';
import type { DerivedState, FormulaKind, Interval, Sources } from './kind';
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

/** The turn that all of them share, where all are angles. */
const oneTurn = (turns: readonly number[]): number => (turns.every((turn) => turn === turns[0]) ? (turns[0] ?? 0) : 0);
/** The turn that those share that are angles: an angle with something added to it is one. */
const turnOfAngles = (turns: readonly number[]): number => oneTurn(turns.filter((turn) => turn > 0));

/** An angle that can lie anywhere is said about `middle`: a sum from 0 to 360 degrees, a difference from -180 to 180. */
function roundTheCircle([lo, hi]: [number, number], turn: number, middle: number): [number, number] {
  return turn > 0 && hi - lo >= turn ? [middle - turn / 2, middle + turn / 2] : [lo, hi];
}

interface Joining<Op extends TogetherOp> {
  name: string;
  words: (names: readonly string[]) => string;
  turn?: (turns: readonly number[]) => number;
  /** From the ranges of the sources, and its full turn where it is an angle. */
  range: (ranges: readonly Interval[], turn: number) => [number, number];
  /** One more value joins those before it. */
  join: (result: number, value: number) => number;
  op: Op;
}

function together<Op extends TogetherOp>({ op, name, words, turn, range, join }: Joining<Op>): FormulaKind<Together<Op>> {
  return {
    name,
    fields: { of: list(signalId, 1, MOST_SOURCES) },
    movesByItself: false,
    restsCount: true,
    // A product of lengths is no length.
    ...(op === 'product' ? { unit: () => 'unit' as const } : {}),
    ...(turn ? { turn: (_: Together<Op>, turns: readonly number[]) => turn(turns) } : {}),
    range: ({ of }, rangeOf, full) => range(of.map(rangeOf), full),
    words: ({ of }, nameOf) => words(of.map(nameOf)),
    fresh: ({ take }) => ({ op, of: take(2) }),
    value(_, sources, state, values) {
      if (op !== 'average') return joined(sources, values, join);
      return sources.turn > 0 ? meanAngle(sources, state, values) : joined(sources, values, join) / sources.sources.length;
    },
  };
}

/** One that was never heard lies at its rest, as a fader does that nobody touched. */
function valueOf({ sources, rests }: Sources, i: number, values: Float64Array): number {
  const known = values[sources[i]!]!;
  return Number.isNaN(known) ? rests[i]! : known;
}

function wasHeard({ sources }: Sources, values: Float64Array): boolean {
  for (let i = 0; i < sources.length; i++) if (!Number.isNaN(values[sources[i]!]!)) return true;
  return false;
}

/** NaN before any was heard. */
function joined(of: Sources, values: Float64Array, join: (result: number, value: number) => number): number {
  if (!wasHeard(of, values)) return NaN;
  let result = valueOf(of, 0, values);
  for (let i = 1; i < of.sources.length; i++) result = join(result, valueOf(of, i, values));
  return result;
}

/** Angles whose arrows add up to less than this say no direction. */
const NO_WAY = 1e-9;

/**
 * The direction of the arrows of all angles laid end to end (mean direction: Mardia and Jupp, Directional Statistics, 2000, 2.2): 0 for 350 and 10
 * degrees. Where they add up to nothing, as 0 and 180 do, it stays where it was; at first that is where the first source is.
 */
function meanAngle(of: Sources, state: DerivedState, values: Float64Array): number {
  if (!wasHeard(of, values)) return NaN;
  const perRadian = of.turn / (2 * Math.PI);
  let [x, y] = [0, 0];
  for (let i = 0; i < of.sources.length; i++) {
    const angle = valueOf(of, i, values) / perRadian;
    x += Math.cos(angle);
    y += Math.sin(angle);
  }
  if (Math.hypot(x, y) > NO_WAY) state.y = Math.atan2(y, x) * perRadian;
  else if (Number.isNaN(state.y)) state.y = valueOf(of, 0, values);
  return state.y;
}

export const sum = together({
  op: 'sum',
  name: 'Sum',
  words: (names) => names.join(' + '),
  turn: turnOfAngles,
  range: (ranges, turn) => roundTheCircle(ranges.reduce<[number, number]>(([lo, hi], [a, b]) => [lo + a, hi + b], [0, 0]), turn, turn / 2),
  join: (result, value) => result + value,
});

export const difference = together({
  op: 'difference',
  name: 'Difference',
  words: (names) => names.join(' − '),
  turn: turnOfAngles,
  range: ([first, ...others], turn) => roundTheCircle(others.reduce<[number, number]>(([lo, hi], [a, b]) => [lo - b, hi - a], [first![0], first![1]]), turn, 0),
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
  turn: oneTurn,
  range: (ranges) => [mean(ranges.map(([lo]) => lo)), mean(ranges.map(([, hi]) => hi))],
  join: (result, value) => result + value,
});
