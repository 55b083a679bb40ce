import fc from 'fast-check';
import { hexOf } from '../midi/describe';
import type { RigDocument, RigMapping } from '../rig/document';
import type { Pull } from '../voices/pull';
import { voiceEvent } from '../voices/event';
import { Engine } from './engine';
import type { EngineEvent } from './event';
import { whoOf, VOICE_BASE } from './sink';
import { voiceRig } from './voices/testVoices';

const MAPPINGS: Partial<RigMapping>[] = [
  { shaping: { smoothing: { kind: 'onePole', timeConstantMs: 40 }, curve: { kind: 's', amount: 1 } } },
  { signal: 'bell', message: { kind: 'note', channel: 10, note: 60, velocity: 100, repeat: { beats: 0.25 } } },
  { signal: 'fog.touch', message: { kind: 'note', channel: 2, note: 62, velocity: 90, length: { ms: 35 } }, gate: { press: 'toggle' } },
  { signal: 'fog', message: { kind: 'controlChange14', channel: 4, controller: 20, range: [0, 16383] }, shaping: { deglitch: { median: 3 } } },
  { signal: 'gusts', message: { kind: 'pitchBend', channel: 5, range: [-2, 2] }, shaping: { smoothing: { kind: 'oneEuro', minCutoffHz: 1, beta: 0.1, derivativeCutoffHz: 1 } } },
  { signal: 'held', message: { kind: 'parameter', channel: 6, registered: false, parameter: 300, bits: 14, range: [0, 16383] } },
];
const PULL: Pull = { scale: { kind: 'mode', root: 2, mode: 'major' }, referenceHz: 442, atStart: 0.5, held: 0.8, bandCents: 60, speedMs: 90, atRelease: 1 };

/** So many mappings there are to choose from. */
export const ALL_MAPPINGS = MAPPINGS.map((_, m) => m);

/** Every subset and order of the mappings is another rig: numbers change from one to the next. */
export function rigOf(order: readonly number[]): RigDocument {
  const rig = voiceRig(
    ...(order.includes(1) ? [{}] : []),
    ...(order.includes(3) ? [{ id: 'poly', layout: { kind: 'run', first: 12, last: 13, steal: 'quietest' } as const, pitch: { transpose: 12, bends: true, pull: PULL } }] : []),
  );
  rig.mappings = order.map((m) => ({ id: `m${m}`, name: `Mapping ${m}`, on: true, signal: 'fog', shaping: {}, message: { kind: 'controlChange', channel: 3, controller: 21, range: [0, 127] }, output: 'weather', ...MAPPINGS[m] }));
  rig.derived = [
    { id: 'gusts', name: 'Gusts', kind: 'continuous', unit: 'unit', range: [-1, 1], formula: { op: 'oscillator', shape: 'random', rateHz: 8, depth: 1 } },
    { id: 'held', name: 'Held', kind: 'continuous', unit: 'unit', range: [0, 1], formula: { op: 'hold', of: 'fog', gate: 'bell' } },
  ];
  rig.outputs[0]!.sendsClock = order.length % 2 === 0;
  rig.scenes = [
    { id: 'low', name: 'Low', mappings: Object.fromEntries(order.map((m) => [`m${m}`, m % 2 === 0])), pages: {}, values: { fog: 0.2 }, messages: [{ output: 'weather', bytes: [0x93, 50, 80] }], glideMs: 80 },
    { id: 'high', name: 'High', mappings: Object.fromEntries(order.map((m) => [`m${m}`, true])), pages: {}, values: { fog: 0.9 }, messages: [{ output: 'weather', bytes: [0xc2, 7] }], glideMs: 0 },
  ];
  return rig;
}

const voice = fc.integer({ min: 1, max: 4 });
const unit = fc.constantFrom(NaN, 0, 0.3, 0.77, 1);
const pitch = fc.constantFrom(48, 60.2, 60.5, 72.0625, 90);

/** Something that happens, its time left out; a rig by the order of its mappings. */
export const step = fc.oneof(
  { weight: 8, arbitrary: fc.record({ kind: fc.constant('sample' as const), signal: fc.integer({ min: 0, max: 2 }), value: fc.constantFrom(0, 0.25, 0.6, 1, Infinity, -Infinity, NaN) }) },
  { weight: 8, arbitrary: fc.constant({ kind: 'tick' as const }) },
  { weight: 4, arbitrary: fc.record({ voice, pitch, strike: unit, pressure: unit, slide: unit }).map((said) => ({ ...voiceEvent('on'), ...said })) },
  { weight: 4, arbitrary: fc.record({ voice, pitch, pressure: unit, slide: unit }).map((said) => ({ ...voiceEvent('move'), ...said })) },
  { weight: 3, arbitrary: fc.record({ voice, release: unit }).map((said) => ({ ...voiceEvent('off'), ...said })) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('pedal' as const), stream: fc.constant(0), controller: fc.constantFrom(64, 66), value: fc.constantFrom(0, 127) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('endStream' as const), stream: fc.constant(0) }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('rig' as const), order: fc.shuffledSubarray(ALL_MAPPINGS, { minLength: 1 }) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('recall' as const), scene: fc.constantFrom('low', 'high', 'none') }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('tempo' as const), bpm: fc.constantFrom(null, 90, 171.5) }) },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('pass' as const),
      input: fc.constantFrom('keys', 'pads'),
      output: fc.constant('weather'),
      bytes: fc.constantFrom([0x90, 40, 70], [0x80, 40, 0], [0xb0, 64, 127], [0xb5, 99, 2]).map((bytes) => Uint8Array.from(bytes)),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('endThru' as const), input: fc.constantFrom('keys', 'pads') }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('show' as const), mapping: fc.integer({ min: 0, max: 3 }), level: fc.constantFrom(0, 0.4, 1) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('sayAgain' as const), mappings: fc.constantFrom([0], [0, 1, 2, 3]) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('restore' as const), signal: fc.integer({ min: 0, max: 2 }), value: fc.constantFrom(0.1, 0.8) }) },
  { weight: 1, arbitrary: fc.constant({ kind: 'panic' as const }) },
);
export type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

export function eventOf(what: Step, timeMs: number): EngineEvent {
  return what.kind === 'rig' ? { kind: 'rig', rig: rigOf(what.order), timeMs } : ({ ...what, timeMs } as EngineEvent);
}

/** An engine that says what it sends as text: time, output, who, mapping, bytes. */
export function performer(rig: RigDocument, seed = 7): { engine: Engine; sent: string[] } {
  const sent: string[] = [];
  const engine: Engine = new Engine(
    rig,
    {
      midi(output, by, bytes, length) {
        const { plan } = engine;
        const mapper = by >= VOICE_BASE ? plan.voices[by - VOICE_BASE] : plan.mappings[by];
        sent.push(`${engine.messageMs} ${plan.outputIds[output]} ${whoOf(by)} ${mapper?.rig.id ?? null} ${hexOf(bytes.slice(0, length))}`);
      },
      osc: (output, _by, path, args) => void sent.push(`${engine.messageMs} ${output} ${path} ${JSON.stringify(args)}`),
    },
    seed,
  );
  return { engine, sent };
}
