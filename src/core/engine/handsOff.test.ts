import fc from 'fast-check';
import { expect, it } from 'vitest';
import { decode } from '../midi/decode';
import type { Note } from '../messages/note';
import type { GateSpec, RigDocument, RigMapping, Shaping } from '../rig/document';
import type { Formula } from '../signal/formulas';
import { PRESS, type PlannedMapping } from './planMapping';
import { levelStanding } from './rest';
import { play } from './testPlay';
import { testRig } from './testRig';

const HANDS = ['fog', 'fog.touch', 'bell', 'rope', 'oar'];
const signal = fc.constantFrom(...HANDS, 'd0', 'd1', 'd0', 'd1');
const note = fc.record({ key: fc.constantFrom(0, 1), more: fc.constantFrom<Partial<Note>>({}, {}, { length: { ms: 300 } }, { repeat: { rateHz: 6 } }, { chord: [0, 4] }, { length: 'untilPressedAgain' }, { length: { ms: 100 }, repeat: { beats: 0.25 } }) });
const gate = fc.constantFrom<GateSpec | undefined>(undefined, { press: 'toggle' }, { press: { radio: 'a' } }, { on: 0.5 }, { on: 0.8, off: 0.1 }, { minOnMs: 300 }, { minGapMs: 300 });
const shaping = fc.constantFrom<Shaping>({}, {}, { smoothing: { kind: 'onePole', timeConstantMs: 80 } }, { rangeIn: { lo: 0, hi: 0.5 } }, { deglitch: { median: 5 } }, { curve: { kind: 'power', k: 2 } }, { rangeIn: { lo: 1, hi: 0 } });
/** Each mapping has keys of its own. */
const [KEYS_FROM, KEYS] = [40, 10];
const hand = fc.constantFrom(...HANDS);
const formula: fc.Arbitrary<Formula> = fc.oneof(
  fc.record({ op: fc.constantFrom('maximum' as const, 'minimum' as const, 'sum' as const), of: fc.tuple(hand, hand) }),
  fc.record({ op: fc.constant('envelope' as const), of: hand, attackMs: fc.constant(30), releaseMs: fc.constant(200) }),
  fc.record({ op: fc.constant('hold' as const), of: hand, gate: hand }),
);
const mapping = fc.record({ signal, note, gate, shaping, on: fc.constantFrom(true, true, false) });
const spec = fc.record({ mappings: fc.tuple(mapping, mapping, mapping), formulas: fc.tuple(formula, formula) });
type Spec = typeof spec extends fc.Arbitrary<infer S> ? S : never;

function rigOf({ mappings, formulas }: Spec): RigDocument {
  const rig = testRig(mappings.map(({ note: { key, more }, gate: set, ...rest }, m): Partial<RigMapping> => ({ ...rest, message: { kind: 'note', channel: 1, note: KEYS_FROM + KEYS * m + key, velocity: 90, ...more }, ...(set && { gate: set }) })));
  for (const id of HANDS.slice(3)) rig.signals.push({ ...rig.signals[2]!, id, name: id });
  rig.derived = formulas.map((made, d) => ({ id: `d${d}`, name: `D ${d}`, kind: 'continuous', unit: 'unit', range: [0, 1], formula: made }));
  rig.scenes = [true, false].map((switched) => ({ id: String(switched), name: String(switched), mappings: Object.fromEntries(rig.mappings.map(({ id }) => [id, switched])), pages: {}, values: {}, messages: [], glideMs: 0 }));
  return rig;
}

/** One thing of one mapping, or the formula of a derived signal, is another. */
const edit = fc.record({ kind: fc.constant('edit' as const), at: fc.nat(2), field: fc.constantFrom('signal' as const, 'note' as const, 'gate' as const, 'shaping' as const, 'on' as const, 'formula' as const, 'formula' as const), mapping, formula });
function edited({ mappings, formulas }: Spec, { at, field, mapping: of, formula: made }: typeof edit extends fc.Arbitrary<infer E> ? E : never): Spec {
  if (field === 'formula') return { mappings, formulas: formulas.map((one, d) => (d === at % 2 ? made : one)) as Spec['formulas'] };
  return { mappings: mappings.map((one, m) => (m === at ? { ...one, [field]: of[field] } : one)) as Spec['mappings'], formulas };
}

const steps = fc.array(
  fc.record({
    afterMs: fc.constantFrom(0, 4, 20, 60, 250),
    does: fc.oneof(
      { weight: 6, arbitrary: fc.record({ kind: fc.constantFrom('sample' as const, 'sample' as const, 'heldOn' as const), of: hand, value: fc.constantFrom(0, 0.3, 1, 1) }) },
      { weight: 6, arbitrary: edit },
      { weight: 1, arbitrary: fc.record({ kind: fc.constant('recall' as const), scene: fc.constantFrom('true', 'false') }) },
      { weight: 1, arbitrary: fc.constant({ kind: 'panic' as const }) },
    ),
  }),
  { minLength: 8, maxLength: 25 },
);

/** Whether a note is left on by whoever plays, and not forgotten: it was latched, or what it is made of stands where it is on. */
const isLeftOn = (mapping: PlannedMapping, values: Float64Array, curves: Float64Array): boolean =>
  (mapping.rig.message.kind === 'note' && mapping.rig.message.length === 'untilPressedAgain') || mapping.press !== PRESS.momentary || levelStanding(mapping, values, curves) >= mapping.gateOff;

it('once all hands are off nothing sounds that was not left on, whatever was edited, switched or lost while it was held', () => {
  fc.assert(
    fc.property(spec, steps, (first, all) => {
      const { engine, index, move, run, sent } = play(rigOf(first));
      let now = first;
      const held = new Set<string>();
      let timeMs = 1000;
      for (const { afterMs, does } of all) {
        run(timeMs, (timeMs += afterMs));
        if ('of' in does && does.value > 0) held.add(does.of);
        if (does.kind === 'edit') engine.take({ kind: 'rig', timeMs, rig: rigOf((now = edited(now, does))) });
        else engine.take('of' in does ? { kind: does.kind, timeMs, signal: index(does.of), value: does.value } : { ...does, timeMs });
      }
      // What is not held is not moved either: nothing is heard of it once more.
      for (const id of held) move(id, timeMs, 0);
      run(timeMs, timeMs + 4000);
      const sounding = new Set<number>();
      for (const { bytes } of sent) {
        const message = decode(bytes);
        if (message?.kind === 'noteOn') sounding.add(message.note);
        if (message?.kind === 'noteOff') sounding.delete(message.note);
      }
      const { mappings, curves } = engine.plan;
      expect([...sounding].filter((key) => !isLeftOn(mappings[Math.floor((key - KEYS_FROM) / KEYS)]!, engine.values, curves))).toEqual([]);
    }),
    { numRuns: 1000 },
  );
});
