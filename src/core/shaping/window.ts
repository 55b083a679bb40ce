import { clampUnit, type UnitInterval } from '../units/unitInterval';

/** How a window fades: not at all, or in or out by one of two laws. */
export const FADE = { none: 0, linearIn: 1, linearOut: 2, equalPowerIn: 3, equalPowerOut: 4 } as const;

/**
 * The part of the way between two levels, stretched to the whole; outside it stands at its ends. A fade makes a gain of
 * it: linear in and out sum to 1, equal power in and out have squares that sum to 1.
 */
export function windowed(level: UnitInterval, lo: number, hi: number, fade: number): UnitInterval {
  const x = hi > lo ? clampUnit((level - lo) / (hi - lo)) : level >= hi ? 1 : 0;
  switch (fade) {
    case FADE.linearOut:
      return 1 - x;
    case FADE.equalPowerIn:
      return Math.sin((x * Math.PI) / 2);
    case FADE.equalPowerOut:
      return Math.cos((x * Math.PI) / 2);
    default:
      return x;
  }
}
