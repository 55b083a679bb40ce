export type CurvePoint = [x: number, y: number];

const FEWEST_POINTS = 2;
export const MOST_POINTS = 16;

const inUnit = (x: number) => Math.min(1, Math.max(0, x));
const rounded = (x: number) => Math.round(x * 1000) / 1000;

/** A point moved as far as its neighbours let it; the first stays at x 0, the last of a curve through points at x 1. */
export function movePoint(points: readonly CurvePoint[], i: number, [x, y]: CurvePoint, lastAtEnd: boolean): CurvePoint[] {
  const low = points[i - 1]?.[0] ?? 0;
  const high = points[i + 1]?.[0] ?? 1;
  const fixed = i === 0 ? 0 : lastAtEnd && i === points.length - 1 ? 1 : null;
  return points.map((point, at) => (at === i ? [fixed ?? rounded(Math.min(high, Math.max(low, x))), rounded(inUnit(y))] : point));
}

/** A new point in its place; the same where there are as many as there may be. */
export function addPoint(points: readonly CurvePoint[], [x, y]: CurvePoint): CurvePoint[] {
  if (points.length >= MOST_POINTS) return [...points];
  const at = points.findIndex(([other]) => other > x);
  return [...points].toSpliced(at < 0 ? points.length : at, 0, [rounded(inUnit(x)), rounded(inUnit(y))]);
}

/** Without a point; the ends of a curve stay. */
export function removePoint(points: readonly CurvePoint[], i: number, lastAtEnd: boolean): CurvePoint[] {
  if (i === 0 || (lastAtEnd && i === points.length - 1) || points.length <= FEWEST_POINTS) return [...points];
  return points.filter((_, at) => at !== i);
}
