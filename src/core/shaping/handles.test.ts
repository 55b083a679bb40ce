import { describe, expect, it } from 'vitest';
import type { Shaping } from '../rig/document';
import { handlesOf, moveHandle } from './handles';

const range = [20, 1000] as const;
const values = (shaping: Shaping) => Object.fromEntries(handlesOf(shaping, range).map(({ key, value }) => [key, value]));

describe('what can be taken by hand', () => {
  it('shows the ends of the signal where no range is set, and the edges of a dead zone within the range', () => {
    expect(values({})).toEqual({ lo: 20, hi: 1000 });
    expect(values({ rangeIn: { lo: 100, hi: 300 }, deadZone: { kind: 'centre', inner: 0.2, outer: 0.8 } })).toEqual({ lo: 100, hi: 300, inner: 220, outer: 280 });
    expect(values({ rangeIn: { lo: 300, hi: 100 }, deadZone: { kind: 'ends', low: 0.1, high: 0.25 } })).toEqual({ lo: 300, hi: 100, low: 280, high: 150 });
  });
  it('shows the dead zone of a pair on the nominal range, where it acts', () => {
    const shaping: Shaping = { rangeIn: { lo: 510, hi: 1000 }, deadZone: { kind: 'centre', inner: 0.2, outer: 1 } };
    expect(handlesOf(shaping, range, true).find(({ key }) => key === 'inner')!.value).toBe(20 + 0.6 * 980);
    expect(moveHandle(shaping, range, 'inner', 510 + 49, true).deadZone).toEqual({ kind: 'centre', inner: 0.1, outer: 1 });
  });
  it('moves an end within the signal, keeping what is outside as it was set', () => {
    expect(moveHandle({}, range, 'lo', 250.123456).rangeIn).toEqual({ lo: 250, hi: 1000 });
    expect(moveHandle({ rangeIn: { lo: 100, hi: 300, outside: 'fold' } }, range, 'hi', 5000).rangeIn).toEqual({ lo: 100, hi: 1000, outside: 'fold' });
    expect(moveHandle({}, [0, 1], 'hi', 0.33333).rangeIn).toEqual({ lo: 0, hi: 0.333 });
  });
  it.each<[Shaping['deadZone'], 'inner' | 'outer' | 'low' | 'high', number, Shaping['deadZone']]>([
    [{ kind: 'centre', inner: 0.1, outer: 0.9 }, 'inner', 0.75, { kind: 'centre', inner: 0.5, outer: 0.9 }],
    [{ kind: 'centre', inner: 0.1, outer: 0.4 }, 'inner', 0.95, { kind: 'centre', inner: 0.4, outer: 0.4 }],
    [{ kind: 'centre', inner: 0.5, outer: 0.9 }, 'outer', 0.6, { kind: 'centre', inner: 0.5, outer: 0.5 }],
    [{ kind: 'ends', low: 0, high: 0 }, 'low', 0.2, { kind: 'ends', low: 0.2, high: 0 }],
    [{ kind: 'ends', low: 0, high: 0 }, 'high', 0.9, { kind: 'ends', low: 0, high: 0.1 }],
    [{ kind: 'ends', low: 0.1, high: 0.3 }, 'low', 0.9, { kind: 'ends', low: 0.7, high: 0.3 }],
    [{ kind: 'ends', low: 0.1, high: 0.3 }, 'high', 0, { kind: 'ends', low: 0.1, high: 0.9 }],
    [undefined, 'inner', 0.9, undefined],
  ])('%j: %s at %f gives %j', (deadZone, key, at, expected) => expect(moveHandle(deadZone ? { deadZone } : {}, [0, 1], key, at).deadZone).toEqual(expected));
});
