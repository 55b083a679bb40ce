/**
 * Movements that were taught by a few examples, found again in a stream of numbers, at other speeds and sizes.
 *
 * A movement is a path of up to three signals. The newest stretch of the stream is laid beside each example as dynamic time warping
 * does it (Sakoe and Chiba, "Dynamic programming algorithm optimization for spoken word recognition", IEEE ASSP 26, 1978: symmetric
 * steps, a band beside the diagonal), for several lengths of the stretch; both are moved to their middle and scaled to their size
 * before, so that only the shape counts. What is further away than the examples are from each other is none of it.
 */

/** A path has so many points, evenly in time. */
export const PATH_POINTS = 24;
export const MOST_SIGNALS = 3;
export const MOST_EXAMPLES = 6;
export const LEAST_EXAMPLES = 3;
/** One path: what it was drawn with, in shares of the range of each signal, point after point. */
export interface MovementExample {
  durationMs: number;
  /** PATH_POINTS times as many numbers as there are signals. */
  path: number[];
}

export const SHORTEST_MS = 120;
export const LONGEST_MS = 4000;
/** Stretches of the stream that are looked at, as shares of how long an example lasted. */
const LENGTHS = [0.5, 0.6, 0.72, 0.86, 1, 1.2, 1.45, 1.75, 2.1];
/** A path that is this many times as large or small is another movement. */
const SMALLER = 0.35;
const LARGER = 3;
/** So far beside the diagonal. */
const BAND = 5;
/** Sizes are looked at in shares of a range: what is smaller is a tremble. */
export const LEAST_SIZE = 0.03;
/** It is looked so often. */
const LOOK_MS = 20;
/** How far from an example a movement may be, by how far the examples are from each other, and within what limits. */
const REACH_TIMES = 1.5;
const REACH_LEAST = 0.4;
const REACH_MOST = 0.5;
/**
 * Examples go from rest to rest, and so does what comes again: for so long before and after, it goes no further than such a share of
 * its size. Its beginning and its end are known no better than the lengths that are looked at differ.
 */
const REST_MS = 80;
const REST_SHARE = 0.2;
const BEGINS_WITHIN = 0.13;
const ENDS_BEFORE = 0.05;
const ENDS_AFTER = 0.08;
/**
 * A finger that comes down elsewhere is no movement: a step so large, after nothing moved for so long. It is as if it had lain there
 * before.
 */
const LANDING = 0.06;
const LANDS_AFTER_MS = 250;
export const lands = (step: number, stillMs: number) => step > LANDING && stillMs > LANDS_AFTER_MS;
/** Numbers are kept at most so often. */
const KEPT_EVERY_MS = 8;

/** A path without its place and size: mean 0, mean square distance from it 1. Gives its size, the root of that. */
function normalise(path: Float64Array, signals: number): number {
  for (let s = 0; s < signals; s++) {
    let mean = 0;
    for (let i = s; i < path.length; i += signals) mean += path[i]!;
    mean /= PATH_POINTS;
    for (let i = s; i < path.length; i += signals) path[i] = path[i]! - mean;
  }
  let square = 0;
  for (const at of path) square += at * at;
  const size = Math.sqrt(square / PATH_POINTS);
  if (size > 0) for (let i = 0; i < path.length; i++) path[i] = path[i]! / size;
  return size;
}

/** How much the way counts on which a path goes, beside where it is. */
const WAY_WEIGHT = 0.7;

/**
 * What a path is known by, point after point: where it is and which way it goes there, both of mean square 1 (derivatives beside
 * positions: Keogh and Pazzani, "Derivative Dynamic Time Warping", SDM 2001). The path is normalised in place; gives its size.
 */
function describePath(path: Float64Array, signals: number, out: Float64Array): number {
  const size = normalise(path, signals);
  let square = 0;
  for (let i = 0; i < PATH_POINTS; i++) {
    const [before, after] = [Math.max(0, i - 1), Math.min(PATH_POINTS - 1, i + 1)];
    for (let s = 0; s < signals; s++) {
      const way = (path[after * signals + s]! - path[before * signals + s]!) / (after - before);
      out[2 * (i * signals + s)] = path[i * signals + s]!;
      out[2 * (i * signals + s) + 1] = way;
      square += way * way;
    }
  }
  const scale = square > 0 ? WAY_WEIGHT / Math.sqrt(square / PATH_POINTS) : 0;
  for (let i = 1; i < out.length; i += 2) out[i] = out[i]! * scale;
  return size;
}

const row = new Float64Array(PATH_POINTS + 1);
const next = new Float64Array(PATH_POINTS + 1);

/**
 * How far two described paths are from each other, by the root of the mean square distance along the best alignment.
 * @param width numbers a point
 * @param giveUp what is further away need not be known exactly
 */
