import type { TouchBehaviour } from '../rig/document';
import { clampUnit, type UnitInterval } from '../units/unitInterval';

/** What is remembered of one finger on one control. */
export interface Touch {
  /** The finger's place and the control's value when it touched, or when the fine modifier last changed. */
  anchor: UnitInterval;
  anchorValue: UnitInterval;
  fine: boolean;
  /** Soft takeover: on which side of the value the finger was, and whether it has met it. */
  caught: boolean;
  /** Around a dial: where the finger was last. */
  place?: UnitInterval;
}

/** With the fine modifier the value goes an eighth of the way. */
const FINE = 1 / 8;

/** A finger comes down at `finger` (its place along the travel) on a control that stands at `value`. */
export function beginTouch(behaviour: TouchBehaviour, finger: UnitInterval, value: UnitInterval): Touch {
  return { anchor: finger, anchorValue: value, fine: false, caught: behaviour.kind !== 'softTakeover' || finger === value };
}

/**
 * The value of the control with the finger at `finger`. Jump: the finger's place. Pick-up and relative: from the last value by the
 * distance moved, at the sensitivity; with pick-up a place of the finger means the same value on the way back, while relative turns
 * back at once where it came to an end. Soft takeover: nothing until the finger meets the value, then its place. The touch is changed.
 * @param value where the control stands now
 */
export function touchValue(behaviour: TouchBehaviour, touch: Touch, finger: UnitInterval, value: UnitInterval, fine: boolean): UnitInterval {
  if (fine !== touch.fine) {
    touch.fine = fine;
    touch.anchor = finger;
    touch.anchorValue = value;
  }
  const moved = (finger - touch.anchor) * behaviour.sensitivity * (fine ? FINE : 1);
  switch (behaviour.kind) {
    case 'jump':
      return fine ? clampUnit(touch.anchorValue + moved) : finger;
    case 'pickUp':
      return clampUnit(touch.anchorValue + moved);
    case 'relative': {
      const next = clampUnit(touch.anchorValue + moved);
      if (next !== touch.anchorValue + moved) Object.assign(touch, { anchor: finger, anchorValue: next });
      return next;
    }
    case 'softTakeover': {
      if (!touch.caught && (touch.anchor - touch.anchorValue) * (finger - touch.anchorValue) <= 0) {
        touch.caught = true;
      }
      if (!touch.caught) return value;
      return fine ? clampUnit(touch.anchorValue + moved) : finger;
    }
    default:
      return behaviour.kind satisfies never;
  }
}
