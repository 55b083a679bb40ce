/** The longest median. */
export const MEDIAN_MOST = 7;
/** Slots a median needs: how many values came, and the last of them. */
export const MEDIAN_SLOTS = 1 + MEDIAN_MOST;

const sorted = new Float64Array(MEDIAN_MOST);

/**
 * The median of the last `size` values (3, 5 or 7; of as many as came, in the beginning). Its memory lies at
 * `state[at]` and the slots after it; a count of 0 is empty.
 */
export function median(state: Float64Array, at: number, x: number, size: number): number {
  const count = state[at]!;
  state[at + 1 + (count % size)] = x;
  state[at] = count + 1;
  const filled = Math.min(count + 1, size);
  for (let i = 0; i < filled; i++) {
    const value = state[at + 1 + i]!;
    let j = i;
    while (j > 0 && sorted[j - 1]! > value) {
      sorted[j] = sorted[j - 1]!;
      j--;
    }
    sorted[j] = value;
  }
  return sorted[(filled - 1) >> 1]!;
}