export function warpedDistance(a: ArrayLike<number>, b: ArrayLike<number>, width: number, giveUp = Infinity): number {
  let [before, now] = [row, next];
  before.fill(Infinity);
  before[0] = 0;
  const limit = giveUp * giveUp * 2 * PATH_POINTS;
  for (let i = 1; i <= PATH_POINTS; i++) {
    now.fill(Infinity);
    let least = Infinity;
    for (let j = Math.max(1, i - BAND); j <= Math.min(PATH_POINTS, i + BAND); j++) {
      let square = 0;
      for (let k = 0; k < width; k++) square += (a[(i - 1) * width + k]! - b[(j - 1) * width + k]!) ** 2;
      // Symmetric: a step along the diagonal counts twice, so that every alignment weighs the same.
      now[j] = Math.min(before[j - 1]! + 2 * square, before[j]! + square, now[j - 1]! + square);
      if (now[j]! < least) least = now[j]!;
    }
    if (least > limit) return Infinity;
    [before, now] = [now, before];
  }
  return Math.sqrt(before[PATH_POINTS]! / (2 * PATH_POINTS));
}

/** The best fit so far of a movement that goes on. */
interface Fit {
  distance: number;
  strength: number;
  size: number;
  atMs: number;
  durationMs: number;
}

const NONE: Fit = { distance: Infinity, strength: 0, size: 0, atMs: -Infinity, durationMs: 0 };

interface Ready {
  durationMs: number;
  path: Float64Array;
  size: number;
}

/** A movement that was taught, ready to be found. */
export class Movement {
  readonly examples: readonly Ready[];
  /** What is further away is another movement. */
  readonly reach: number;

  constructor(
    examples: readonly MovementExample[],
    readonly signals: number,
  ) {
    this.examples = examples
      .filter(({ path, durationMs }) => path.length === signals * PATH_POINTS && durationMs >= SHORTEST_MS)
      .map(({ durationMs, path }) => {
        const own = new Float64Array(2 * path.length);
        return { durationMs, size: describePath(Float64Array.from(path), signals, own), path: own };
      });
    const nearest = this.examples.map((one) => Math.min(...this.examples.filter((other) => other !== one).map((other) => warpedDistance(one.path, other.path, 2 * signals))));
    this.reach = Math.min(REACH_MOST, Math.max(REACH_LEAST, REACH_TIMES * Math.max(0, ...nearest.filter(Number.isFinite))));
  }

  /** How far the movement is from another, in their reaches: below 1 they are taken for each other. */
  apartFrom(other: Movement): number {
    if (other.signals !== this.signals) return Infinity;
    return Math.min(...this.examples.flatMap((one) => other.examples.map((its) => warpedDistance(one.path, its.path, 2 * this.signals)))) / Math.max(this.reach, other.reach);
  }
}

/** Finds a movement in numbers as they come. */
export class MovementFinder {
  private readonly kept: Float64Array;
  private readonly timesMs: Float64Array;
  private count = 0;
  private readonly path: Float64Array;
  private readonly described: Float64Array;
  private lookedMs = -Infinity;
  private changedMs = NaN;
  private best = NONE;
  /** What was before belongs to a movement that was found. */
  private freshMs = -Infinity;

  constructor(private readonly movement: Movement) {
    const longest = Math.max(0, ...movement.examples.map(({ durationMs }) => durationMs)) * LENGTHS.at(-1)!;
    const capacity = Math.ceil((longest + 3 * REST_MS) / KEPT_EVERY_MS) + 4;
    this.kept = new Float64Array(capacity * movement.signals);
    this.timesMs = new Float64Array(capacity);
    this.path = new Float64Array(PATH_POINTS * movement.signals);
    this.described = new Float64Array(2 * this.path.length);
  }

  /**
   * Takes in where the signals are, in shares of their ranges.
   * @returns the strength of a movement that has just ended, above 0 up to 1: 0.5 where it was as large and as fast as it was taught; else 0
   */
  push(at: ArrayLike<number>, timeMs: number): number {
    const { movement } = this;
    if (movement.examples.length < LEAST_EXAMPLES) return 0;
    this.keep(at, timeMs);
    const { lookedMs } = this;
    if (timeMs - lookedMs < LOOK_MS) return 0;
    this.lookedMs = timeMs;
    // What lies still fits no better than it did.
    if (this.changedMs > lookedMs) this.look(timeMs);
    const found = this.best;
    if (timeMs - found.atMs < REST_MS) return 0;
    const rests = found.distance <= movement.reach && this.rests(found);
    if (rests || timeMs - found.atMs > REST_MS + ENDS_AFTER * found.durationMs) this.best = NONE;
    if (!rests) return 0;
    this.freshMs = found.atMs - 0.25 * found.durationMs;
    return found.strength;
  }

