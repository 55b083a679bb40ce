import { VOWEL_FEATURES } from './vowelFeatures';

/** What is kept of a vowel that was taught: the middle of its examples. Plain data. */
export interface TaughtVowel {
  name: string;
  centre: number[];
  /** How many moments it was taught by. */
  count: number;
}

export interface TaughtVowels {
  vowels: TaughtVowel[];
  /** How far examples of one vowel lie apart, by coefficient. */
  spread: number[];
}

/** A vowel needs so many moments to be one. */
const LEAST_EXAMPLES = 8;
/** No coefficient is so sure that a hair's breadth counts, in dB. */
const LEAST_SPREAD = 2;

/** The middles of examples, and how far these lie apart in each direction over all vowels together. @param examples by name: features of moments */
export function teachVowels(examples: ReadonlyMap<string, readonly Float64Array[]>): TaughtVowels {
  const taught = [...examples].filter(([, moments]) => moments.length >= LEAST_EXAMPLES);
  const squares = new Float64Array(VOWEL_FEATURES);
  let all = 0;
  const vowels = taught.map(([name, moments]): TaughtVowel => {
    const centre = Array.from({ length: VOWEL_FEATURES }, (_, k) => moments.reduce((sum, features) => sum + features[k]!, 0) / moments.length);
    for (const features of moments) for (let k = 0; k < VOWEL_FEATURES; k++) squares[k]! += (features[k]! - centre[k]!) ** 2;
    all += moments.length;
    return { name, centre, count: moments.length };
  });
  return { vowels, spread: Array.from(squares, (square) => Math.max(LEAST_SPREAD, Math.sqrt(square / Math.max(1, all)))) };
}

/**
 * How much of each vowel there is in a moment, together 1, and which is nearest.
 * @param amounts one for each vowel, written
 */
export function vowelAmounts({ vowels, spread }: TaughtVowels, features: Float64Array, amounts: Float64Array): number {
  let nearest = 0;
  let least = Infinity;
  vowels.forEach(({ centre }, v) => {
    let square = 0;
    for (let k = 0; k < VOWEL_FEATURES; k++) square += ((features[k]! - centre[k]!) / spread[k]!) ** 2;
    amounts[v] = square;
    if (square < least) {
      least = square;
      nearest = v;
    }
  });
  let sum = 0;
  // The usual shape of a bell, its width that of the examples in so many directions.
  for (let v = 0; v < vowels.length; v++) sum += amounts[v] = Math.exp((least - amounts[v]!) / VOWEL_FEATURES);
  for (let v = 0; v < vowels.length; v++) amounts[v]! /= sum;
  return nearest;
}
