import { describe, expect, it } from 'vitest';
import type { TouchBehaviour } from '../rig/document';
import { beginTouch, touchValue } from './touchBehaviour';

/** Moves a finger over a control that stands at `value`; gives the values on the way. */
function drag(behaviour: TouchBehaviour, value: number, fingers: number[], fine: boolean[] = []): number[] {
  const touch = beginTouch(behaviour, fingers[0]!, value);
  let now = value;
  return fingers.map((finger, i) => Number((now = touchValue(behaviour, touch, finger, now, fine[i] ?? false)).toFixed(6)));
}

describe('a touch', () => {
  it('jumps to the finger', () => expect(drag({ kind: 'jump', sensitivity: 1 }, 0.2, [0.8, 0.6])).toEqual([0.8, 0.6]));
  it('picks up the value where it is and moves it by the way of the finger', () => {
    expect(drag({ kind: 'pickUp', sensitivity: 1 }, 0.2, [0.8, 0.9, 0.7])).toEqual([0.2, 0.3, 0.1]);
    expect(drag({ kind: 'pickUp', sensitivity: 0.5 }, 0.2, [0.8, 1])).toEqual([0.2, 0.3]);
  });
  it('waits in soft takeover until the finger meets the value, from above and from below', () => {
    expect(drag({ kind: 'softTakeover', sensitivity: 1 }, 0.5, [0.8, 0.6, 0.45, 0.7])).toEqual([0.5, 0.5, 0.45, 0.7]);
    expect(drag({ kind: 'softTakeover', sensitivity: 1 }, 0.5, [0.1, 0.4, 0.6])).toEqual([0.5, 0.5, 0.6]);
  });
  it('is relative at its sensitivity, and stays within 0 and 1', () => {
    expect(drag({ kind: 'relative', sensitivity: 2 }, 0.5, [0.1, 0.2, 0.9])).toEqual([0.5, 0.7, 1]);
  });
  it('that is relative turns back at once where it came to an end; one that picked up has the same value at the same place', () => {
    expect(drag({ kind: 'relative', sensitivity: 1 }, 0.8, [0.1, 0.5, 0.4, -0.6, -0.5])).toEqual([0.8, 1, 0.9, 0, 0.1]);
    expect(drag({ kind: 'pickUp', sensitivity: 1 }, 0.8, [0.1, 0.5, 0.4, 0.2])).toEqual([0.8, 1, 1, 0.9]);
  });
  it('goes an eighth of the way while fine, from where it was, and on from there afterwards', () => {
    expect(drag({ kind: 'relative', sensitivity: 1 }, 0.5, [0.2, 0.3, 0.3, 0.7, 0.7, 0.8], [false, false, true, true, false, false])).toEqual([0.5, 0.6, 0.6, 0.65, 0.65, 0.75]);
    expect(drag({ kind: 'jump', sensitivity: 1 }, 0.5, [0.2, 0.2, 0.6], [false, true, true])).toEqual([0.2, 0.2, 0.25]);
  });
  it.each(['jump', 'softTakeover'] as const)('that was fine goes on from where it is, and does not jump to the finger: %s', (kind) => {
    expect(drag({ kind, sensitivity: 1 }, 0.2, [0.2, 0.2, 0.6, 0.6, 0.7], [false, true, true, false, false])).toEqual([0.2, 0.2, 0.25, 0.25, 0.35]);
    expect(drag({ kind, sensitivity: 3 }, 0.2, [0.2, 0.2, 0.6], [false, true, true]).at(-1)).toBe(0.25);
  });
  it('meets the value where it stands now, not where it stood when the finger came down', () => {
    const soft: TouchBehaviour = { kind: 'softTakeover', sensitivity: 1 };
    const touch = beginTouch(soft, 0.9, 0.5);
    expect([0.85, 0.4, 0.9].map((finger) => touchValue(soft, touch, finger, 0.95, false))).toEqual([0.95, 0.95, 0.95]);
    expect([0.96, 0.3].map((finger) => touchValue(soft, touch, finger, 0.95, false))).toEqual([0.96, 0.3]);
    // What passes over a finger that lies still is not met by it.
    const still = beginTouch(soft, 0.6, 0.5);
    expect([0.62, 0.55].map((finger) => touchValue(soft, still, finger, 0.7, false))).toEqual([0.7, 0.7]);
    expect(touchValue(soft, still, 0.75, 0.7, false)).toBe(0.75);
  });
  it('that meets the value while it is fine takes it along from there', () => {
    expect(drag({ kind: 'softTakeover', sensitivity: 1 }, 0.5, [0.9, 0.9, 0.6, 0.5, 0.42, 0.42, 0.32], [false, true, true, true, true, false, false])).toEqual([0.5, 0.5, 0.5, 0.5, 0.49, 0.49, 0.39]);
  });
});
