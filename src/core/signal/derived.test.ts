import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { play } from '../engine/testPlay';
import { testRig } from '../engine/testRig';
import type { RigDerived } from '../rig/document';
import type { Formula } from './formulas';
import { addDerived } from './deriving';
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
  describe('of angles', () => {
    const made = (...formulas: [id: string, formula: Formula][]) => {
      let rig = testRig([]);
      const heading = { ...rig.signals[0]!, unit: 'deg' as const, range: [0, 360] as [number, number], period: 360, input: rig.signals[0]!.input };
      rig = { ...rig, signals: [{ ...heading, id: 'a', name: 'A' }, { ...heading, id: 'b', name: 'B' }, { ...heading, id: 'c', name: 'C' }, rig.signals.find(({ id }) => id === 'bell')!] };
      for (const [name, formula] of formulas) rig = { ...rig, derived: [...rig.derived, { ...(addDerived(rig, name, formula).change.to as RigDerived) }] };
      const playing = play(rig);
      return { ...playing, value: (id: string) => playing.engine.values[playing.index(id)]! };
    };
    const angle = fc.double({ min: 0, max: 359.999, noNaN: true });
    /** How far two angles are apart, by their arrows. */
    const apart = (p: number, q: number) => 2 * Math.asin(Math.min(1, Math.hypot(Math.cos((p * Math.PI) / 180) - Math.cos((q * Math.PI) / 180), Math.sin((p * Math.PI) / 180) - Math.sin((q * Math.PI) / 180)) / 2)) * (180 / Math.PI);

    // Worked example of directional statistics: the mean direction of 350, 10 and 30 degrees is 10, where their plain mean is 130.
    it('the average is the mean direction, which turns with its sources', () => {
      const { move, value } = made(['mean', { op: 'average', of: ['a', 'b', 'c'] }]);
      [350, 10, 30].forEach((degrees, i) => move('abc'[i]!, 1, degrees));
      expect(apart(value('mean'), 10)).toBeLessThan(1e-6);
      let timeMs = 1;
      fc.assert(
        fc.property(angle, fc.double({ min: -80, max: 80, noNaN: true }), fc.double({ min: -80, max: 80, noNaN: true }), (middle, left, right) => {
          timeMs++;
          // Two arrows that are equally far from a third add up to one that points between them.
          const [one, two] = [middle + left, middle + right].map((degrees) => ((degrees % 360) + 360) % 360) as [number, number];
          for (const [id, degrees] of [['a', one], ['b', two], ['c', (((middle + (left + right) / 2) % 360) + 360) % 360]] as const) move(id, timeMs, degrees);
          expect(apart(value('mean'), middle + (left + right) / 2)).toBeLessThan(1e-4);
          expect(value('mean')).toBeGreaterThanOrEqual(0);
          expect(value('mean')).toBeLessThanOrEqual(360);
        }),
      );
    });
    it('the average of opposite ones stays where it was, at first where the first is', () => {
      const { move, value } = made(['mean', { op: 'average', of: ['a', 'b'] }]);
      move('a', 1, 90);
      move('b', 1, 270);
      expect(value('mean')).toBeCloseTo(45, 6);
      const first = made(['mean', { op: 'average', of: ['a', 'b'] }]);
      move('b', 2, 100);
      move('b', 3, 270);
      expect(value('mean')).toBeCloseTo(95, 6);
      first.move('b', 1, 180);
      expect(first.value('mean')).toBeCloseTo(0, 6);
    });
    it('the difference is the short way, the sum stays on the circle', () => {
      const { move, value } = made(['apart', { op: 'difference', of: ['a', 'b'] }], ['both', { op: 'sum', of: ['a', 'b'] }], ['stage', { op: 'constant', value: 30 }], ['ahead', { op: 'difference', of: ['a', 'stage'] }]);
      move('a', 1, 10);
      move('b', 1, 350);
      expect([value('apart'), value('both'), value('ahead')]).toEqual([20, 0, -20]);
      move('a', 2, 340);
      expect([value('apart'), value('both'), value('ahead')]).toEqual([-10, 330, -50]);
    });
    it('a follower goes the short way over the end of the circle and stays in its range', () => {
      const { move, run, value } = made(['after', { op: 'envelope', of: 'a', attackMs: 100, releaseMs: 100 }]);
      move('a', 0, 350);
      move('a', 10, 350);
      move('a', 11, 10);
      run(12, 111);
      // First-order system: after one time constant 63.2 % of the 20 degrees; the last tick may be 4 ms old.
      expect(apart(value('after'), 350 + 20 * (1 - Math.exp(-1)))).toBeLessThan(0.3);
      for (let turn = 0; turn < 30; turn++) for (const degrees of [100, 200, 300, 40]) move('a', 1000 + turn * 400 + degrees, degrees);
      expect(value('after')).toBeGreaterThanOrEqual(0);
      expect(value('after')).toBeLessThanOrEqual(360);
    });
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
    expect(value('leaky')).toBeCloseTo(0.5 * (1 - Math.exp(-4)), 9);
  });
  it('a leak takes its share however seldom it is looked at: a ramp of 1 a second with a leak of 50 is t/50 - (1 - e^-50t)/2500', () => {
    for (const everyMs of [1, 4, 16, 100]) {
      const { move, value } = withDerived(['leaky', { op: 'accumulate', of: 'fog', lo: 0, hi: 10, leakPerS: 50 }]);
      // The first sample lies off 0, from where everything goes off at once.
      move('fog', 0, 1e-9);
      for (let timeMs = everyMs; timeMs <= 400; timeMs += everyMs) move('fog', timeMs, timeMs / 1000);
      expect(value('leaky')).toBeCloseTo(0.4 / 50 - (1 - Math.exp(-20)) / 2500, 7);
    }
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

describe('derived signals between samples', () => {
  const WAVE: Formula = { op: 'oscillator', shape: 'sine', rateHz: 1, depth: 1 };

  it('follow what moves by itself: a wave times a fader at rest, a length of a speed', () => {
    const { move, run, value } = withDerived(['wave', WAVE], ['deep', { op: 'product', of: ['wave', 'fog'] }], ['speed', { op: 'speed', of: 'fog' }], ['strength', { op: 'magnitude', of: ['speed', 'speed'] }]);
    move('fog', 0, 0.4);
    move('fog', 10, 0.5);
    expect(value('strength')).toBeCloseTo(Math.hypot(10, 10), 9);
    run(14, 250);
    expect([value('wave'), value('deep')]).toEqual([expect.closeTo(1, 4), expect.closeTo(0.5, 4)]);
    expect(value('strength')).toBe(0);
  });
  it('are computed once a tick, after all their sources: two waves that cancel out send nothing between', () => {
    const rig = testRig([{ signal: 'none' }]);
    const derived = (id: string, formula: Formula): RigDerived => ({ id, name: id, kind: 'continuous', unit: 'unit', range: [-1, 1], formula });
    rig.derived = [derived('none', { op: 'difference', of: ['one', 'other'] }), derived('one', WAVE), derived('other', WAVE)];
    const { run, bytes } = play(rig);
    run(4, 2000);
    expect(bytes()).toEqual(['B2 15 40']);
  });
  it('that are made of constants alone are there from the start', () => {
    const { value } = withDerived(['two', { op: 'constant', value: 2 }], ['four', { op: 'product', of: ['two', 'two'] }]);
    expect(value('four')).toBe(4);
  });
  it('the speed of a slow sensor is that of its way, at each sample and between: 0.1 in 200 ms is 0.5 a second', () => {
    const { move, run, value } = withDerived(['speed', { op: 'speed', of: 'fog' }]);
    for (let i = 0; i < 10; i++) {
      move('fog', i * 200, i * 0.1);
      const atOnce = value('speed');
      run(i * 200 + 4, i * 200 + 196);
      if (i > 0) expect([atOnce, value('speed')]).toEqual([expect.closeTo(0.5, 9), expect.closeTo(0.5, 9)]);
    }
    run(2000, 2800);
    expect(value('speed')).toBe(0);
  });
  it('a speed begins with the first sample that differs, whenever ticks came: 0.01 in 10 ms after a second of equal samples is 1 a second', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 120 }), (later) => {
        const { move, engine, value } = withDerived(['speed', { op: 'speed', of: 'fog' }]);
        for (let timeMs = 0; timeMs <= 1000 + later * 10; timeMs += 10) {
          move('fog', timeMs, 0.5);
          engine.take({ kind: 'tick', timeMs: timeMs + 3 });
        }
        move('fog', 1010 + later * 10, 0.51);
        expect(value('speed')).toBeCloseTo(1, 9);
      }),
    );
  });
  it('a speed still comes where two samples were too near to tell it, and a tick as well', () => {
    const { engine, move, value } = withDerived(['speed', { op: 'speed', of: 'fog' }]);
    move('fog', 0, 0);
    move('fog', 0.2, 0.01);
    engine.take({ kind: 'tick', timeMs: 0.4 });
    expect([value('speed'), engine.pending]).toEqual([0, true]);
    engine.take({ kind: 'tick', timeMs: 4 });
    expect(value('speed')).toBeCloseTo(0.01 / 0.004, 9);
  });
  it('want no ticks once they rest, and want them again when a source moves; a wave always does', () => {
    const { engine, move, run, value } = withDerived(['speed', { op: 'speed', of: 'fog' }], ['steps', { op: 'accumulate', of: 'bell', lo: 0, hi: 1 }], ['leaky', { op: 'accumulate', of: 'bell', lo: 0, hi: 9, leakPerS: 5 }], ['follower', { op: 'envelope', of: 'fog', attackMs: 20, releaseMs: 50 }]);
    run(4, 8);
    expect(engine.pending).toBe(false);
    move('fog', 10, 0.5);
    move('bell', 10, 0);
    move('fog', 20, 0.7);
    run(24, 4000);
    expect([engine.pending, value('speed'), value('follower')]).toEqual([false, 0, expect.closeTo(0.7, 12)]);
    // What runs out to nothing rests as soon as what ends elsewhere does.
    move('fog', 4004, 0);
    run(4008, 8000);
    expect([engine.pending, value('follower')]).toEqual([false, expect.closeTo(0, 12)]);
    move('bell', 600_000, 1);
    expect([engine.pending, value('steps')]).toEqual([true, expect.closeTo(0, 6)]);
    run(600_004, 600_500);
    expect(value('steps')).toBeCloseTo(0.5, 6);
    run(600_504, 602_000);
    // At its end, and where leaking takes away what comes.
    expect([value('steps'), value('leaky')]).toEqual([1, expect.closeTo(1 / 5, 3)]);
    move('bell', 602_010, 0);
    run(602_014, 900_000);
    expect(engine.pending).toBe(false);
    expect(withDerived(['wave', WAVE]).engine.pending).toBe(true);
  });
  // engine.md, Shaping 4: the same motion sampled at 60 Hz and at 1000 Hz agrees within 1 % of full scale.
  it.each<[Formula, number]>([
    [{ op: 'envelope', of: 'fog', attackMs: 5, releaseMs: 100 }, 1],
    [{ op: 'envelope', of: 'fog', attackMs: 20, releaseMs: 300 }, 1],
    [{ op: 'accumulate', of: 'fog', lo: 0, hi: 10 }, 0.1],
    [{ op: 'accumulate', of: 'fog', lo: -1, hi: 1, leakPerS: 5 }, 0.1],
  ])('%j: sensors at 60 Hz and at 1 kHz agree, with ticks and without', (formula, fullScale) => {
    const at = (rateHz: number, hasTicks: boolean): number[] => {
      const { engine, move, value } = withDerived(['made', formula]);
      const found: number[] = [];
      for (let [timeMs, sample] = [0, 0]; timeMs <= 2000; timeMs++) {
        for (; (sample * 1000) / rateHz <= timeMs + 1e-9; sample++) move('fog', (sample * 1000) / rateHz, 0.5 + 0.5 * Math.sin((2 * Math.PI * 2 * sample) / rateHz));
        if (hasTicks && timeMs % 4 === 0 && engine.pending) engine.take({ kind: 'tick', timeMs });
        // Where both have a sample.
        if (timeMs % 50 === 0) found.push(value('made'));
      }
      return found;
    };
    const quick = at(1000, true);
    for (const hasTicks of [true, false]) at(60, hasTicks).forEach((value, i) => expect(Math.abs(value - quick[i]!)).toBeLessThan(0.01 * fullScale));
  });
  it('a follower that is on its way goes on from there where its time is edited', () => {
    const rig = testRig([]);
    const follower = (releaseMs: number) => ({ ...rig, derived: [{ id: 'd', name: 'd', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number], formula: { op: 'envelope' as const, of: 'fog', attackMs: 0, releaseMs } }] });
    const { engine, move, run, index } = play(follower(10_000));
    move('fog', 0, 1);
    move('fog', 10, 0);
    run(12, 5012);
    const before = engine.values[index('d')]!;
    expect(before).toBeCloseTo(Math.exp(-0.5), 2);
    engine.take({ kind: 'rig', rig: follower(1000), timeMs: 5012 });
    run(5016, 6012);
    expect(engine.values[index('d')]!).toBeCloseTo(before * Math.exp(-1), 3);
  });
  it('a gate has no way between its samples: what follows it goes off with it', () => {
    const { move, run, value } = withDerived(['follower', { op: 'envelope', of: 'bell', attackMs: 100, releaseMs: 100 }]);
    for (const [timeMs, gate] of [[0, 0], [10, 0], [20, 1]] as const) move('bell', timeMs, gate);
    expect(value('follower')).toBe(0);
    run(24, 40);
    expect(value('follower')).toBeCloseTo(1 - Math.exp(-0.2), 9);
    move('bell', 60, 0);
    expect(value('follower')).toBeCloseTo(1 - Math.exp(-0.4), 9);
    run(64, 120);
    expect(value('follower')).toBeCloseTo((1 - Math.exp(-0.4)) * Math.exp(-0.6), 9);
  });
  it('say the same whether ticks go on while they rest or not', () => {
    const formulas: Formula[] = [{ op: 'speed', of: 'fog' }, { op: 'accumulate', of: 'fog', lo: -1, hi: 1, leakPerS: 2 }, { op: 'envelope', of: 'fog', attackMs: 0, releaseMs: 30 }, { op: 'envelope', of: 'd0', attackMs: 30, releaseMs: 0 }];
    const rig = testRig(formulas.map((_, i) => ({ signal: `d${i}`, message: { kind: 'controlChange', channel: 1, controller: 20 + i, range: [0, 127] } })));
    rig.derived = formulas.map((formula, i): RigDerived => ({ id: `d${i}`, name: `d${i}`, kind: 'continuous', unit: 'unit', range: [-1, 1], formula }));
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(0, 0.25, -0.5, 1), fc.integer({ min: 1, max: 900 })), { minLength: 1, maxLength: 12 }), (moves) => {
        const lazy = play(rig);
        const eager = play(rig);
        let timeMs = 0;
        for (const [value, places] of moves) {
          for (const { move } of [lazy, eager]) move('fog', timeMs, value);
          lazy.run(timeMs + 4, timeMs + places * 4);
          for (let t = timeMs + 4; t <= timeMs + places * 4; t += 4) eager.engine.take({ kind: 'tick', timeMs: t });
          timeMs += places * 4 + 1;
        }
        expect(lazy.sent.map(({ timeMs: at, bytes }) => [at, ...bytes])).toEqual(eager.sent.map(({ timeMs: at, bytes }) => [at, ...bytes]));
      }),
      { numRuns: 200 },
    );
  });
});

describe('derivedOrder', () => {
  it('names the path of a circle', () => {
    const derived = (['a', 'b', 'c'] as const).map((id, i): RigDerived => ({ id, name: id, kind: 'continuous', unit: 'unit', range: [0, 1], formula: { op: 'sum', of: [['b', 'c', 'a'][i]!] } }));
    expect(derivedOrder({ derived })).toEqual({ ok: false, circle: ['a', 'b', 'c', 'a'] });
  });
});
