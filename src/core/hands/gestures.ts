import { MeasureGate, type GateRule } from './gate';
import { FOUR, facing, meanReach, reach, thumbTo } from './measures';
import type { Side } from './landmarks';

/** What a hand can do that is a gate, by the key of its source. */
export const GESTURES = { fist: 'Fist', open: 'Open', pinch: 'Pinch', 'thumb to middle': 'Thumb to middle finger', 'thumb to ring': 'Thumb to ring finger', 'thumb to little': 'Thumb to little finger', palm: 'Palm shown', back: 'Back shown', pointing: 'Pointing' } as const;
export type Gesture = keyof typeof GESTURES;
export const GESTURE_KEYS = Object.keys(GESTURES) as Gesture[];

const LEAST_MS = 40;
/** A palm that turns is long on edge. */
const TURN_LEAST_MS = 80;
const below = (on: number, off: number): GateRule => ({ on, off, leastMs: LEAST_MS });
const TOUCH = below(0.37, 0.48);
/** Half as wide as `facing` is measured about 0. */
const TURN_BAND = 0.19;

/**
 * The limits were found on hands before a camera and on rendered ones: a fist reaches 0.8 palms and an open hand 1.8; what touches
 * lies under 0.3 palms.
 */
const RULES: Record<Gesture, GateRule> = {
  fist: below(1.1, 1.3),
  open: { on: 1.6, off: 1.45, leastMs: LEAST_MS },
  pinch: TOUCH,
  'thumb to middle': TOUCH,
  'thumb to ring': TOUCH,
  'thumb to little': TOUCH,
  palm: { on: TURN_BAND, off: -TURN_BAND, leastMs: TURN_LEAST_MS },
  back: { on: TURN_BAND, off: -TURN_BAND, leastMs: TURN_LEAST_MS },
  pointing: { on: 0, off: -0.1, leastMs: TURN_LEAST_MS },
};

/** Who points stretches the index finger so far, and no other further than this. */
const POINTS_FROM = 1.5;
const CURLED_TO = 1.2;
/** Closed fingers lie near the thumb without touching it on purpose. */
const NO_TOUCH_BELOW = 1.2;
const TOUCHES = { pinch: 'index', 'thumb to middle': 'middle', 'thumb to ring': 'ring', 'thumb to little': 'little' } as const;

/** The gestures of one hand, picture by picture. */
export class Gestures {
  private readonly gates = Object.fromEntries(GESTURE_KEYS.map((gesture) => [gesture, new MeasureGate(RULES[gesture])])) as Record<Gesture, MeasureGate>;

  /** Looks at the points of the hand; `isOn` says what it does now. */
  look(world: ArrayLike<number>, side: Side, timeMs: number): void {
    const { gates } = this;
    const reaches = meanReach(world);
    // A stretched finger is no fist, however closed the others are.
    gates.fist.look(Math.max(...FOUR.map((finger) => reach(world, finger))) > POINTS_FROM ? Infinity : reaches, timeMs);
    gates.open.look(reaches, timeMs);
    const turned = facing(world, side);
    gates.palm.look(turned, timeMs);
    gates.back.look(-turned, timeMs);
    const others = Math.max(reach(world, 'middle'), reach(world, 'ring'), reach(world, 'little'));
    gates.pointing.look(Math.min(reach(world, 'index') - POINTS_FROM, CURLED_TO - others), timeMs);
    const near = FOUR.map((finger) => thumbTo(world, finger));
    const nearest = FOUR[near.indexOf(Math.min(...near))];
    for (const [gesture, finger] of Object.entries(TOUCHES) as [keyof typeof TOUCHES, (typeof FOUR)[number]][]) {
      const mayTouch = gates[gesture].isOn || (finger === nearest && reaches > NO_TOUCH_BELOW && !gates.fist.isOn);
      gates[gesture].look(mayTouch ? near[FOUR.indexOf(finger)]! : Infinity, timeMs);
    }
  }

  isOn(gesture: Gesture): boolean {
    return this.gates[gesture].isOn;
  }

  /** The hand is gone: it does nothing. */
  drop(): void {
    for (const gate of Object.values(this.gates)) gate.drop();
  }
}
