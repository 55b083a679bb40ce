import { lands, LEAST_SIZE, LONGEST_MS, PATH_POINTS, SHORTEST_MS, type MovementExample } from './movement';

/** It has begun once it went so far from where it lay, and is over once it went no further than this for so long. In shares of a range. */
const BEGINS = 0.03;
const RESTS = 0.012;
const REST_MS = 280;

interface Moment {
  timeMs: number;
  at: number[];
}

/** Cuts examples of a movement out of numbers as they come: each from one rest to the next. */
export class MovementTaker {
  private moments: Moment[] = [];
  private began = false;
  private changedMs = NaN;

  /**
   * @param at where the signals are, in shares of their ranges
   * @returns an example that has just ended; `'too long'` where it went on for more than 4 s; else null
   */
  push(at: readonly number[], timeMs: number): MovementExample | 'too long' | null {
    const last = this.moments.at(-1);
    const step = last ? apart(at, last.at) : 0;
    // A finger that comes down elsewhere has drawn nothing on its way.
    if (lands(step, timeMs - this.changedMs)) {
      this.moments = [];
      this.began = false;
    }
    if (step > 0 || !last) this.changedMs = timeMs;
    this.moments.push({ timeMs, at: [...at] });
    const first = this.moments[0]!;
    if (!this.began) {
      this.began = apart(at, first.at) > BEGINS;
      // Only the newest rest is of the movement.
      if (!this.began) while (this.moments.length > 2 && timeMs - this.moments[1]!.timeMs > REST_MS) this.moments.shift();
      return null;
    }
    return this.isAtRest(timeMs) ? this.end() : null;
  }

  /** No number came for a while: what lies still says nothing. */
  wait(timeMs: number): MovementExample | 'too long' | null {
    const last = this.moments.at(-1);
    return last && timeMs > last.timeMs ? this.push(last.at, timeMs) : null;
  }

  private isAtRest(timeMs: number): boolean {
    const { moments } = this;
    const last = moments.at(-1)!;
    for (let i = moments.length - 1; i >= 0; i--) {
      if (apart(moments[i]!.at, last.at) > RESTS) return false;
      if (timeMs - moments[i]!.timeMs >= REST_MS) return true;
    }
    return false;
  }

  private end(): MovementExample | 'too long' | null {
    const { moments } = this;
    const [first, last] = [moments[0]!, moments.at(-1)!];
    this.began = false;
    this.moments = [last];
    let from = 0;
    while (from < moments.length - 1 && apart(moments[from + 1]!.at, first.at) <= RESTS) from++;
    let to = moments.length - 1;
    while (to > from && apart(moments[to - 1]!.at, last.at) <= RESTS) to--;
    const durationMs = moments[to]!.timeMs - moments[from]!.timeMs;
    if (durationMs > LONGEST_MS) return 'too long';
    if (durationMs < SHORTEST_MS) return null;
    const path = evenly(moments.slice(from, to + 1), durationMs);
    return sizeOf(path, first.at.length) >= LEAST_SIZE ? { durationMs, path } : null;
  }
}

function evenly(moments: readonly Moment[], durationMs: number): number[] {
  const path: number[] = [];
  let k = 0;
  for (let i = 0; i < PATH_POINTS; i++) {
    const wantedMs = moments[0]!.timeMs + (durationMs * i) / (PATH_POINTS - 1);
    while (k < moments.length - 2 && moments[k + 1]!.timeMs < wantedMs) k++;
    const [a, b] = [moments[k]!, moments[Math.min(k + 1, moments.length - 1)]!];
    const share = b.timeMs > a.timeMs ? Math.min(1, Math.max(0, (wantedMs - a.timeMs) / (b.timeMs - a.timeMs))) : 0;
    a.at.forEach((from, s) => path.push(from + share * (b.at[s]! - from)));
  }
  return path;
}

function sizeOf(path: readonly number[], signals: number): number {
  let square = 0;
  for (let s = 0; s < signals; s++) {
    const own = path.filter((_, i) => i % signals === s);
    const mean = own.reduce((sum, at) => sum + at, 0) / own.length;
    for (const at of own) square += (at - mean) ** 2;
  }
  return Math.sqrt(square / PATH_POINTS);
}

const apart = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((at, s) => at - b[s]!));
