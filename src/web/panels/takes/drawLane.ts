import { placeOf, type CurveLane, type NoteLane } from '../../../core/takes/lanes';
import type { Drawing } from '../../pictures/drawing';
import type { SignalLane } from './takeMessages';
import type { TimeView } from './timeView';

const MARGIN_PX = 3;
const THINNEST_PX = 1.5;
const THICKEST_PX = 5;
/** So many semitones are always shown. */
const LEAST_SPAN = 8;

/** How high and low a lane of notes goes, bends in it. */
export function spanOf({ movePitch }: NoteLane): [low: number, high: number] {
  let [low, high] = [Infinity, -Infinity];
  for (const pitch of movePitch) {
    if (pitch < low) low = pitch;
    if (pitch > high) high = pitch;
  }
  if (!(high >= low)) return [60 - LEAST_SPAN / 2, 60 + LEAST_SPAN / 2];
  const missing = Math.max(0, LEAST_SPAN - (high - low)) / 2;
  return [low - missing - 0.5, high + missing + 0.5];
}

/** Notes as they sound: their height is their pitch with every bend, their thickness how hard they were struck or are pressed. */
export function drawNotes({ context, height }: Drawing, lane: NoteLane, [low, high]: readonly [number, number], view: TimeView, colour: string, width: number): void {
  const { fromMs, toMs, moves, moveMs, movePitch, movePressure, strike } = lane;
  const y = (pitch: number) => MARGIN_PX + ((high - pitch) / (high - low)) * (height - 2 * MARGIN_PX);
  context.strokeStyle = context.fillStyle = colour;
  context.lineCap = 'round';
  for (let i = 0; i < fromMs.length && fromMs[i]! <= view.toMs; i++) {
    if (toMs[i]! < view.fromMs) continue;
    const [x0, x1] = [Math.max(-9, view.placeOf(fromMs[i]!)), Math.min(width + 9, view.placeOf(toMs[i]!))];
    const [first, last] = [moves[i]!, moves[i + 1]!];
    const thickness = (force: number) => THINNEST_PX + (force / 127) * (THICKEST_PX - THINNEST_PX);
    if (last - first === 1) {
      const thick = thickness(Math.max(strike[i]!, movePressure[first]!));
      context.fillRect(x0, y(movePitch[first]!) - thick / 2, Math.max(1.5, x1 - x0), thick);
      continue;
    }
    // A pixel has one place however many moves there are in it.
    let place = Math.max(first, placeOf(moveMs.subarray(first, last), view.fromMs) + first - 1);
    let [x, at] = [x0, y(movePitch[place]!)];
    for (place++; place <= last; place++) {
      const next = place < last ? view.placeOf(moveMs[place]!) : x1;
      if (place < last && next - x < 1) {
        at = y(movePitch[place]!);
        continue;
      }
      context.lineWidth = thickness(Math.max(0.5 * strike[i]!, movePressure[place - 1]!));
      context.beginPath();
      context.moveTo(x, at);
      const to = y(movePitch[Math.min(place, last - 1)]!);
      context.lineTo(Math.min(next, x1), place < last ? to : at);
      context.stroke();
      [x, at] = [next, to];
      if (next > width) break;
    }
  }
}

/** A curve as its receiver holds it. Where many values fall on one pixel it is as high as they all. */
export function drawCurve({ context, width, height }: Drawing, { atMs, value }: Pick<CurveLane | SignalLane, 'atMs' | 'value'>, [low, high]: readonly [number, number], view: TimeView, colour: string): void {
  const y = (of: number) => MARGIN_PX + (1 - (of - low) / (high - low || 1)) * (height - 2 * MARGIN_PX);
  context.strokeStyle = colour;
  context.lineWidth = 1.5;
  context.beginPath();
  let i = placeOf(atMs, view.fromMs);
  let held = i > 0 ? y(value[i - 1]!) : NaN;
  if (!Number.isNaN(held)) context.moveTo(0, held);
  while (i < atMs.length && atMs[i]! <= view.toMs) {
    const x = Math.floor(view.placeOf(atMs[i]!));
    const end = placeOfFrom(atMs, view.timeAt(x + 1), i);
    let [least, most] = [value[i]!, value[i]!];
    const last = value[end - 1]!;
    // Of very many in one pixel some are enough.
    const stride = Math.max(1, Math.floor((end - i) / 64));
    for (; i < end; i += stride) {
      const of = value[i]!;
      if (of < least) least = of;
      if (of > most) most = of;
    }
    i = end;
    if (Number.isNaN(held)) context.moveTo(x, y(least));
    else context.lineTo(x, held);
    context.lineTo(x, y(least));
    if (most !== least) context.lineTo(x, y(most));
    held = y(last);
    context.lineTo(x, held);
  }
  if (!Number.isNaN(held)) context.lineTo(Math.min(width, view.placeOf(view.lengthMs)), held);
  context.stroke();
}

/** The same as `placeOf`, from a place on; at least one further. */
function placeOfFrom(timesMs: Float64Array, atMs: number, from: number): number {
  let lo = from + 1;
  let hi = Math.min(timesMs.length, lo + 1);
  while (hi < timesMs.length && timesMs[hi]! < atMs) {
    lo = hi;
    hi = Math.min(timesMs.length, hi + 2 * (hi - from));
  }
  while (lo < hi) {
    const middle = (lo + hi) >> 1;
    if (timesMs[middle]! < atMs) lo = middle + 1;
    else hi = middle;
  }
  return lo;
}

/** Steps of the ruler, in ms. */
const STEPS_MS = [1, 5, 10, 50, 100, 500, 1000, 5000, 10_000, 30_000, 60_000, 300_000, 600_000, 3_600_000];
const STEP_PX = 90;

/** Where the ruler has lines, for a width in pixels. */
export function rulerOf(view: TimeView): { atMs: number; stepMs: number }[] {
  const stepMs = STEPS_MS.find((step) => step / view.msPerPx >= STEP_PX) ?? STEPS_MS.at(-1)!;
  const lines: { atMs: number; stepMs: number }[] = [];
  for (let atMs = Math.ceil(view.fromMs / stepMs) * stepMs; atMs <= view.toMs; atMs += stepMs) lines.push({ atMs, stepMs });
  return lines;
}
