import { HandsInput } from '../../../src/core/hands/handsInput';
import { INDEX_TIP, INDEX_KNUCKLE, LITTLE_KNUCKLE, MIDDLE_KNUCKLE, SIDES, type SeenHand } from '../../../src/core/hands/landmarks';
import { closure } from '../../../src/core/hands/measures';
import type { Looked } from './look';

const ASPECT = 4 / 3;
/** A clip is judged as if a camera had taken so many pictures a second. */
const FRAME_MS = 1000 / 15;

export interface Judgement {
  /** The share of hands that were found, of those that were drawn. */
  found: number;
  /** How far the index tip is from where it was drawn, in widths of the palm, p95. */
  tipP95: number;
  /** How much closure varies while a hand goes twice as far away, of its range. */
  closureVaries: number;
  /** How much signals move of a hand that is still, of their range, the most of all. */
  stillMoves: number;
  /** Gates by part of the clip, each with how often it began. */
  gates: Record<string, Record<string, number>>;
  /** The share of hands that were called by their right name by the finder alone. */
  named: number;
  /** Of the pictures in which hands cross, the share in which each hand that was told is where that one was drawn. */
  kept: number;
}

/** Compares what was found with what was drawn. */
export function judge(looked: readonly Looked[]): Judgement {
  let drawn = 0;
  let found = 0;
  let named = 0;
  const tips: number[] = [];
  for (const { truth, found: hands } of looked) {
    for (const { side, points } of truth) {
      drawn++;
      const hand = nearest(hands, points);
      if (!hand) continue;
      found++;
      if (hand.side === side) named++;
      tips.push(apart(hand.picture, 3 * INDEX_TIP, points, 2 * INDEX_TIP) / apart(points, 2 * INDEX_KNUCKLE, points, 2 * LITTLE_KNUCKLE));
    }
  }
  tips.sort((a, b) => a - b);
  const closures = looked.filter(({ part }) => part === 'leaving').flatMap(({ found: [hand] }) => (hand ? [closure(hand.world)] : []));
  const { gates, stillMoves, kept } = played(looked);
  return { found: found / drawn, named: named / Math.max(1, found), tipP95: tips[Math.floor(0.95 * tips.length)] ?? Infinity, closureVaries: Math.max(...closures) - Math.min(...closures), stillMoves, kept, gates };
}

function nearest(hands: readonly SeenHand[], points: readonly number[]): SeenHand | undefined {
  const palm = apart(points, 2 * INDEX_KNUCKLE, points, 2 * LITTLE_KNUCKLE);
  const near = hands.map((hand) => ({ hand, away: apart(hand.picture, 0, points, 0) })).sort((a, b) => a.away - b.away)[0];
  return near && near.away < 2 * palm ? near.hand : undefined;
}

/** In heights of the picture. */
const apart = (a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number) => Math.hypot((a[i]! - b[j]!) * ASPECT, a[i + 1]! - b[j + 1]!);

function played(looked: readonly Looked[]): Pick<Judgement, 'gates' | 'stillMoves' | 'kept'> {
  const gates: Judgement['gates'] = {};
  const still = new Map<string, number[]>();
  let right = 0;
  let crossing = 0;
  for (const part of new Set(looked.map((one) => one.part))) {
    const now = new Map<string, number>();
    // Each part is a performance of its own.
    const input = new HandsInput({ whenLost: 'hold', steady: true, poses: [] }, (values) => {
      for (const { key, value } of values) {
        now.set(key, value);
        if (part === 'still') still.set(key, [...(still.get(key) ?? []), value]);
        if (!/ (fist|open|pinch|thumb to \w+|palm|back|pointing|there)$/.test(key) || value === 0) continue;
        const here = (gates[part] ??= {});
        here[key] = (here[key] ?? 0) + 1;
      }
    });
    looked
      .filter((one) => one.part === part)
      .forEach(({ truth, found }, i) => {
        now.clear();
        input.push({ timeMs: i * FRAME_MS, aspect: ASPECT, hands: found });
        if (part !== 'crossing') return;
        crossing++;
        // In heights of the picture, upwards.
        const drawn = (side: string) => 1 - truth.find((one) => one.side === side)!.points[2 * MIDDLE_KNUCKLE + 1]!;
        if (SIDES.every((side) => !now.has(`${side} palm y`) || Math.abs(now.get(`${side} palm y`)! - drawn(side)) < 0.12)) right++;
      });
  }
  const ranges: Readonly<Record<string, number>> = { spread: 60, roll: 180, pitch: 180, facing: 2, size: 0.6 };
  const moves = [...still].filter(([key]) => !key.endsWith('there')).map(([key, values]) => {
    const settled = values.slice(values.length >> 1);
    return (Math.max(...settled) - Math.min(...settled)) / (ranges[key.replace(/^\w+ /, '')] ?? 1);
  });
  return { gates, stillMoves: Math.max(0, ...moves), kept: right / Math.max(1, crossing) };
}
