import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { RigDocument } from '../rig/document';
import { ALL_MAPPINGS, eventOf, performer, rigOf, step, type Step } from './testPerformance';
import { play } from './testPlay';
import { testRig } from './testRig';

const NAMED = ['inputs', 'signals', 'derived', 'mappings', 'streams', 'members', 'voiceMappings', 'scales', 'outputs', 'receivers', 'surfaces', 'scenes'] as const;

/** What each says that is played, with ticks as the hub gives them, and before some steps an edit. Which of two speaks first at one tick is left open. */
function played(rig: RigDocument, steps: readonly { what: Step; after: number }[], edits: ReadonlyMap<number, RigDocument>): string[] {
  const { engine, sent } = performer(rig);
  let timeMs = 0;
  engine.take({ kind: 'start', timeMs });
  steps.forEach(({ what, after }, i) => {
    for (const untilMs = timeMs + after; timeMs < untilMs; ) engine.take({ kind: 'tick', timeMs: (timeMs += 4) });
    const edit = edits.get(i);
    if (edit) engine.take({ kind: 'rig', rig: edit, timeMs });
    engine.take(eventOf(what, timeMs));
  });
  for (let i = 0; i < 100; i++) engine.take({ kind: 'tick', timeMs: (timeMs += 4) });
  const who = (line: string) => line.split(' ').slice(1, 4).join(' ');
  return sent.sort((a, b) => who(a).localeCompare(who(b)));
}

it('an edit that nobody can hear changes no byte, whenever it is made: the same again, another name, one more signal', () => {
  const steps = fc.array(fc.record({ what: step.filter(({ kind }) => kind !== 'rig' && kind !== 'show'), after: fc.constantFrom(0, 4, 8, 32, 120) }), { minLength: 1, maxLength: 40 });
  const edits = fc.array(fc.record({ at: fc.nat(39), how: fc.constantFrom('again', 'name', 'signal') }), { minLength: 1, maxLength: 3 });
  fc.assert(
    fc.property(fc.shuffledSubarray(ALL_MAPPINGS, { minLength: 1 }), steps, edits, (order, all, made) => {
      const rig = rigOf(order);
      const edited = made.map(({ at, how }, i): [number, RigDocument] => {
        const next = structuredClone(rig);
        if (how === 'name') {
          for (const mapping of next.mappings) Object.assign(mapping, { remark: 'Loud in the hall.', onStage: i });
          for (const list of NAMED) for (const thing of next[list]) thing.name += ` ${i}`;
        }
        if (how === 'signal') next.signals.push({ ...next.signals[0]!, id: `more${i}`, name: 'More' });
        return [at, next];
      });
      expect(played(rig, all, new Map(edited))).toEqual(played(rig, all, new Map()));
    }),
    { numRuns: 300 },
  );
});

it('another name is no sample: what is smoothed goes the same way to the next one', () => {
  const levels = (renames: boolean): number[] => {
    const rig = testRig([{ shaping: { smoothing: { kind: 'onePole', timeConstantMs: 100 } } }]);
    const { engine, move } = play(rig);
    const found: number[] = [];
    for (let i = 0; i < 20; i++) {
      move('fog', i * 100, i % 2);
      found.push(engine.levels[0]!);
      if (renames) engine.take({ kind: 'rig', rig: { ...rig, mappings: [{ ...rig.mappings[0]!, name: `Fog ${i}` }] }, timeMs: i * 100 + 40 });
    }
    return found;
  };
  expect(levels(true)).toEqual(levels(false));
});
