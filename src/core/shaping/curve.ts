import { clampUnit, type UnitInterval } from '../units/unitInterval';

/** Power: x^(2^k); k from -4 (quick start) to 4 (slow start), 0 is straight. */
export function powerCurve(x: UnitInterval, exponent: number): UnitInterval {
  return power(x, exponent);
}

/** The usual curves are squares and roots, which cost a tenth of a power; they differ from it by the last bit at most. */
function power(x: UnitInterval, exponent: number): UnitInterval {
  if (exponent === 2) return x * x;
  if (exponent === 0.5) return Math.sqrt(x);
  return Math.pow(x, exponent);
}

/**
 * S: slow at both ends and quick in the middle for an amount above 0, the other way round below it; 0 is straight.
 * It is the power curve with exponent 2^(2 amount) on each half, mirrored at the middle.
 */
export function sCurve(x: UnitInterval, exponent: number): UnitInterval {
  return x < 0.5 ? 0.5 * power(2 * x, exponent) : 1 - 0.5 * power(2 - 2 * x, exponent);
}

/** Numbers a segment of a points curve needs: x0, y0, slope there, and the two higher coefficients. */
export const SEGMENT = 5;

/**
 * Coefficients of the monotone cubic through points with rising x: between two points it never leaves their y, and it
 * rises where they rise. Source: Fritsch and Carlson, SIAM J. Numer. Anal. 17 (1980): tangents of at most three times the
 * secants beside them are enough for that (the square inside their region). Points at one x make a jump; beside it each
 * side is a curve of its own with a free end, whose tangent is its one secant, so that a straight line stays straight.
 * @param out receives SEGMENT numbers for each of the `points.length - 1` segments, from `at`
 */
export function monotoneSegments(points: readonly (readonly [number, number])[], out: Float64Array, at: number): void {
  const secants = points.slice(0, -1).map(([x, y], i) => (points[i + 1]![0] > x ? (points[i + 1]![1] - y) / (points[i + 1]![0] - x) : null));
  const tangents = points.map((_, i) => {
    const before = secants[i - 1] ?? secants[i] ?? 0;
    const after = secants[i] ?? before;
    if (Math.sign(before) !== Math.sign(after)) return 0;
    return Math.sign(before) * Math.min(Math.abs(before + after) / 2, 3 * Math.abs(before), 3 * Math.abs(after));
  });
  secants.forEach((secant, i) => {
    const [x0, y0] = points[i]!;
    const width = points[i + 1]![0] - x0;
    const slope = tangents[i]!;
    const next = tangents[i + 1]!;
    const square = secant === null ? 0 : (3 * secant - 2 * slope - next) / width;
    const cube = secant === null ? 0 : (slope + next - 2 * secant) / (width * width);
    out.set([x0, y0, secant === null ? 0 : slope, square, cube], at + i * SEGMENT);
  });
}

/** Value of a points curve of `segments` segments at `x`; before the first point it is the first y. */
export function pointsCurve(coefficients: Float64Array, at: number, segments: number, x: UnitInterval): UnitInterval {
  let i = at + (segments - 1) * SEGMENT;
  while (i > at && x < coefficients[i]!) i -= SEGMENT;
  const d = x - coefficients[i]!;
  if (d <= 0) return coefficients[i + 1]!;
  return clampUnit(coefficients[i + 1]! + d * (coefficients[i + 2]! + d * (coefficients[i + 3]! + d * coefficients[i + 4]!)));
}

/** Value of a stepped curve: the y of the last point at or before `x`. Points lie as x, y, x, y from `at`. */
export function steppedCurve(points: Float64Array, at: number, count: number, x: UnitInterval): UnitInterval {
  let i = at + (count - 1) * 2;
  while (i > at && x < points[i]!) i -= 2;
  return points[i + 1]!;
}
