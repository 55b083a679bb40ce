/*
 * The normalised square difference of a signal and itself a lag before, anchored at its newest sample (McLeod and Wyvill, "A smarter
 * way to find pitch", ICMC 2005, equation 9): 2 * sum(x y) / sum(x^2 + y^2). 1: the same again, 0: nothing alike.
 */

/** By count: the energy of so many of the newest samples. */
export function sumEnergies(samples: Float32Array, into: Float64Array): void {
  const end = samples.length;
  let sum = 0;
  into[0] = 0;
  for (let i = 1; i < into.length && i <= end; i++) {
    const sample = samples[end - i]!;
    sum += sample * sample;
    into[i] = sum;
  }
}

/** Where a parabola through three neighbours is highest, from -0.5 to 0.5 beside the middle one. */
export function vertex(left: number, middle: number, right: number): number {
  const bend = left - 2 * middle + right;
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (left - right) / (2 * bend))) : 0;
}
