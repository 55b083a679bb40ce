import { MeasureGate } from './gate';
import { GESTURE_KEYS, Gestures } from './gestures';
import { BOTH_SIGNALS, BOTH_SIGNAL_KEYS, bothKey, HAND_SIGNALS, HAND_SIGNAL_KEYS, handKey, poseKey, THERE, type BothSignal, type HandSignal } from './handSources';
import { COORDINATES, SIDES, type HandsFrame, type SeenHand, type Side } from './landmarks';
import { closure, facing, palmPlace, palmSize, pinch, pitchDeg, rollDeg, spreadDeg, tipPlace, type Place } from './measures';
import { PoseBook, poseFeatures, type TaughtPose } from './poses';
import { SteadyHand } from './steady';
import { Tracks } from './tracks';

/** What becomes of the numbers of a hand that is lost: they stay where they are, or go back to rest. */
export type WhenLost = 'hold' | 'rest';

/** How hands are understood. Plain data, kept. */
export interface HandsSettings {
  whenLost: WhenLost;
  /** Whether its signals are made steady. */
  steady: boolean;
  poses: readonly TaughtPose[];
}

export interface HandValue {
  key: string;
  value: number;
}

/** What one hand does now, for the page that shows it. */
export interface HandNow {
  side: Side;
  hand: SeenHand;
  gestures: string[];
  pose: string | null;
}

/** A shape counts once it was seen so long, and is over once it was not. */
const POSE_RULE = { on: 0.5, off: 0.5, leastMs: 80 } as const;

/**
 * Hands as an input of the rig: what is seen picture by picture, as values by source. Live, from a stand-in and in a test it is the
 * same. Gates are told when they change, other numbers with every picture of their hand.
 */
export class HandsInput {
  private tracks = new Tracks();
  private readonly hands: Record<Side, HandReader>;
  private bothThere = false;

  constructor(
    private settings: HandsSettings,
    private readonly tell: (values: readonly HandValue[]) => void,
  ) {
    const book = new PoseBook(settings.poses);
    this.hands = { left: new HandReader('left', book, settings.poses), right: new HandReader('right', book, settings.poses) };
  }

  /** From now on understands otherwise. Shapes that are not taught any more are over. */
  set(settings: HandsSettings): void {
    if (settings.poses !== this.settings.poses) {
      const book = new PoseBook(settings.poses);
      const over: HandValue[] = [];
      for (const side of SIDES) this.hands[side].teach(book, settings.poses, over);
      if (over.length > 0) this.tell(over);
    }
    this.settings = settings;
  }

  /** How many hands of the newest picture are somebody else's. */
  get strangers(): number {
    return this.tracks.strangers;
  }

  /** Takes in what was seen in one picture. A hand of which any point is missing or no number is not there. */
  push(frame: HandsFrame): void {
    const whole = frame.hands.filter(({ picture, world }) => [picture, world].every((points) => points.length === COORDINATES && points.every(Number.isFinite)));
    this.tracks.push({ ...frame, hands: whole });
    const values: HandValue[] = [];
    for (const side of SIDES) {
      const track = this.tracks[side];
      if (track.hand) this.hands[side].see(track.hand, frame.aspect, frame.timeMs, this.settings.steady, values);
      else if (!track.isThere(frame.timeMs)) this.lose(side, values);
    }
    this.sayBoth(frame.aspect, values);
    if (values.length > 0) this.tell(values);
  }

  /** No picture came: what was not seen for long is lost. */
  wait(timeMs: number): void {
    const values: HandValue[] = [];
    for (const side of SIDES) if (!this.tracks[side].isThere(timeMs)) this.lose(side, values);
    if (values.length > 0) this.tell(values);
  }

  /** Nobody looks any more; who comes later may be anybody. */
  stop(): void {
    this.wait(Infinity);
    this.tracks = new Tracks();
  }

  /** What each hand does that is there. */
  now(): HandNow[] {
    return SIDES.flatMap((side) => this.hands[side].now ?? []);
  }

  private lose(side: Side, values: HandValue[]): void {
    if (!this.hands[side].lose(this.settings.whenLost, values)) return;
    this.tracks[side].lose();
    if (this.bothThere && this.settings.whenLost === 'rest') for (const key of BOTH_SIGNAL_KEYS) values.push({ key: bothKey(key), value: BOTH_SIGNALS[key].rest });
    this.bothThere = false;
  }

