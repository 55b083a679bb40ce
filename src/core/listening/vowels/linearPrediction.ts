/**
 * Linear prediction by autocorrelation and the recursion of Levinson and Durbin (Makhoul, "Linear prediction: a tutorial review", Proc.
 * IEEE 63, 1975): writes the polynomial 1 + a1 z^-1 + ... whose roots are the resonances. False where there is nothing to predict.
 */
export function predict(samples: Float64Array, order: number, polynomial: Float64Array, scratch: Float64Array): boolean {
  const correlation = scratch.subarray(0, order + 1);
  const before = scratch.subarray(order + 1, 2 * order + 2);
  for (let lag = 0; lag <= order; lag++) {
    let sum = 0;
    for (let i = lag; i < samples.length; i++) sum += samples[i]! * samples[i - lag]!;
    correlation[lag] = sum;
  }
  if (!(correlation[0]! > 1e-12)) return false;
  let error = correlation[0]! * (1 + 1e-9);
  polynomial.fill(0);
  polynomial[0] = 1;
  for (let i = 1; i <= order; i++) {
    let reflection = correlation[i]!;
    for (let j = 1; j < i; j++) reflection += polynomial[j]! * correlation[i - j]!;
    reflection = -reflection / error;
    before.set(polynomial);
    for (let j = 1; j < i; j++) polynomial[j] = before[j]! + reflection * before[i - j]!;
    polynomial[i] = reflection;
    error *= 1 - reflection * reflection;
    if (!(error > 0)) return false;
  }
  return true;
}

const ROUNDS = 60;
const SURE = 1e-9;

/**
 * All roots of a polynomial with real coefficients, the highest power first and 1, by Durand's and Kerner's method (all at once).
 * @param roots real and imaginary part in turn, written
 */
export function findRoots(polynomial: Float64Array, roots: Float64Array): void {
  const order = polynomial.length - 1;
  for (let i = 0; i < order; i++) {
    const angle = (2 * Math.PI * i) / order + 0.4;
    roots[2 * i] = 0.9 * Math.cos(angle);
    roots[2 * i + 1] = 0.9 * Math.sin(angle);
  }
  for (let round = 0; round < ROUNDS; round++) {
    let moved = 0;
    for (let i = 0; i < order; i++) {
      const [x, y] = [roots[2 * i]!, roots[2 * i + 1]!];
      let [re, im] = [1, 0];
      for (let k = 1; k <= order; k++) [re, im] = [re * x - im * y + polynomial[k]!, re * y + im * x];
      let [byRe, byIm] = [1, 0];
      for (let j = 0; j < order; j++) {
        if (j === i) continue;
        const [dx, dy] = [x - roots[2 * j]!, y - roots[2 * j + 1]!];
        [byRe, byIm] = [byRe * dx - byIm * dy, byRe * dy + byIm * dx];
      }
      const size = byRe * byRe + byIm * byIm;
      if (size === 0) continue;
      const [stepRe, stepIm] = [(re * byRe + im * byIm) / size, (im * byRe - re * byIm) / size];
      roots[2 * i]! -= stepRe;
      roots[2 * i + 1]! -= stepIm;
      moved = Math.max(moved, Math.abs(stepRe), Math.abs(stepIm));
    }
    if (moved < SURE) return;
  }
}
