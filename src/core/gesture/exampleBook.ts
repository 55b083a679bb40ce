/** Something that was taught by examples, each its features. Plain data. */
export interface Taught {
  name: string;
  examples: number[][];
}

/** How far something may lie from the examples and still be one of theirs, as a share of how far those lie apart. */
const REJECT_FROM = 1.5;
const REJECT_SHARE = 0.95;
/** Among so many examples one that lies so many times further away than is usual is none. */
const STRAYS_AMONG = 5;
const STRAY_TIMES = 3;
const EXAMPLES_LEAST = 2;

interface Ready {
  name: string;
  examples: Float64Array[];
  /** What is further away than this is another sound. */
  reach: number;
}

/** What was taught can be told apart: by the nearest of all examples, and none where even that is far away. */
export class ExampleBook {
  private readonly ready: Ready[];
  /** By feature: how much examples of one thing vary in it, over all things together. */
  private readonly spread: Float64Array;
  private readonly scaled: Float64Array;

  /** @param leastSpread examples that are all the same say nothing of how unlike another may be: no feature varies by less */
  constructor(taught: readonly Taught[], leastSpread: number) {
    const enough = taught.filter(({ examples }) => examples.length >= EXAMPLES_LEAST).map(({ name, examples }) => ({ name, examples: withoutStrays(examples) }));
    this.spread = spreadOf(enough, leastSpread);
    this.scaled = new Float64Array(this.spread.length);
    this.ready = enough.map(({ name, examples }) => {
      const features = examples.map((example) => Float64Array.from(example, (feature, i) => feature / this.spread[i]!));
      return { name, examples: features, reach: REJECT_FROM * Math.max(Math.sqrt(this.spread.length), reachOf(features)) };
    });
  }

  get isEmpty(): boolean {
    return this.ready.length === 0;
  }

  /** What features are of; null where they are of none. */
  know(features: Float64Array): string | null {
    const { scaled, spread } = this;
    for (let i = 0; i < scaled.length; i++) scaled[i] = features[i]! / spread[i]!;
    let nearest: Ready | null = null;
    let least = Infinity;
    for (const one of this.ready) {
      for (const example of one.examples) {
        const distance = apart(scaled, example);
        if (distance >= least) continue;
        least = distance;
        nearest = one;
      }
    }
    return nearest && least <= nearest.reach ? nearest.name : null;
  }

  /** By pair: how near the nearest examples of both lie, in reaches; below 1 they are taken for each other. */
  likeness(): { one: string; other: string; apart: number }[] {
    return this.ready.flatMap((one, i) =>
      this.ready.slice(i + 1).map((other) => {
        const nearest = Math.min(...one.examples.flatMap((a) => other.examples.map((b) => apart(a, b))));
        return { one: one.name, other: other.name, apart: nearest / Math.max(one.reach, other.reach) };
      }),
    );
  }
}

/** Examples without those that lie far from all others: a cough, a chair, a hand on its way. A few are too few to tell. */
function withoutStrays(examples: readonly number[][]): number[][] {
  if (examples.length < STRAYS_AMONG) return [...examples];
  const nearest = examples.map((example) => Math.min(...examples.filter((other) => other !== example).map((other) => apart(example, other))));
  const middle = [...nearest].sort((a, b) => a - b)[nearest.length >> 1]!;
  return examples.filter((_, i) => nearest[i]! <= STRAY_TIMES * middle);
}

function spreadOf(taught: readonly Taught[], leastSpread: number): Float64Array {
  const length = taught[0]?.examples[0]?.length ?? 0;
  const squares = new Float64Array(length);
  let count = 0;
  for (const { examples } of taught) {
    for (let i = 0; i < length; i++) {
      const mean = examples.reduce((sum, example) => sum + example[i]!, 0) / examples.length;
      for (const example of examples) squares[i]! += (example[i]! - mean) ** 2;
    }
    count += examples.length - 1;
  }
  return squares.map((square) => Math.max(leastSpread, Math.sqrt(square / Math.max(1, count))));
}

/** Within this share of the examples, each has another at most so far away. */
function reachOf(examples: readonly Float64Array[]): number {
  const nearest = examples.map((example) => Math.min(...examples.filter((other) => other !== example).map((other) => apart(example, other)))).sort((a, b) => a - b);
  return nearest[Math.min(nearest.length - 1, Math.floor(REJECT_SHARE * nearest.length))]!;
}

function apart(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let square = 0;
  for (let i = 0; i < a.length; i++) square += (a[i]! - b[i]!) ** 2;
  return Math.sqrt(square);
}
