import type { TouchBehaviour } from '../rig/document';
import { clampUnit, type UnitInterval } from '../units/unitInterval';

/** What is remembered of one finger on one control. */
export interface Touch {
  /** The finger's place and the control's value when it touched, when the fine modifier last changed, or, until it has met the value, at its last move. */
  anchor: UnitInterval;
  anchorValue: UnitInterval;
  fine: boolean;
  /** It was fine once: from then on the way that the finger goes counts, not its place, or the value would jump there afterwards. */
  byWay: boolean;
  /** Soft takeover: whether the finger has met the value. */
  caught: boolean;
  /** Around a dial: where the finger was last. */
  place?: UnitInterval;
}

/** With the fine modifier the value goes an eighth of the way. */
export const FINE = 1 / 8;

/** A finger comes down at `finger` (its place along the travel) on a control that stands at `value`. */
export function beginTouch(behaviour: TouchBehaviour, finger: UnitInterval, value: UnitInterval): Touch {
  return { anchor: finger, anchorValue: value, fine: false, byWay: false, caught: behaviour.kind !== 'softTakeover' || finger === value };
}

/**
 * The value of the control with the finger at `finger`. Jump: the finger's place. Pick-up and relative: from the last value by the
 * distance moved, at the sensitivity; with pick-up a place of the finger means the same value on the way back, while relative turns
 * back at once where it came to an end. Soft takeover: nothing until the finger meets the value, then its place. Fine, and from then on
 * until the finger lifts, all of them go by the way of the finger. The touch is changed.
 * @param value where the control stands now
 */
export function touchValue(behaviour: TouchBehaviour, touch: Touch, finger: UnitInterval, value: UnitInterval, fine: boolean): UnitInterval {
  if (fine !== touch.fine) {
    touch.fine = fine;
    touch.byWay = true;
    anchorAt(touch, finger, value);
  }
  const byItsWay = (sensitivity: number) => touch.anchorValue + (finger - touch.anchor) * sensitivity * (fine ? FINE : 1);
  switch (behaviour.kind) {
    case 'jump':
      return touch.byWay ? clampUnit(byItsWay(1)) : finger;
    case 'pickUp':
      return clampUnit(byItsWay(behaviour.sensitivity));
    case 'relative': {
      const wished = byItsWay(behaviour.sensitivity);
      const next = clampUnit(wished);
      if (next !== wished) anchorAt(touch, finger, next);
      return next;
    }
    case 'softTakeover': {
      if (!touch.caught) {
        // Between its last place and this one it went over the value, wherever a scene or another hand has taken that meanwhile.
        touch.caught = (touch.anchor - value) * (finger - value) <= 0;
        anchorAt(touch, finger, value);
      }
      if (!touch.caught) return value;
      return touch.byWay ? clampUnit(byItsWay(1)) : finger;
    }
    default:
      return behaviour.kind satisfies never;
  }
}

function anchorAt(touch: Touch, finger: UnitInterval, value: UnitInterval): void {
  touch.anchor = finger;
  touch.anchorValue = value;
}
