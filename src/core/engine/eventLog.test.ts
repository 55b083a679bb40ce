import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hexOf } from '../midi/describe';
import type { RigDocument, RigMapping } from '../rig/document';
import { Engine } from './engine';
import type { EngineEvent } from './event';
import { fromLog, toLog, type LoggedEvent } from './eventLog';
import { testRig } from './testRig';

const MAPPINGS: Partial<RigMapping>[] = [
  { shaping: { smoothing: { kind: 'onePole', timeConstantMs: 40 }, curve: { kind: 's', amount: 1 } } },
  { signal: 'bell', message: { kind: 'note', channel: 10, note: 60, velocity: 100, repeat: { beats: 0.25 } } },
  { signal: 'fog.touch', message: { kind: 'note', channel: 2, note: 62, velocity: 90, length: { ms: 35 } }, gate: { press: 'toggle' } },
  { signal: 'fog', message: { kind: 'controlChange14', channel: 4, controller: 20, range: [0, 16383] }, shaping: { deglitch: { median: 3 } } },
];

/** Every subset and order of the mappings is another rig: numbers change from one to the next. */
function rigOf(order: readonly number[]): RigDocument {
  const rig = testRig(order.map((m) => ({ id: `m${m}`, ...MAPPINGS[m] })));
  rig.outputs[0]!.sendsClock = order.length % 2 === 0;
  rig.scenes = [
    { id: 'low', name: 'Low', mappings: Object.fromEntries(order.map((m) => [`m${m}`, m % 2 === 0])), pages: {}, values: { fog: 0.2 }, messages: [{ output: 'weather', bytes: [0x93, 50, 80] }], glideMs: 80 },
    { id: 'high', name: 'High', mappings: Object.fromEntries(order.map((m) => [`m${m}`, true])), pages: {}, values: { fog: 0.9 }, messages: [{ output: 'weather', bytes: [0xc2, 7] }], glideMs: 0 },
  ];
  return rig;
}

/** An engine that says what it sends as text. */
function rendering(rig: RigDocument): { engine: Engine; sent: string[] } {
  const sent: string[] = [];
  const engine: Engine = new Engine(rig, { midi: (output, mapping, bytes, length) => void sent.push(`${engine.messageMs} ${output} ${mapping} ${hexOf(bytes.slice(0, length))}`), osc: () => undefined }, 7);
  return { engine, sent };
}

const order = fc.shuffledSubarray([0, 1, 2, 3], { minLength: 1 });
const step = fc.oneof(
  { weight: 6, arbitrary: fc.record({ kind: fc.constant('sample' as const), signal: fc.integer({ min: 0, max: 2 }), value: fc.constantFrom(0, 0.25, 0.6, 1, Infinity, -Infinity, NaN) }) },
  { weight: 6, arbitrary: fc.constant({ kind: 'tick' as const }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('rig' as const), order }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('recall' as const), scene: fc.constantFrom('low', 'high', 'none') }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('tempo' as const), bpm: fc.constantFrom(null, 90, 171.5) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('pass' as const), input: fc.constantFrom('keys', 'pads'), output: fc.constant('weather'), bytes: fc.constantFrom([0x90, 40, 70], [0x80, 40, 0], [0xb0, 64, 127]) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('endThru' as const), input: fc.constantFrom('keys', 'pads') }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('show' as const), mapping: fc.integer({ min: 0, max: 3 }), level: fc.constantFrom(0, 0.4, 1) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('sayAgain' as const), mappings: fc.constantFrom([0], [0, 1, 2, 3]) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('restore' as const), signal: fc.integer({ min: 0, max: 2 }), value: fc.constantFrom(0.1, 0.8) }) },
  { weight: 1, arbitrary: fc.constant({ kind: 'panic' as const }) },
);

describe('the log of events', () => {
  it('replayed from JSON gives the same bytes at the same times, with edits, scenes and all else between', () => {
    fc.assert(
      fc.property(order, fc.array(fc.tuple(step, fc.integer({ min: 0, max: 30 })), { maxLength: 60 }), (first, steps) => {
        const performed = rendering(rigOf(first));
        const log: string[] = [];
        const take = (event: EngineEvent) => {
          const logged = toLog(event, performed.engine.plan);
          if (logged) log.push(JSON.stringify(logged));
          performed.engine.take(event);
        };
        take({ kind: 'start', timeMs: 0 });
        let timeMs = 0;
        for (const [what, afterMs] of steps) {
          timeMs += afterMs;
          if (what.kind === 'rig') take({ kind: 'rig', rig: rigOf(what.order), timeMs });
          else if (what.kind === 'pass') take({ ...what, bytes: Uint8Array.from(what.bytes), timeMs });
          else take({ ...what, timeMs } as EngineEvent);
        }
        take({ kind: 'release', timeMs: timeMs + 100 });

        const replayed = rendering(rigOf(first));
        for (const line of log) {
          const event = fromLog(JSON.parse(line) as LoggedEvent, replayed.engine.plan);
          if (event) replayed.engine.take(event);
        }
        expect(replayed.sent).toEqual(performed.sent);
      }),
      { numRuns: 2000 },
    );
  });
  it('leaves out what names something that is not there', () => {
    const { engine } = rendering(rigOf([0]));
    expect(toLog({ kind: 'sample', signal: 99, timeMs: 1, value: 1 }, engine.plan)).toBeNull();
    expect(fromLog({ kind: 'sample', signal: 'anchor', timeMs: 1, value: 1 }, engine.plan)).toBeNull();
    expect(fromLog({ kind: 'show', mapping: 'm3', timeMs: 1, level: 1 }, engine.plan)).toBeNull();
  });
});
