import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testRig } from '../engine/testRig';
import { play } from '../engine/testPlay';
import { addDerived, freshFormula, possibleSources, withFormula } from './deriving';
import { removeSignals } from '../rig/remove';
import { applyEdit } from '../rig/edit';
import { formulaInWords, formulaRange, type Formula, type FormulaOp } from './formulas';

const ranges: Record<string, [number, number]> = { a: [0, 1], b: [-2, 3], turned: [5, 1] };
const rangeOf = (id: string) => ranges[id]!;

describe('the range of a formula', () => {
  it.each<[Formula, [number, number]]>([
    [{ op: 'sum', of: ['a', 'b'] }, [-2, 4]],
    [{ op: 'difference', of: ['a', 'b'] }, [-3, 3]],
    [{ op: 'product', of: ['a', 'b'] }, [-2, 3]],
    [{ op: 'minimum', of: ['a', 'turned'] }, [0, 1]],
    [{ op: 'maximum', of: ['a', 'turned'] }, [1, 5]],
    [{ op: 'average', of: ['a', 'b'] }, [-1, 2]],
    [{ op: 'magnitude', of: ['a', 'b'] }, [0, Math.hypot(1, 3)]],
    [{ op: 'distance', from: ['a', 'a'], to: ['b', 'a'] }, [0, Math.hypot(3, 1)]],
    [{ op: 'tilt', axis: 'pitch', of: ['a', 'a', 'a'] }, [-90, 90]],
    [{ op: 'speed', of: 'b' }, [-5, 5]],
    [{ op: 'accumulate', of: 'a', lo: -1, hi: 2 }, [-1, 2]],
    [{ op: 'hold', of: 'turned', gate: 'a' }, [1, 5]],
    [{ op: 'oscillator', shape: 'sine', rateHz: 1, depth: { signal: 'b' } }, [-3, 3]],
    [{ op: 'constant', value: -2 }, [-2, 0]],
  ])('%j', (formula, range) => expect(formulaRange(formula, rangeOf)).toEqual(range));

  it.each<[Formula, [number, number], number | undefined]>([
    [{ op: 'difference', of: ['heading', 'other'] }, [-180, 180], 360],
    [{ op: 'difference', of: ['heading', 'fog'] }, [-180, 180], 360],
    [{ op: 'sum', of: ['heading', 'fog'] }, [0, 360], 360],
    [{ op: 'difference', of: ['yaw', 'yaw'] }, [-90, 90], 360],
    [{ op: 'average', of: ['heading', 'other'] }, [0, 360], 360],
    [{ op: 'average', of: ['heading', 'fog'] }, [0, 180.5], undefined],
    [{ op: 'sum', of: ['heading', 'dial'] }, [0, 361], undefined],
    [{ op: 'hold', of: 'heading', gate: 'fog.touch' }, [0, 360], 360],
    [{ op: 'envelope', of: 'heading', attackMs: 20, releaseMs: 300 }, [0, 360], 360],
    [{ op: 'speed', of: 'heading' }, [-360, 360], undefined],
    [{ op: 'maximum', of: ['heading', 'other'] }, [0, 360], undefined],
    [{ op: 'tilt', axis: 'roll', of: ['fog', 'fog', 'fog'] }, [-180, 180], 360],
    [{ op: 'tilt', axis: 'pitch', of: ['fog', 'fog', 'fog'] }, [-90, 90], undefined],
  ])('of angles: %j lies in %j, full turn %s', (formula, range, period) => {
    const rig = testRig([]);
    const angle = (id: string, signalRange: [number, number], full = 360) => rig.signals.push({ ...rig.signals[0]!, id, name: id, range: signalRange, period: full });
    angle('heading', [0, 360]);
    angle('other', [0, 360]);
    angle('yaw', [-45, 45]);
    angle('dial', [0, 1], 1);
    const made = withFormula({ id: 'd', name: 'D', kind: 'continuous' }, formula, rig);
    expect([made.range, made.period]).toEqual([range, period]);
    expect(withFormula(made, { op: 'maximum', of: ['fog', 'bell'] }, rig).period).toBeUndefined();
  });

  it('holds every value that the engine makes of sources within theirs', () => {
    const ops: FormulaOp[] = ['sum', 'difference', 'product', 'minimum', 'maximum', 'average', 'magnitude'];
    fc.assert(
      fc.property(fc.constantFrom(...ops), fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (op, fog, touch) => {
        const rig = testRig([]);
        const { change, id } = addDerived(rig, 'Made', { op, of: ['fog', 'fog.touch'] } as Formula);
        const applied = applyEdit(rig, { kind: 'change', changes: [change] });
        if (!applied.ok) throw new Error(applied.message);
        const { move, engine, index } = play(applied.document);
        move('fog', 1, fog);
        move('fog.touch', 2, touch);
        const [lo, hi] = applied.document.derived[0]!.range;
        const value = engine.values[index(id)]!;
        // Ranges are rounded to four figures.
        expect(value).toBeGreaterThanOrEqual(lo - 1e-3);
        expect(value).toBeLessThanOrEqual(hi + 1e-3);
      }),
      { numRuns: 150 },
    );
  });
});

