/** Below this kurtosis the noise has hard ends, as that of a scheduler has (a uniform one has 1.8, a normal one 3). */
const HARD_ENDS = 2.4;
/** So near lies the answer to that of least squares, in standard errors; and so often the place is narrowed by a third. */
const SEARCH_ERRORS = 6;
const NARROWED = 30;

/**
 * The period of events that should be even but come with some noise: the slope of the line through their times, in ms an
 * event. Least squares where the noise has tails; where it has hard ends, the middle of the narrowest strip that holds all
 * of them, whose error shrinks faster with their number (the slope of Chebyshev's fit).
 * @param timesMs at least two, rising
 */
export function periodOf(timesMs: readonly number[]): number {
  const n = timesMs.length;
  const middle = (n - 1) / 2;
  const mean = timesMs.reduce((sum, timeMs) => sum + timeMs, 0) / n;
  let over = 0;
  let square = 0;
  timesMs.forEach((timeMs, i) => {
    over += (i - middle) * (timeMs - mean);
    square += (i - middle) ** 2;
  });
  const periodMs = over / square;
  const rests = timesMs.map((timeMs, i) => timeMs - mean - periodMs * (i - middle));
  const variance = rests.reduce((sum, rest) => sum + rest * rest, 0) / n;
  const fourth = rests.reduce((sum, rest) => sum + rest ** 4, 0) / n;
  if (!(variance > 0) || fourth / variance ** 2 > HARD_ENDS) return periodMs;
  return periodMs + tiltOfNarrowest(rests, SEARCH_ERRORS * Math.sqrt(variance / square));
}

/** By how much more the narrowest strip is tilted; its width is a convex function of its tilt. */
function tiltOfNarrowest(rests: readonly number[], within: number): number {
  let low = -within;
  let high = within;
  for (let i = 0; i < NARROWED; i++) {
    const third = (high - low) / 3;
    if (widthAt(rests, low + third) < widthAt(rests, high - third)) high -= third;
    else low += third;
  }
  return (low + high) / 2;
}

function widthAt(rests: readonly number[], tilt: number): number {
  let least = Infinity;
  let most = -Infinity;
  rests.forEach((rest, i) => {
    const away = rest - tilt * i;
    least = Math.min(least, away);
    most = Math.max(most, away);
  });
  return most - least;
}