  private sayBoth(aspect: number, values: HandValue[]): void {
    if (!this.tracks.left.hand || !this.tracks.right.hand) return;
    this.bothThere = true;
    const of = together(palmPlace(this.hands.left.now!.hand), palmPlace(this.hands.right.now!.hand), aspect);
    for (const key of BOTH_SIGNAL_KEYS) values.push({ key: bothKey(key), value: of[key] });
  }
}

function together(left: Place, right: Place, aspect: number): Record<BothSignal, number> {
  const across = (right.x - left.x) * aspect;
  const up = right.y - left.y;
  return { distance: Math.hypot(across, up), angle: (Math.atan2(up, across) * 180) / Math.PI, 'middle x': (left.x + right.x) / 2, 'middle y': (left.y + right.y) / 2 };
}

/** One hand of the performer: its numbers, its gestures, the shapes it was taught. */
class HandReader {
  now: HandNow | null = null;
  private readonly steady = new SteadyHand();
  private readonly gestures = new Gestures();
  private poseGates: Map<string, MeasureGate>;
  /** The gates that are on, by key. */
  private readonly on = new Set<string>();

  constructor(
    private readonly side: Side,
    private book: PoseBook,
    poses: readonly TaughtPose[],
  ) {
    this.poseGates = gatesOf(poses);
  }

  teach(book: PoseBook, poses: readonly TaughtPose[], over: HandValue[]): void {
    this.book = book;
    for (const name of this.poseGates.keys()) this.set(poseKey(this.side, name), false, over);
    this.poseGates = gatesOf(poses);
  }

  see(seen: SeenHand, aspect: number, timeMs: number, isSteady: boolean, values: HandValue[]): void {
    const { side, gestures, poseGates } = this;
    const { world } = seen;
    const calm = this.steady.push(seen, timeMs);
    const of = measured(isSteady ? calm : seen, side, aspect);
    // Points that all lie in one place have no angles.
    for (const key of HAND_SIGNAL_KEYS) if (Number.isFinite(of[key])) values.push({ key: handKey(side, key), value: of[key] });
    this.set(handKey(side, THERE), true, values);
    // Gates have limits of their own against a tremble, and would only come later.
    gestures.look(world, side, timeMs);
    for (const gesture of GESTURE_KEYS) this.set(handKey(side, gesture), gestures.isOn(gesture), values);
    const pose = this.book.isEmpty ? null : this.book.know(Float64Array.from(poseFeatures(world, side)));
    for (const [name, gate] of poseGates) this.set(poseKey(side, name), gate.look(name === pose ? 1 : 0, timeMs), values);
    this.now = { side, hand: isSteady ? calm : seen, gestures: GESTURE_KEYS.filter((gesture) => gestures.isOn(gesture)), pose: [...poseGates].find(([, gate]) => gate.isOn)?.[0] ?? null };
  }

  /** False where it was not there. */
  lose(whenLost: WhenLost, values: HandValue[]): boolean {
    if (!this.now) return false;
    this.now = null;
    this.gestures.drop();
    for (const gate of this.poseGates.values()) gate.drop();
    for (const key of [...this.on]) this.set(key, false, values);
    if (whenLost === 'rest') for (const key of HAND_SIGNAL_KEYS) values.push({ key: handKey(this.side, key), value: HAND_SIGNALS[key].rest });
    return true;
  }

  private set(key: string, isOn: boolean, values: HandValue[]): void {
    if (this.on.has(key) === isOn) return;
    if (isOn) this.on.add(key);
    else this.on.delete(key);
    values.push({ key, value: isOn ? 1 : 0 });
  }
}

const gatesOf = (poses: readonly TaughtPose[]) => new Map(poses.map(({ name }) => [name, new MeasureGate(POSE_RULE)]));

function measured(hand: SeenHand, side: Side, aspect: number): Record<HandSignal, number> {
  const tip = tipPlace(hand);
  const palm = palmPlace(hand);
  const { world } = hand;
  return { 'tip x': tip.x, 'tip y': tip.y, 'palm x': palm.x, 'palm y': palm.y, closure: closure(world), pinched: pinch(world), spread: spreadDeg(world), roll: rollDeg(world), pitch: pitchDeg(world), facing: facing(world, side), size: palmSize(hand, aspect) };
}
