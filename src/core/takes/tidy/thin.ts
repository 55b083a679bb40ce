import simplify from 'simplify-js';
import { LSB } from '../../midi/halves';
import { STATUS } from '../../midi/message';
import { beginsNote, statusOf } from '../notes';
import type { ScoreMessage } from '../score';
import { curvesOf, type CurvePoint } from './curves';

/** Curves keep only the points that matter. */
export interface Thin {
  kind: 'thin';
  /** How far a value may be from what it was, in steps of 7 bits; a bend, in cents. */
  tolerance: number;
  bendCents: number;
  /** `steps`: as a receiver hears it, which holds a value until the next. `lines`: for programs that draw lines between points. */
  as: 'steps' | 'lines';
}

export interface Thinned {
  messages: ScoreMessage[];
  leftOut: number;
  /** The largest difference from what was there, in steps of 7 bits; of bends, in cents. */
  largest: number;
  largestCents: number;
}

/** Half of all numbers that a bend can have: a full bend. */
const FULL_BEND = 8192;
/** Times are stretched so much that the distance of a point from a line is the difference in value at its time. */
const TIME_STRETCH = 1e4;
/** Longer curves are looked at in such lengths, whose ends stay. */
const LENGTH_MOST = 4096;

/**
 * For `lines` by Ramer-Douglas-Peucker (Ramer 1972; Douglas and Peucker 1973): the point furthest from the line between two that
 * stay stays too where it is further than the tolerance. For `steps` the first point that is further than the tolerance from the
 * one that is held: with a value that is held a line would not be what is heard. The first and the last point always stay, and
 * so does what is said together with the beginning of a note on its channel.
 */
export function thin(messages: readonly ScoreMessage[], { tolerance, bendCents, as }: Thin, bendSemitonesOf: (output: string) => number): Thinned {
  const instead = new Map<number, ScoreMessage[]>();
  let largest = 0;
  let largestCents = 0;
  const momentOf = ({ source, bytes, atMs }: ScoreMessage) => `${source.output} ${bytes[0]! & 0x0f} ${atMs}`;
  const begins = new Set(messages.filter(beginsNote).map(momentOf));
  for (const curve of curvesOf(messages)) {
    const { points } = curve;
    const first = messages[points[0]!.from[0]!]!;
    const isBend = statusOf(first) === STATUS.pitchBend;
    // How many numbers of the curve make one step, or one cent.
    const unit = isBend ? FULL_BEND / (100 * Math.max(0.01, bendSemitonesOf(first.source.output))) : (curve.most + 1) / 128;
    const most = (isBend ? bendCents : tolerance) * unit;
    const isPair = points.some(({ from }) => statusOf(messages[from[0]!]!) === STATUS.controlChange) && curve.most > 127;
    const stays = points.map(({ from }) => begins.has(momentOf(messages[from[0]!]!)));
    stays[0] = stays[points.length - 1] = true;
    if (as === 'lines') linesThrough(points, most, stays);
    else stepsThrough(points, most, stays);
    const difference = largestDifference(points, stays, as) / unit;
    if (isBend) largestCents = Math.max(largestCents, difference);
    else largest = Math.max(largest, difference);
    points.forEach(({ from, value }, i) => {
      if (stays[i] && !isPair) return;
      for (const at of from) instead.set(at, []);
      // The upper half may have been left out where it was the same as before: now it is said again.
      if (stays[i]) instead.set(from[0]!, bothHalves(messages[from[0]!]!, value));
    });
  }
  const kept = messages.flatMap((message, i) => instead.get(i) ?? [message]);
  return { messages: kept, leftOut: messages.length - kept.length, largest, largestCents };
}

function bothHalves({ atMs, source, bytes }: ScoreMessage, value: number): ScoreMessage[] {
  const controller = bytes[1]! % LSB;
  return [Uint8Array.of(bytes[0]!, controller, value >> 7), Uint8Array.of(bytes[0]!, controller + LSB, value & 0x7f)].map((half) => ({ atMs, source, bytes: half }));
}

function stepsThrough(points: readonly CurvePoint[], tolerance: number, stays: boolean[]): void {
  let held = NaN;
  points.forEach(({ value }, i) => {
    if (!(Math.abs(value - held) <= tolerance)) stays[i] = true;
    if (stays[i]) held = value;
  });
}

/** Between points that stay already. */
function linesThrough(points: readonly CurvePoint[], tolerance: number, stays: boolean[]): void {
  const plane = points.map(({ atMs, value }, i) => ({ x: atMs * TIME_STRETCH, y: value, i }));
  for (let from = 0; from < points.length - 1; ) {
    let to = from + 1;
    while (!stays[to] && to - from < LENGTH_MOST) to++;
    for (const point of simplify(plane.slice(from, to + 1), tolerance, true) as typeof plane) stays[point.i] = true;
    from = to;
  }
}

/** What is furthest from what was there, of what is heard or drawn without the points that go. */
function largestDifference(points: readonly CurvePoint[], stays: readonly boolean[], as: Thin['as']): number {
  let largest = 0;
  let before = 0;
  let after = 0;
  points.forEach(({ atMs, value }, i) => {
    if (stays[i]) {
      before = i;
      after = Math.max(after, i + 1);
      while (after < points.length && !stays[after]) after++;
      return;
    }
    const [a, b] = [points[before]!, points[after]!];
    const there = as === 'steps' || b.atMs === a.atMs ? a.value : a.value + ((atMs - a.atMs) / (b.atMs - a.atMs)) * (b.value - a.value);
    largest = Math.max(largest, Math.abs(value - there));
  });
  return largest;
}
