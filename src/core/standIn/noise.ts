/** Even chance in [0, 1), the same for the same seed. Constants: Numerical Recipes, "quick and dirty generators". */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296;
}

/** Normal noise of variance 1, the same for the same seed (Box and Muller, 1958). */
export function seededNoise(seed: number): () => number {
  const random = randomFrom(seed);
  return () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
