import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { play } from '../engine/testPlay';
import { testRig } from '../engine/testRig';
import type { RigDerived } from '../rig/document';
import type { Formula } from './formulas';
import { derivedOrder } from './order';
import { chance, wave } from './oscillator';
import { periodicDifference } from './period';
import { pitchDeg, rollDeg } from './tilt';

function withDerived(...formulas: [id: string, formula: Formula][]) {
  const rig = testRig([]);
  rig.derived = formulas.map(([id, formula]): RigDerived => ({ id, name: id, kind: 'continuous', unit: 'unit', range: [0, 1], formula }));
  const playing = play(rig);
  return { ...playing, value: (id: string) => playing.engine.values[playing.index(id)]! };
}

const x = fc.double({ min: -1000, max: 1000, noNaN: true });

describe('derived signals equal their formulas', () => {
  it('sum, difference, product, minimum, maximum, average, magnitude, distance', () => {
    const of = ['fog', 'fog.touch', 'bell'];
    const { move, value } = withDerived(
      ...(['sum', 'difference', 'product', 'minimum', 'maximum', 'average'] as const).map((op): [string, Formula] => [op, { op, of }]),
      ['magnitude', { op: 'magnitude', of }],
      ['distance', { op: 'distance', from: ['fog', 'fog.touch'], to: ['bell', 'fog'] }],
    );
    let timeMs = 0;
    fc.assert(
      fc.property(x, x, x, (a, b, c) => {
        timeMs++;
        for (const [signal, sample] of [['fog', a], ['fog.touch', b], ['bell', c]] as const) move(signal, timeMs, sample);
        expect(value('sum')).toBeCloseTo(a + b + c, 9);
        expect(value('difference')).toBeCloseTo(a - b - c, 9);
        expect(value('product') - a * b * c).toBeCloseTo(0, 6);
        expect(value('minimum')).toBe(Math.min(a, b, c));
        expect(value('maximum')).toBe(Math.max(a, b, c));
        expect(value('average')).toBeCloseTo((a + b + c) / 3, 9);
        expect(value('magnitude')).toBeCloseTo(Math.hypot(a, b, c), 9);
        expect(value('distance')).toBeCloseTo(Math.hypot(a - c, b - a), 9);
      }),
    );
  });
  it('are made of each other in any order of the document, and have no value before their sources have', () => {
    const { move, value } = withDerived(['twice', { op: 'sum', of: ['once', 'once'] }], ['once', { op: 'sum', of: ['fog', 'half'] }], ['half', { op: 'constant', value: 0.5 }]);
    expect([value('half'), value('twice')]).toEqual([0.5, NaN]);
    move('fog', 0, 1);
    expect(value('twice')).toBe(3);
  });
  it('put together with what was never heard at its rest; axes of one thing wait for each other', () => {
    const { move, value } = withDerived(['sum', { op: 'sum', of: ['fog', 'bell'] }], ['lowest', { op: 'minimum', of: ['fog', 'bell'] }], ['length', { op: 'magnitude', of: ['fog', 'bell'] }]);
    move('fog', 0, 0.4);
    expect([value('sum'), value('lowest'), value('length')]).toEqual([0.4, 0, NaN]);
  });
  it('tilt follows the arithmetic of gravity', () => {
    const angle = fc.double({ min: -89, max: 89, noNaN: true });
    fc.assert(
      fc.property(angle, (degrees) => {
        const radians = (degrees * Math.PI) / 180;
        expect(pitchDeg(0, 9.81 * Math.sin(radians), 9.81 * Math.cos(radians))).toBeCloseTo(degrees, 6);
        expect(rollDeg(9.81 * Math.sin(radians), 0, 9.81 * Math.cos(radians))).toBeCloseTo(degrees, 6);
      }),
    );
    expect([pitchDeg(0, 0, 1), rollDeg(0, 0, 1), rollDeg(0, 0, -1), pitchDeg(0, 0, 0), rollDeg(0, 0, 0)]).toEqual([0, 0, 180, 0, 0]);
  });
  it('speed is the derivative: 1 per second for a ramp of 0.01 in 10 ms, and 0 once it stands still', () => {
    const { move, run, value } = withDerived(['speed', { op: 'speed', of: 'fog' }]);
    for (let i = 0; i <= 50; i++) move('fog', i * 10, i * 0.01);
    expect(value('speed')).toBeCloseTo(1, 9);
    run(504, 800);
    expect(value('speed')).toBe(0);
  });
  it('the speed of an angle goes the short way: 359 to 1 deg in 10 ms is 200 deg/s', () => {
    expect([periodicDifference(1, 359, 360), periodicDifference(359, 1, 360), periodicDifference(5, 3, 0)]).toEqual([2, -2, 2]);
    const rig = testRig([]);
    rig.signals[0] = { ...rig.signals[0]!, unit: 'deg', range: [0, 360], period: 360 };
    rig.derived = [{ id: 'turn', name: 'Turn', kind: 'continuous', unit: 'deg/s', range: [-360, 360], formula: { op: 'speed', of: 'fog' } }];
    const { move, engine, index } = play(rig);
    move('fog', 0, 359);
    move('fog', 10, 1);
    expect(engine.values[index('turn')]).toBeCloseTo(200, 9);
  });
  it('accumulate is the integral within its limits: 0.5 for 2 s is 1, and leaks by its rate', () => {
    const { move, run, value } = withDerived(['way', { op: 'accumulate', of: 'fog', lo: 0, hi: 1.2 }], ['leaky', { op: 'accumulate', of: 'fog', lo: 0, hi: 10, leakPerS: 1 }]);
    move('fog', 0, 0.5);
    run(4, 2000);
    expect(value('way')).toBeCloseTo(1, 9);
    run(2004, 4000);
    expect(value('way')).toBe(1.2);
    // y' = x - y with x = 0.5 ends at 0.5 (1 - e^-t).
    expect(value('leaky')).toBeCloseTo(0.5 * (1 - Math.exp(-4)), 2);
  });
  it('an envelope rises with its attack and falls with its release (63.2 % after one time constant)', () => {
    const { move, run, value } = withDerived(['envelope', { op: 'envelope', of: 'fog', attackMs: 100, releaseMs: 400 }]);
    move('fog', 0, 0);
    run(4, 100);
    move('fog', 100, 1);
    run(104, 200);
    expect(value('envelope')).toBeCloseTo(1 - Math.exp(-1), 6);
    run(204, 4000);
    move('fog', 4000, 0);
    run(4004, 4400);
    expect(value('envelope')).toBeCloseTo(Math.exp(-1), 6);
  });
  it('hold keeps what its signal was when the gate opened', () => {
    const { move, value } = withDerived(['held', { op: 'hold', of: 'fog', gate: 'bell' }]);
    move('fog', 0, 0.3);
    move('bell', 0, 0);
    move('bell', 1, 1);
    move('fog', 2, 0.9);
    expect(value('held')).toBe(0.3);
    move('bell', 3, 0);
    move('bell', 4, 1);
    expect(value('held')).toBe(0.9);
  });
  it('an oscillator keeps its rate, which may itself be a signal', () => {
    const { move, run, value } = withDerived(['lfo', { op: 'oscillator', shape: 'sine', rateHz: { signal: 'fog' }, depth: 0.5 }]);
    move('fog', 0, 2);
    run(0, 124);
    expect(value('lfo')).toBeCloseTo(0.5 * Math.sin(2 * Math.PI * 2 * 0.124), 6);
  });
  it('its waves have the shapes of their names, and random steps depend on the seed alone', () => {
    expect([0, 0.25, 0.5, 0.75].map((phase) => wave('triangle', phase, 1))).toEqual([0, 1, 0, -1]);
    expect([0, 0.25, 0.5, 0.75].map((phase) => wave('saw', phase, 1))).toEqual([0, 0.5, -1, -0.5]);
    expect([0, 0.49, 0.5, 0.99].map((phase) => wave('square', phase, 1))).toEqual([1, 1, -1, -1]);
    expect(wave('random', 3.2, 7)).toBe(wave('random', 3.9, 7));
    expect(wave('random', 3.2, 7)).not.toBe(wave('random', 3.2, 8));
    const many = Array.from({ length: 10_000 }, (_, i) => chance(7, i));
    expect(many.reduce((sum, one) => sum + one, 0) / many.length).toBeCloseTo(0.5, 1);
  });
});

describe('derivedOrder', () => {
  it('names the path of a circle', () => {
    const derived = (['a', 'b', 'c'] as const).map((id, i): RigDerived => ({ id, name: id, kind: 'continuous', unit: 'unit', range: [0, 1], formula: { op: 'sum', of: [['b', 'c', 'a'][i]!] } }));
    expect(derivedOrder({ derived })).toEqual({ ok: false, circle: ['a', 'b', 'c', 'a'] });
  });
});
