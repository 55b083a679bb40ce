import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RigMapping, Shaping } from '../rig/document';
import { playing } from '../engine/testPlay';
import { monotoneSegments, pointsCurve, powerCurve, sCurve, SEGMENT } from './curve';
import { centreDeadZone, endsDeadZone, roundDeadZone } from './deadZone';
import { jumpGate } from './jumpGate';
import { median } from './median';
import { OUTSIDE, rangeIn } from './rangeIn';
import { slew } from './slew';
import { step } from './steps';
import { FADE, windowed } from './window';

const unit = fc.double({ min: 0, max: 1, noNaN: true });

describe('outside the range', () => {
  it('wraps angles and folds others', () => {
    expect(rangeIn(370, 0, 360, OUTSIDE.wrap)).toBeCloseTo(10 / 360, 12);
    expect(rangeIn(-10, 0, 360, OUTSIDE.wrap)).toBeCloseTo(350 / 360, 12);
    expect(rangeIn(1.25, 0, 1, OUTSIDE.fold)).toBe(0.75);
    expect(rangeIn(-0.25, 0, 1, OUTSIDE.fold)).toBe(0.25);
    expect(rangeIn(2.25, 0, 1, OUTSIDE.fold)).toBe(0.25);
  });
  it('stays in 0-1 whatever comes', () => {
    fc.assert(
      fc.property(fc.double(), fc.constantFrom(0, 1, 2), (x, outside) => {
        const level = rangeIn(x, -3, 7, outside);
        return level >= 0 && level <= 1;
      }),
    );
  });
});

describe('dead zones', () => {
  it('around the middle: nothing within `inner`, then the whole way to `outer`', () => {
    expect([0.5, 0.55, 0.6, 0.4, 1, 0].map((level) => centreDeadZone(level, 0.2, 1))).toEqual([0.5, 0.5, 0.5, 0.5, 1, 0]);
    expect(centreDeadZone(0.8, 0.2, 1)).toBeCloseTo(0.75, 12);
    expect(centreDeadZone(0.95, 0.2, 0.9)).toBe(1);
  });
  it('round: keeps the direction, and is (r - inner) / (outer - inner) long, never above 1', () => {
    fc.assert(
      fc.property(unit, unit, (a, b) => {
        const [x, y] = [2 * a - 1, 2 * b - 1];
        const r = Math.hypot(x, y);
        const out = [2 * roundDeadZone(a, b, 0.2, 0.9) - 1, 2 * roundDeadZone(b, a, 0.2, 0.9) - 1] as const;
        const length = r <= 0.2 ? 0 : Math.min(1, (r - 0.2) / 0.7);
        expect(Math.hypot(...out)).toBeCloseTo(length, 9);
        expect(out[0] * y).toBeCloseTo(out[1] * x, 9);
      }),
    );
  });
  it('at the ends', () => {
    expect([0, 0.1, 0.5, 0.9, 1].map((level) => endsDeadZone(level, 0.1, 0.1))).toEqual([0, 0, 0.5, 1, 1]);
    expect([endsDeadZone(0.4, 0.5, 0.5), endsDeadZone(0.6, 0.5, 0.5)]).toEqual([0, 1]);
  });
});

describe('de-glitch', () => {
  it.each([3, 5, 7])('the median of %i is the middle of the last values, sorted', (size) => {
    fc.assert(
      fc.property(fc.array(unit, { minLength: size, maxLength: 40 }), (values) => {
        const state = new Float64Array(8);
        const last = values.map((value) => median(state, 0, value, size)).at(-1);
        expect(last).toBe(values.slice(-size).sort((a, b) => a - b)[(size - 1) / 2]);
      }),
    );
  });
  it('a jump gate leaves out what is too fast, unless it lasts', () => {
    const state = Float64Array.of(0.2, 0, NaN);
    const through = [[10, 0.21], [20, 0.9], [30, 0.22], [40, 0.9], [70, 0.9], [100, 0.9]].map(([timeMs, x]) => jumpGate(state, 0, x!, timeMs!, 2, 50));
    expect(through).toEqual([0.21, 0.21, 0.22, 0.22, 0.22, 0.9]);
  });
});

