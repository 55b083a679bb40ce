/** Four samples become one. */
export const DECIMATION = 4;
const TAPS = 40;

/** A low pass before it, a windowed sinc (Hamming). @param cutoff where it lets through half, as a share of the new half rate */
export function lowPass(cutoff: number): Float32Array {
  const share = cutoff / (2 * DECIMATION);
  const taps = Float32Array.from({ length: TAPS }, (_, i) => {
    const x = i - (TAPS - 1) / 2;
    const sinc = x === 0 ? 2 * share : Math.sin(2 * Math.PI * share * x) / (Math.PI * x);
    return sinc * (0.54 - 0.46 * Math.cos((2 * Math.PI * i) / (TAPS - 1)));
  });
  const gain = taps.reduce((sum, tap) => sum + tap, 0);
  return taps.map((tap) => tap / gain);
}

/** Every fourth of the newest samples, low-passed; `into` takes those that are new, the last of them the newest. */
export function decimate(newest: Float32Array, taps: Float32Array, into: Float32Array): void {
  for (let n = 0; n < into.length; n++) {
    const from = newest.length - DECIMATION * (into.length - 1 - n) - taps.length;
    let sum = 0;
    for (let i = 0; i < taps.length; i++) sum += taps[i]! * newest[from + i]!;
    into[n] = sum;
  }
}
