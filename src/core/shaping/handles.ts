import type { DeadZone, Shaping } from '../rig/document';
import { clampUnit } from '../units/unitInterval';

/** A place on the axis of a signal that can be taken by hand. `value` is in the unit of the signal. */
export interface Handle {
  key: HandleKey;
  label: string;
  value: number;
}

export type HandleKey = 'lo' | 'hi' | 'inner' | 'outer' | 'low' | 'high';

type Range = readonly [lo: number, hi: number];

/**
 * The places of a shaping on the axis of its signal: the ends of its range, and the edges of its dead zone.
 * @param paired whether the signal is one of a pair: its dead zone lies on the nominal range, not on the range in
 */
export function handlesOf(shaping: Shaping, range: Range, paired = false): Handle[] {
  const [lo, hi] = endsOf(shaping, range);
  const [from, to] = zoneEnds(shaping, range, paired);
  const at = (level: number) => from + level * (to - from);
  const ends: Handle[] = [
    { key: 'lo', label: 'Range from', value: lo },
    { key: 'hi', label: 'Range to', value: hi },
  ];
  switch (shaping.deadZone?.kind) {
    case 'centre':
      return [...ends, { key: 'inner', label: 'Nothing within', value: at(0.5 + shaping.deadZone.inner / 2) }, { key: 'outer', label: 'Full from', value: at(0.5 + shaping.deadZone.outer / 2) }];
    case 'ends':
      return [...ends, { key: 'low', label: 'Low end', value: at(shaping.deadZone.low) }, { key: 'high', label: 'High end', value: at(1 - shaping.deadZone.high) }];
    default:
      return ends;
  }
}

/** The shaping with a handle at another value. An end stays within the signal's range, dead zones keep their order. */
export function moveHandle(shaping: Shaping, range: Range, key: HandleKey, value: number, paired = false): Shaping {
  const [lo, hi] = endsOf(shaping, range);
  const [from, to] = zoneEnds(shaping, range, paired);
  if (key === 'lo' || key === 'hi') {
    const within = Math.min(Math.max(value, Math.min(...range)), Math.max(...range));
    return { ...shaping, rangeIn: { ...shaping.rangeIn, lo, hi, [key]: rounded(within, range) } };
  }
  if (!shaping.deadZone || to === from) return shaping;
  const level = clampUnit((value - from) / (to - from));
  return { ...shaping, deadZone: movedZone(shaping.deadZone, key, level) };
}

function movedZone(zone: DeadZone, key: HandleKey, level: number): DeadZone {
  const hundredth = (share: number) => Math.round(clampUnit(share) * 1000) / 1000;
  const away = hundredth(Math.abs(2 * level - 1));
  if (zone.kind === 'centre') return key === 'inner' ? { ...zone, inner: Math.min(away, zone.outer) } : { ...zone, outer: Math.max(away, zone.inner) };
  return key === 'low' ? { ...zone, low: hundredth(Math.min(level, 1 - zone.high)) } : { ...zone, high: hundredth(Math.min(1 - level, 1 - zone.low)) };
}

function endsOf({ rangeIn }: Shaping, [lo, hi]: Range): Range {
  return rangeIn ? [rangeIn.lo, rangeIn.hi] : [lo, hi];
}

/** What a dead zone is taken over. */
function zoneEnds(shaping: Shaping, range: Range, paired: boolean): Range {
  return paired && shaping.deadZone?.kind === 'centre' ? range : endsOf(shaping, range);
}

/** To a thousandth of the range, so that a hand leaves no endless fractions. */
function rounded(value: number, [lo, hi]: Range): number {
  const digits = Math.max(0, 3 - Math.ceil(Math.log10(Math.abs(hi - lo) || 1)));
  return Number(value.toFixed(Math.min(digits, 9)));
}