describe('a slew limit', () => {
  it('moves at most so much a second, and arrives', () => {
    expect(slew(0, 1, 1, 100, 2)).toBeCloseTo(0.2, 12);
    expect(slew(0.9, 1, 1, 100, 2)).toBe(1);
    expect(slew(0.5, 0, 0, 0, 2)).toBe(0.5);
  });
});

describe('curves', () => {
  it('power: 0 is straight, +1 is the square, -1 the root; S is mirrored at the middle', () => {
    expect(powerCurve(0.5, 2 ** 0)).toBe(0.5);
    expect(powerCurve(0.5, 2 ** 1)).toBe(0.25);
    expect(powerCurve(0.25, 2 ** -1)).toBe(0.5);
    expect(sCurve(0.25, 2)).toBeCloseTo(1 - sCurve(0.75, 2), 12);
  });
  const points = fc
    .tuple(fc.array(fc.double({ min: 0.001, max: 0.999, noNaN: true }), { maxLength: 14 }), fc.array(unit, { minLength: 16, maxLength: 16 }))
    .map(([xs, ys]) => [0, ...xs.sort((a, b) => a - b), 1].map((x, i): [number, number] => [x, ys[i]!]));
  const curveThrough = (list: [number, number][]) => {
    const coefficients = new Float64Array((list.length - 1) * SEGMENT);
    monotoneSegments(list, coefficients, 0);
    return (x: number) => pointsCurve(coefficients, 0, list.length - 1, x);
  };
  it('points: the curve goes through them and never leaves the y of its two neighbours (Fritsch and Carlson 1980)', () => {
    fc.assert(
      fc.property(points, unit, (list, x) => {
        const curve = curveThrough(list);
        list.forEach(([px, py], i) => {
          if (list[i + 1]?.[0] !== px) expect(curve(px)).toBeCloseTo(py, 6);
        });
        const right = list.findIndex(([px]) => px > x);
        if (right <= 0) return;
        const [lo, hi] = [list[right - 1]![1], list[right]![1]].sort((a, b) => a - b) as [number, number];
        expect(curve(x)).toBeGreaterThanOrEqual(lo - 1e-9);
        expect(curve(x)).toBeLessThanOrEqual(hi + 1e-9);
      }),
    );
  });
  it('points that rise give a curve that rises', () => {
    fc.assert(
      fc.property(points, unit, unit, (list, a, b) => {
        const ys = list.map(([, y]) => y).sort((p, q) => p - q);
        const curve = curveThrough(list.map(([x], i) => [x, ys[i]!]));
        const [x0, x1] = a < b ? [a, b] : [b, a];
        expect(curve(x1)).toBeGreaterThanOrEqual(curve(x0) - 1e-9);
      }),
    );
  });
  it('points at one x make a jump', () => {
    const curve = curveThrough([[0, 0], [0.5, 0.2], [0.5, 0.8], [1, 1]]);
    expect(curve(0.499)).toBeLessThan(0.21);
    expect(curve(0.5)).toBe(0.8);
  });
});

describe('steps', () => {
  it('are equal, and noise at a border does not chatter', () => {
    expect([0, 0.24, 0.26, 0.76, 1].map((x) => step(x, 4, 0, -1))).toEqual([0, 0, 1, 3, 3]);
    let at = -1;
    const seen = [0.24, 0.26, 0.24, 0.27, 0.31, 0.24, 0.19].map((x) => (at = step(x, 4, 0.2, at)));
    expect(seen).toEqual([0, 0, 0, 0, 1, 1, 0]);
  });
  it('reach both ends whatever the hysteresis', () => expect([step(1, 4, 0.9, 2), step(0, 4, 0.9, 1)]).toEqual([3, 0]));
});

describe('windows', () => {
  it('stretch a part of the way to the whole', () => expect([0.1, 0.25, 0.375, 0.5, 0.9].map((x) => windowed(x, 0.25, 0.5, FADE.none))).toEqual([0, 0, 0.5, 1, 1]));
  it('of opposite fades sum to constant gain (linear) or constant power (equal power)', () => {
    fc.assert(
      fc.property(unit, unit, unit, (x, a, b) => {
        const [lo, hi] = a < b ? [a, b] : [b, a];
        expect(windowed(x, lo, hi, FADE.linearIn) + windowed(x, lo, hi, FADE.linearOut)).toBeCloseTo(1, 12);
        expect(windowed(x, lo, hi, FADE.equalPowerIn) ** 2 + windowed(x, lo, hi, FADE.equalPowerOut) ** 2).toBeCloseTo(1, 12);
      }),
    );
  });
});

