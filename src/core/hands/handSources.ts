import type { SourceReport } from '../inputs/feed';
import { GESTURE_KEYS, GESTURES } from './gestures';
import { SIDES, type Side } from './landmarks';

/** What one hand says as numbers. */
export const HAND_SIGNALS = {
  'tip x': { name: 'Index tip across', unit: 'unit', range: [0, 1], rest: 0.5, pair: 'tip y' },
  'tip y': { name: 'Index tip height', unit: 'unit', range: [0, 1], rest: 0.5, pair: 'tip x' },
  'palm x': { name: 'Palm across', unit: 'unit', range: [0, 1], rest: 0.5, pair: 'palm y' },
  'palm y': { name: 'Palm height', unit: 'unit', range: [0, 1], rest: 0.5, pair: 'palm x' },
  closure: { name: 'Closure', unit: 'unit', range: [0, 1], rest: 0 },
  pinched: { name: 'Pinched', unit: 'unit', range: [0, 1], rest: 0 },
  spread: { name: 'Spread', unit: 'deg', range: [0, 60], rest: 20 },
  roll: { name: 'Roll', unit: 'deg', range: [-90, 90], rest: 0, period: 360 },
  pitch: { name: 'Pitch', unit: 'deg', range: [-90, 90], rest: 0 },
  facing: { name: 'Facing', unit: 'unit', range: [-1, 1], rest: 1 },
  size: { name: 'Nearness', unit: 'unit', range: [0, 0.6], rest: 0.2 },
} as const satisfies Record<string, Pick<SourceReport, 'name' | 'unit' | 'range' | 'rest' | 'period' | 'pair'>>;
export type HandSignal = keyof typeof HAND_SIGNALS;
export const HAND_SIGNAL_KEYS = Object.keys(HAND_SIGNALS) as HandSignal[];

/** What two hands say together: their distance in heights of the picture, the line from the left to the right one, and its middle. */
export const BOTH_SIGNALS = {
  distance: { name: 'Distance of the hands', unit: 'unit', range: [0, 1.5], rest: 0.5 },
  angle: { name: 'Angle of the hands', unit: 'deg', range: [-90, 90], rest: 0, period: 360 },
  'middle x': { name: 'Middle across', unit: 'unit', range: [0, 1], rest: 0.5, pair: 'middle y' },
  'middle y': { name: 'Middle height', unit: 'unit', range: [0, 1], rest: 0.5, pair: 'middle x' },
} as const satisfies Record<string, Pick<SourceReport, 'name' | 'unit' | 'range' | 'rest' | 'period' | 'pair'>>;
export type BothSignal = keyof typeof BOTH_SIGNALS;
export const BOTH_SIGNAL_KEYS = Object.keys(BOTH_SIGNALS) as BothSignal[];

const SIDE_NAMES: Readonly<Record<Side, string>> = { left: 'Left', right: 'Right' };
const BOTH = 'both';

export const handKey = (side: Side, what: string) => `${side} ${what}`;
export const bothKey = (what: BothSignal) => `${BOTH} ${what}`;
export const poseKey = (side: Side, pose: string) => `${side} pose ${pose}`;
/** The gate of a hand that is there. */
export const THERE = 'there';

/** All that hands before a camera say, with a gate for each shape that was taught, for each hand. */
export function handSources(poses: readonly string[]): SourceReport[] {
  return [...SIDES.flatMap((side) => ofHand(side, poses)), ...BOTH_SIGNAL_KEYS.map((key): SourceReport => ({ ...continuous(BOTH_SIGNALS[key], (pair) => bothKey(pair as BothSignal)), key: bothKey(key), group: 'Both hands' }))];
}

function ofHand(side: Side, poses: readonly string[]): SourceReport[] {
  const group = `${SIDE_NAMES[side]} hand`;
  const named = (name: string) => `${SIDE_NAMES[side]}: ${name.charAt(0).toLowerCase()}${name.slice(1)}`;
  const gate = (key: string, name: string): SourceReport => ({ key, name: named(name), kind: 'gate', unit: 'unit', range: [0, 1], group });
  return [
    ...HAND_SIGNAL_KEYS.map((key): SourceReport => {
      const source = continuous(HAND_SIGNALS[key], (pair) => handKey(side, pair));
      return { ...source, name: named(source.name), key: handKey(side, key), group };
    }),
    gate(handKey(side, THERE), 'Hand there'),
    ...GESTURE_KEYS.map((gesture) => gate(handKey(side, gesture), GESTURES[gesture])),
    ...poses.map((pose) => gate(poseKey(side, pose), `Pose ${pose}`)),
  ];
}

function continuous({ range: [lo, hi], ...source }: { name: string; unit: SourceReport['unit']; range: readonly [number, number]; pair?: string; rest?: number; period?: number }, pairKey: (pair: string) => string): Omit<SourceReport, 'key'> {
  return { ...source, kind: 'continuous', range: [lo, hi], ...(source.pair === undefined ? {} : { pair: pairKey(source.pair) }) };
}