it('says formulas in words', () => {
  const nameOf = (id: string) => id.toUpperCase();
  const words = (formula: Formula) => formulaInWords(formula, nameOf);
  expect(words({ op: 'difference', of: ['a', 'b'] })).toBe('A − B');
  expect(words({ op: 'maximum', of: ['a', 'b', 'c'] })).toBe('the highest of A, B and C');
  expect(words({ op: 'oscillator', shape: 'random', rateHz: 2, depth: { signal: 'a' } })).toBe('a random step at 2 Hz, A deep');
  expect(words({ op: 'accumulate', of: 'a', lo: 0, hi: 1, leakPerS: 0.5 })).toBe('A added up over time, from 0 to 1, leaking 0.5 of itself a second');
});

it('offers no source that would make a circle', () => {
  let rig = testRig([]);
  for (const [name, of] of [['One', 'fog'], ['Two', 'one']] as const) {
    const applied = applyEdit(rig, { kind: 'change', changes: [addDerived(rig, name, { op: 'sum', of: [of] }).change] });
    if (applied.ok) rig = applied.document;
  }
  expect(possibleSources(rig, 'one')).toEqual(['fog', 'fog.touch', 'bell']);
  expect(possibleSources(rig, 'two')).toContain('one');
});

it('begins every formula with signals that there are, and takes the unit that its sources share', () => {
  const rig = testRig([]);
  const ops: FormulaOp[] = ['sum', 'distance', 'magnitude', 'tilt', 'speed', 'accumulate', 'envelope', 'hold', 'oscillator', 'constant'];
  for (const op of ops) expect(applyEdit(rig, { kind: 'change', changes: [addDerived(rig, op, freshFormula(op, [], rig)).change] }).ok).toBe(true);
  const metric = { ...rig, signals: rig.signals.map((signal) => ({ ...signal, unit: 'mm' as const })) };
  const base = { id: 'd', name: 'D', kind: 'continuous' as const };
  expect(withFormula(base, { op: 'sum', of: ['fog', 'bell'] }, metric).unit).toBe('mm');
  expect(withFormula(base, { op: 'product', of: ['fog', 'bell'] }, metric).unit).toBe('unit');
});

it('a derived signal that goes takes its mappings, its followers and what scenes say of them with it', () => {
  const rig = testRig([{ signal: 'made' }]);
  rig.derived = [
    { id: 'made', name: 'Made', kind: 'continuous', unit: 'unit', range: [0, 1], formula: { op: 'sum', of: ['fog'] } },
    { id: 'after', name: 'After', kind: 'continuous', unit: 'unit', range: [0, 1], formula: { op: 'speed', of: 'made' } },
  ];
  rig.scenes = [{ id: 's', name: 'S', mappings: { m0: true }, pages: {}, values: { made: 1, fog: 1 }, messages: [], glideMs: 0, recalledBy: { signal: 'bell' } }];
  const applied = applyEdit(rig, { kind: 'change', changes: removeSignals(rig, ['made']) });
  if (!applied.ok) throw new Error(applied.message);
  expect(applied.document).toMatchObject({ derived: [], mappings: [] });
  expect(applied.document.scenes[0]).toMatchObject({ mappings: {}, values: { fog: 1 }, recalledBy: { signal: 'bell' } });
});