describe('all steps together', () => {
  const some = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined });
  const shaping: fc.Arbitrary<Shaping> = fc
    .record({
      rangeIn: some(fc.record({ lo: fc.double({ min: -2, max: 2, noNaN: true }), hi: fc.double({ min: -2, max: 2, noNaN: true }), outside: fc.constantFrom('clamp' as const, 'wrap' as const, 'fold' as const) })),
      deadZone: some(fc.oneof(fc.constant({ kind: 'centre' as const, inner: 0.1, outer: 0.9 }), fc.constant({ kind: 'ends' as const, low: 0.1, high: 0.2 }))),
      deglitch: some(fc.constantFrom({ median: 5 as const }, { jump: { perS: 3, forMs: 20 } })),
      smoothing: some(
        fc.constantFrom<NonNullable<Shaping['smoothing']>>(
          { kind: 'onePole', timeConstantMs: 30 },
          { kind: 'attackRelease', attackMs: 5, releaseMs: 90 },
          { kind: 'oneEuro', minCutoffHz: 1, beta: 3, derivativeCutoffHz: 1 },
          { kind: 'slew', perS: 4 },
        ),
      ),
      curve: some(fc.constantFrom<NonNullable<Shaping['curve']>>({ kind: 'power', k: -3 }, { kind: 's', amount: 1 }, { kind: 'points', points: [[0, 0.9], [0.3, 0.1], [1, 1]] }, { kind: 'stepped', points: [[0, 0.2], [0.5, 0.9]] })),
      steps: some(fc.record({ count: fc.integer({ min: 1, max: 9 }), hysteresis: fc.constant(0.2) })),
      window: some(fc.constant({ lo: 0.2, hi: 0.7 })),
    })
    .map((all) => JSON.parse(JSON.stringify(all)) as Shaping);

  it('never let a value leave its range, whatever signal and times come, backwards and standing still', () => {
    fc.assert(
      fc.property(shaping, fc.array(fc.tuple(fc.double(), fc.double({ min: -50, max: 400, noNaN: true })), { maxLength: 60 }), (steps, samples) => {
        const { move, run, sent, engine } = playing({ shaping: steps, message: { kind: 'controlChange', channel: 1, controller: 20, range: [90, 30] } });
        let timeMs = 0;
        for (const [value, dtMs] of samples) move('fog', (timeMs += dtMs), value);
        run(timeMs, timeMs + 200);
        for (const { bytes } of sent) {
          expect(bytes[2]).toBeGreaterThanOrEqual(30);
          expect(bytes[2]).toBeLessThanOrEqual(90);
        }
        expect(Number.isNaN(engine.levels[0]!) || (engine.levels[0]! >= 0 && engine.levels[0]! <= 1)).toBe(true);
      }),
      { numRuns: 1500 },
    );
  });

  it('agree within 1 % of full scale for the same motion at 60 Hz and at 1 kHz, with every kind of smoothing', () => {
    const kinds: NonNullable<Shaping['smoothing']>[] = [
      { kind: 'onePole', timeConstantMs: 80 },
      { kind: 'attackRelease', attackMs: 40, releaseMs: 160 },
      { kind: 'oneEuro', minCutoffHz: 1.5, beta: 1, derivativeCutoffHz: 1 },
      { kind: 'slew', perS: 1 },
    ];
    for (const smoothing of kinds) {
      const levelAt = (periodMs: number, untilMs: number) => {
        const mapping: Partial<RigMapping> = { shaping: { smoothing } };
        const { move, engine } = playing(mapping);
        for (let k = 0; k * periodMs <= untilMs + 1e-6; k++) move('fog', k * periodMs, 0.5 - 0.5 * Math.cos((2 * Math.PI * k * periodMs) / 2000));
        return engine.levels[0]!;
      };
      for (const untilMs of [500, 1200, 1750, 2600, 3300]) expect(Math.abs(levelAt(50 / 3, untilMs) - levelAt(1, untilMs)), smoothing.kind).toBeLessThan(0.01);
    }
  });
});
