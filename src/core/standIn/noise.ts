/** Normal noise of variance 1, the same for the same seed (Box and Muller, 1958). */
export function seededNoise(seed: number): () => number {
  let state = seed >>> 0;
  const uniform = () => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) + 1) / 4294967297;
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}
