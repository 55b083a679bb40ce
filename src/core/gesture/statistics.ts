/**
 * The value below which the share `p` of the sorted numbers lies, straight between two of them (type 7 of Hyndman and
 * Fan, "Sample quantiles in statistical packages", 1996). NaN where there are none.
 */
export function percentile(sorted: ArrayLike<number>, p: number): number {
  if (sorted.length === 0) return NaN;
  const place = p * (sorted.length - 1);
  const below = Math.floor(place);
  const above = Math.min(below + 1, sorted.length - 1);
  return sorted[below]! + (place - below) * (sorted[above]! - sorted[below]!);
}

/** From the median of absolute values to the standard deviation of normal noise: 1 / (75 % point of the normal). */
const NORMAL_FROM_MEDIAN = 1.4826;
/** The second difference a - 2b + c of independent noise has six times its variance (1 + 4 + 1). */
const SECOND_DIFFERENCE = Math.sqrt(6);

/**
 * Standard deviation of the noise on a moving signal, in its unit. A movement is nearly straight over three samples, so
 * what second differences hold is noise; their median ignores the few that are not. 0 for fewer than three values.
 */
export function noiseOf(values: ArrayLike<number>): number {
  const bends: number[] = [];
  for (let i = 2; i < values.length; i++) bends.push(Math.abs(values[i]! - 2 * values[i - 1]! + values[i - 2]!));
  if (bends.length === 0) return 0;
  return (NORMAL_FROM_MEDIAN * percentile(bends.sort((a, b) => a - b), 0.5)) / SECOND_DIFFERENCE;
}
