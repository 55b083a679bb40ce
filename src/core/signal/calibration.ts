import type { Calibration } from '../rig/document';
import { periodicDifference, turnNearest } from './period';

/** A signal's calibration with what it is laid onto, ready to run. */
export interface PlannedCalibration extends Calibration {
  /** The nominal range and, where the signal has one, the rest. */
  lo: number;
  hi: number;
  rest: number | null;
  /** For angles, so that a zero taken off does not leave the circle. */
  period: number | null;
}

/**
 * From the raw number of a device to the nominal one: noise is left out, the travel of this specimen is laid onto the
 * nominal range (in two straight pieces where the middle is known), the zero is taken off.
 * @param held the raw number that was let through last, NaN before the first
 * @returns the raw number that is let through now; give it to `calibrated`
 */
export function withoutNoise({ noise, travel, period }: PlannedCalibration, raw: number, held: number): number {
  if (noise === undefined) return raw;
  if (travel?.centre !== undefined && Math.abs(raw - travel.centre) <= noise) return travel.centre;
  // Raw numbers that are laid onto the circle are on none.
  return Math.abs(periodicDifference(raw, held, travel ? 0 : (period ?? 0))) < noise ? held : raw;
}

export function calibrated({ travel, zero, lo, hi, rest, period }: PlannedCalibration, raw: number): number {
  const value = (travel ? laidOut(travel, raw, lo, hi, rest) : raw) - (zero ?? 0);
  return zero === undefined ? value : turnNearest(value, (lo + hi) / 2, period ?? 0);
}

function laidOut({ lo: rawLo, hi: rawHi, centre }: NonNullable<Calibration['travel']>, raw: number, lo: number, hi: number, rest: number | null): number {
  if (centre === undefined || rest === null) return piece(raw, rawLo, rawHi, lo, hi);
  return (raw - centre) * (rawHi - rawLo) < 0 ? piece(raw, rawLo, centre, lo, rest) : piece(raw, centre, rawHi, rest, hi);
}

/** `raw` from one range onto another, never beyond its ends; a range of no width gives its end. */
function piece(raw: number, rawLo: number, rawHi: number, lo: number, hi: number): number {
  if (rawHi === rawLo) return hi;
  const part = (raw - rawLo) / (rawHi - rawLo);
  return part <= 0 ? lo : part >= 1 ? hi : lo + part * (hi - lo);
}

/** The calibration with its zero moved to where the signal lies now; `value` is the calibrated one. */
export function zeroedAt(calibration: Calibration | undefined, value: number): Calibration {
  return { ...calibration, zero: (calibration?.zero ?? 0) + value };
}

/** The end of a range that an infinite value stands for. */
export function endOf([a, b]: readonly [number, number], value: number): number {
  return value > 0 ? Math.max(a, b) : Math.min(a, b);
}