  /** Lays the newest stretch beside the examples; what fits better than anything before is kept. */
  private look(timeMs: number): void {
    const { movement, path, described } = this;
    for (const example of movement.examples) {
      for (const length of LENGTHS) {
        const durationMs = example.durationMs * length;
        if (timeMs - durationMs < this.freshMs || !this.stretch(timeMs, durationMs)) continue;
        const size = describePath(path, movement.signals, described);
        if (size < LEAST_SIZE || size < SMALLER * example.size || size > LARGER * example.size) continue;
        const distance = warpedDistance(described, example.path, 2 * movement.signals, movement.reach);
        if (distance >= this.best.distance) continue;
        const speed = size / durationMs / (example.size / example.durationMs);
        this.best = { distance, strength: Math.min(1, Math.max(0.05, speed / 2)), size, atMs: timeMs, durationMs };
      }
    }
  }

  /** Whether it was still before a movement, and is after it. */
  private rests({ atMs, durationMs, size }: Fit): boolean {
    const { kept, timesMs, movement: { signals } } = this;
    const capacity = timesMs.length;
    const apart = (a: number, b: number) => {
      let square = 0;
      for (let s = 0; s < signals; s++) square += (kept[a * signals + s]! - kept[b * signals + s]!) ** 2;
      return Math.sqrt(square);
    };
    const oldest = Math.max(0, this.count - capacity);
    const restsAt = (fromMs: number) => {
      if (fromMs < timesMs[oldest % capacity]!) return false;
      let last = -1;
      // From the newest back: what is older than the rest need not be looked at.
      for (let i = this.count - 1; i >= oldest && timesMs[i % capacity]! >= fromMs; i--) {
        const place = i % capacity;
        if (timesMs[place]! > fromMs + REST_MS) continue;
        if (last < 0) last = place;
        if (apart(last, place) > REST_SHARE * size) return false;
      }
      return true;
    };
    const restsWithin = (fromMs: number, toMs: number) => {
      for (let restMs = fromMs; restMs <= toMs; restMs += LOOK_MS) if (restsAt(restMs)) return true;
      return false;
    };
    const beganMs = atMs - durationMs;
    return restsWithin(atMs - ENDS_BEFORE * durationMs, this.lookedMs - REST_MS) && restsWithin(beganMs - BEGINS_WITHIN * durationMs - REST_MS, beganMs + BEGINS_WITHIN * durationMs - REST_MS);
  }

  private keep(at: ArrayLike<number>, timeMs: number): void {
    const { kept, timesMs, movement: { signals } } = this;
    const capacity = timesMs.length;
    const last = (this.count - 1 + capacity) % capacity;
    if (this.count > 0) {
      let square = 0;
      for (let s = 0; s < signals; s++) square += (at[s]! - kept[last * signals + s]!) ** 2;
      if (lands(Math.sqrt(square), timeMs - this.changedMs)) this.land(at, timeMs);
      if (square > 0) this.changedMs = timeMs;
    } else this.changedMs = timeMs;
    // What comes closely together replaces one another, so that the ring holds long enough.
    const place = this.count > 1 && timeMs - timesMs[(this.count - 2 + capacity) % capacity]! < KEPT_EVERY_MS ? (this.count - 1) % capacity : this.count++ % capacity;
    timesMs[place] = timeMs;
    for (let s = 0; s < signals; s++) kept[place * signals + s] = at[s]!;
  }

  /** It is as if everything had lain here for a while. */
  private land(at: ArrayLike<number>, timeMs: number): void {
    const { kept, timesMs, movement: { signals } } = this;
    this.best = NONE;
    this.freshMs = -Infinity;
    this.count = 2;
    for (const place of [0, 1]) {
      timesMs[place] = timeMs - (2 - place) * REST_MS;
      for (let s = 0; s < signals; s++) kept[place * signals + s] = at[s]!;
    }
  }

  /** Lays the newest stretch of so long into `path`; false where there is not so much, or hardly anything moved. */
  private stretch(timeMs: number, durationMs: number): boolean {
    const { kept, timesMs, path, count, movement: { signals } } = this;
    const capacity = timesMs.length;
    const oldest = Math.max(0, count - capacity);
    let at = count - 1;
    if (timesMs[oldest % capacity]! > timeMs - durationMs) return false;
    for (let i = PATH_POINTS - 1; i >= 0; i--) {
      const wantedMs = timeMs - durationMs * (1 - i / (PATH_POINTS - 1));
      while (at > oldest && timesMs[at % capacity]! > wantedMs) at--;
      const from = at % capacity;
      const to = Math.min(count - 1, at + 1) % capacity;
      const gapMs = timesMs[to]! - timesMs[from]!;
      const share = gapMs > 0 ? Math.min(1, Math.max(0, (wantedMs - timesMs[from]!) / gapMs)) : 0;
      for (let s = 0; s < signals; s++) path[i * signals + s] = kept[from * signals + s]! + share * (kept[to * signals + s]! - kept[from * signals + s]!);
    }
    return true;
  }
}
