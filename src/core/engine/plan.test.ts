import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { RigDocument, RigMapping } from '../rig/document';
import { SEGMENT } from '../shaping/curve';
import { compile, type Plan } from './plan';
import { CURVE } from './planShaping';
import { testRig } from './testRig';

/** A plan with places replaced by what lies there, so that two that mean the same are equal. */
function meaning(plan: Plan) {
  const mappings = plan.mappings.map(({ address, curveAt, ...mapping }) => ({
    ...mapping,
    address: plan.addresses[address] ?? null,
    curve: [mapping.curve, ...plan.curves.slice(curveAt, curveAt + mapping.curveCount * (mapping.curve === CURVE.points ? SEGMENT : 2))],
  }));
  const drives = plan.signalIds.map((_, s) => [...plan.drives.slice(plan.driveStart[s], plan.driveStart[s + 1])]);
  return { mappings, drives, signals: plan.signalIds, outputs: plan.outputIds, triggers: plan.triggers, springs: plan.springs };
}

const mapping: fc.Arbitrary<Partial<RigMapping>> = fc
  .record({
    id: fc.constantFrom('a', 'b', 'c', 'd', 'e'),
    signal: fc.constantFrom('fog', 'bell', 'fog.touch'),
    merge: fc.constantFrom(undefined, 'sum' as const),
    message: fc.oneof(
      fc.record({ kind: fc.constant('controlChange' as const), channel: fc.constant(1), controller: fc.constantFrom(20, 21), range: fc.constant([0, 127] as [number, number]) }),
      fc.constant<RigMapping['message']>({ kind: 'note', channel: 1, note: 60, velocity: 100 }),
      fc.constant<RigMapping['message']>({ kind: 'pitchBend', channel: 1, unit: 'semitones', range: [-2, 2] }),
    ),
    shaping: fc.constantFrom<RigMapping['shaping'][]>({}, { curve: { kind: 'points', points: [[0, 0], [0.3, 0.8], [1, 1]] } }, { curve: { kind: 'stepped', points: [[0, 0.2], [0.5, 0.9]] } }, { deadZone: { kind: 'centre', inner: 0.1, outer: 1 } }),
  })
  .map((made) => JSON.parse(JSON.stringify(made)) as Partial<RigMapping>);

type Edit = (rig: RigDocument) => RigDocument;
const edit: fc.Arbitrary<Edit> = fc.oneof(
  fc.tuple(fc.nat(4), mapping).map(([i, made]): Edit => (rig) => (rig.mappings.length === 0 ? rig : { ...rig, mappings: rig.mappings.with(i % rig.mappings.length, { ...testRig([made]).mappings[0]!, id: rig.mappings[i % rig.mappings.length]!.id }) })),
  fc.nat(4).map((i): Edit => (rig) => ({ ...rig, mappings: rig.mappings.filter((_, m) => m !== i) })),
  mapping.map((made): Edit => (rig) => (rig.mappings.some(({ id }) => id === made.id) ? rig : { ...rig, mappings: [testRig([made]).mappings[0]!, ...rig.mappings] })),
  fc.constantFrom<Edit[]>(
    (rig) => ({ ...rig, name: 'Other' }),
    (rig) => ({ ...rig, signals: rig.signals.map((signal) => ({ ...signal, name: `${signal.name}!` })) }),
    (rig) => ({ ...rig, signals: rig.signals.with(0, { ...rig.signals[0]!, rest: rig.signals[0]!.rest === undefined ? 0.5 : (undefined as never), pair: 'bell' }) }),
    (rig) => ({ ...rig, signals: [...rig.signals].reverse() }),
    (rig) => ({ ...rig, receivers: [{ ...rig.receivers[0]!, bendRangeSemitones: rig.receivers[0]!.bendRangeSemitones + 1 }] }),
    (rig) => ({ ...rig, scenes: [{ id: 's', name: 'S', mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0, recalledBy: { signal: 'bell' } }] }),
  ),
);

it('a plan that takes over what an edit left alone means what a fresh one means', () => {
  fc.assert(
    fc.property(fc.uniqueArray(mapping, { selector: ({ id }) => id, maxLength: 5 }), fc.array(edit, { maxLength: 12 }), (first, edits) => {
      let rig = testRig(first);
      let plan = compile(rig);
      for (const change of edits) {
        rig = change(rig);
        plan = compile(rig, 1, plan);
        expect(meaning(plan)).toEqual(meaning(compile(rig)));
      }
    }),
    { numRuns: 500 },
  );
});

it('lays everything out anew once too much of it is not used any more', () => {
  let rig = testRig([{}]);
  let plan = compile(rig);
  for (let i = 0; i < 3000; i++) {
    rig = { ...rig, mappings: [{ ...rig.mappings[0]!, message: { kind: 'osc', address: `/${i}`, arguments: [], range: [0, 1] }, shaping: { curve: { kind: 'points', points: [[0, 0], [1, i / 3000]] } } }] };
    plan = compile(rig, 1, plan);
  }
  expect(plan.addresses.length).toBeLessThan(1100);
  expect(plan.curves.length).toBeLessThan(6000);
});
