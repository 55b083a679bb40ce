import { beginTouch, touchValue, type Touch } from '../surface/touchBehaviour';
import { clampUnit } from '../units/unitInterval';
import type { PointerTaking } from '../inputs/kinds/computer';

/** A pointer that goes so far, in CSS pixels, takes a value through its whole range. */
export const TRAVEL_PX = 400;
/** And so far to the side lies the next lane. */
export const LANE_PX = 120;
/** A wheel that is turned so far goes through its range: twelve notches of a usual mouse. */
const WHEEL_TRAVEL_PX = 1200;
/** A lane is left for the next only this far beyond its edge, in lanes: a hand that goes up is never quite straight. */
const LANE_EDGE = 0.2;

export const POINTER_BUTTONS = ['left', 'middle', 'right'] as const;

export const laneKey = (lane: number) => `lane ${lane + 1}`;
export const buttonKey = (button: (typeof POINTER_BUTTONS)[number]) => `button ${button}`;

/** What a pointer says that is taken over: by source key, values in 0..1. */
export type Said = { key: string; value: number };

/** What comes back over the line has fewer digits. */
const SAME = 1e-6;
/** Of what was said so many may be on their way back. */
const ON_WAY_MOST = 256;

const MET: { kind: 'softTakeover'; sensitivity: number } = { kind: 'softTakeover', sensitivity: 1 };

/**
 * A mouse or touchpad that moves values instead of the arrow on the screen: it says only how far it goes. As lanes, one of
 * several values side by side is in hand, the one the pointer is over; a button that is held keeps it, as a finger does.
 * As x and y, both move. `relative`: a value goes on from where it stands; `pickUp`: it follows once the pointer met it.
 */
export class TakenPointer {
  /** Where the pointer is, 0..1, upward. */
  x = 0.5;
  y = 0.5;
  /** The lane that is in hand, from 0. */
  lane: number;
  private readonly values = new Map<string, number>();
  /** By key: what was said and has not come back. */
  private readonly onWay = new Map<string, number[]>();
  private readonly touches = new Map<string, Touch>();
  private readonly held = new Set<number>();

  /** @param known what a source said last, undefined for nothing yet */
  constructor(
    readonly taking: PointerTaking,
    known: (key: string) => number | undefined,
  ) {
    this.lane = Math.floor(taking.lanes / 2);
    for (const key of levelsOf(taking)) this.values.set(key, clampUnit(known(key) ?? (key.startsWith('pointer') ? 0.5 : 0)));
    if (taking.as === 'lanes') this.x = (this.lane + 0.5) / taking.lanes;
    this.meet();
  }

  value(key: string): number {
    return this.values.get(key) ?? 0;
  }

  /** Whether the pointer moves this value now; false until it met it. */
  isInHand(key: string): boolean {
    return this.taking.how === 'relative' || (this.touches.get(key)?.caught ?? false);
  }

  /** A level is there now: it came back, or a scene or somebody else moved it, and then it goes on from there and is met anew. */
  heard(key: string, value: number): void {
    if (!this.values.has(key)) return;
    const onWay = this.onWay.get(key) ?? [];
    const place = onWay.findIndex((said) => Math.abs(said - value) < SAME);
    if (place >= 0) return void onWay.splice(0, place + 1);
    this.onWay.delete(key);
    this.values.set(key, clampUnit(value));
    if (this.touches.has(key)) this.meet();
  }

  /** @param dxPx to the right @param dyPx downward, as browsers count */
  move(dxPx: number, dyPx: number): Said[] {
    const { as, lanes } = this.taking;
    this.y = clampUnit(this.y - dyPx / TRAVEL_PX);
    if (as === 'xy') {
      this.x = clampUnit(this.x + dxPx / TRAVEL_PX);
      return [...this.follow('pointer x', this.x, dxPx / TRAVEL_PX), ...this.follow('pointer y', this.y, -dyPx / TRAVEL_PX)];
    }
    if (this.held.size === 0) {
      this.x = clampUnit(this.x + dxPx / (LANE_PX * lanes));
      const place = this.x * lanes;
      if (place < this.lane - LANE_EDGE || place > this.lane + 1 + LANE_EDGE || this.x === 0 || this.x === 1) this.enter(Math.min(lanes - 1, Math.floor(place)));
    }
    return this.follow(laneKey(this.lane), this.y, -dyPx / TRAVEL_PX);
  }

  press(button: number): Said[] {
    this.held.add(button);
    return this.gate(button, 1);
  }

  release(button: number): Said[] {
    return this.held.delete(button) ? this.gate(button, 0) : [];
  }

  /** @param dyPx downward, as browsers count */
  wheel(dyPx: number): Said[] {
    return this.put('wheel', clampUnit(this.value('wheel') - dyPx / WHEEL_TRAVEL_PX));
  }

  /** The pointer is given back: what it holds is let go. */
  end(): Said[] {
    return [...this.held].flatMap((button) => this.release(button));
  }

  private enter(lane: number): void {
    if (lane === this.lane) return;
    this.lane = lane;
    this.meet();
  }

  /** What is in hand now waits to be met from where the pointer is. */
  private meet(): void {
    this.touches.clear();
    const places: [string, number][] = this.taking.as === 'lanes' ? [[laneKey(this.lane), this.y]] : [['pointer x', this.x], ['pointer y', this.y]];
    for (const [key, at] of places) this.touches.set(key, beginTouch(MET, at, this.value(key)));
  }

  private follow(key: string, at: number, by: number): Said[] {
    const value = this.value(key);
    return this.put(key, this.taking.how === 'relative' ? clampUnit(value + by) : touchValue(MET, this.touches.get(key)!, at, value, false));
  }

  private gate(button: number, value: number): Said[] {
    const name = POINTER_BUTTONS[button];
    return name === undefined ? [] : [{ key: buttonKey(name), value }];
  }

  private put(key: string, value: number): Said[] {
    if (value === this.value(key)) return [];
    this.values.set(key, value);
    const onWay = this.onWay.get(key) ?? [];
    this.onWay.set(key, onWay);
    onWay.push(value);
    if (onWay.length > ON_WAY_MOST) onWay.shift();
    return [{ key, value }];
  }
}

/** The keys of what a pointer moves that is taken over so. */
export function levelsOf({ as, lanes }: PointerTaking): string[] {
  return [...(as === 'lanes' ? Array.from({ length: lanes }, (_, lane) => laneKey(lane)) : ['pointer x', 'pointer y']), 'wheel'];
}
