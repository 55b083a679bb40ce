import type { Amount, Formula } from '../rig/document';

type Interval = readonly [lo: number, hi: number];

/**
 * The range in which a formula can lie where its sources keep to theirs, by interval arithmetic; for speed, full ways of
 * the source in a second either way, which is what quick gestures reach (common practice).
 * @param rangeOf nominal range of a signal, in its unit
 */
export function formulaRange(formula: Formula, rangeOf: (signal: string) => Interval): [lo: number, hi: number] {
  const ordered = (signal: string): Interval => {
    const [a, b] = rangeOf(signal);
    return [Math.min(a, b), Math.max(a, b)];
  };
  const amount = (value: Amount): Interval => (typeof value === 'number' ? [value, value] : ordered(value.signal));
  switch (formula.op) {
    case 'sum':
      return formula.of.map(ordered).reduce<[number, number]>(([lo, hi], [a, b]) => [lo + a, hi + b], [0, 0]);
    case 'difference': {
      const [first, ...others] = formula.of.map(ordered);
      return others.reduce<[number, number]>(([lo, hi], [a, b]) => [lo - b, hi - a], [first![0], first![1]]);
    }
    case 'product':
      return formula.of.map(ordered).reduce<[number, number]>(([lo, hi], [a, b]) => span([lo * a, lo * b, hi * a, hi * b]), [1, 1]);
    case 'minimum':
    case 'maximum': {
      const pick = formula.op === 'minimum' ? Math.min : Math.max;
      const ranges = formula.of.map(ordered);
      return [pick(...ranges.map(([lo]) => lo)), pick(...ranges.map(([, hi]) => hi))];
    }
    case 'average': {
      const ranges = formula.of.map(ordered);
      const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
      return [mean(ranges.map(([lo]) => lo)), mean(ranges.map(([, hi]) => hi))];
    }
    case 'distance': {
      const apart = formula.from.map((id, axis) => {
        const [[a, b], [c, d]] = [ordered(id), ordered(formula.to[axis]!)];
        return Math.max(Math.abs(b - c), Math.abs(d - a));
      });
      return [0, Math.hypot(...apart)];
    }
    case 'magnitude':
      return [0, Math.hypot(...formula.of.map((id) => Math.max(...ordered(id).map(Math.abs))))];
    case 'tilt':
      return formula.axis === 'pitch' ? [-90, 90] : [-180, 180];
    case 'speed': {
      const [lo, hi] = ordered(formula.of);
      return [lo - hi, hi - lo];
    }
    case 'accumulate':
      return [formula.lo, formula.hi];
    case 'envelope':
    case 'hold':
      return [...ordered(formula.of)];
    case 'oscillator': {
      const deepest = Math.max(...amount(formula.depth).map(Math.abs));
      return [-deepest, deepest];
    }
    case 'constant':
      return formula.value < 0 ? [formula.value, 0] : [0, formula.value || 1];
    default:
      return formula satisfies never;
  }
}

const span = (values: readonly number[]): [number, number] => [Math.min(...values), Math.max(...values)];
