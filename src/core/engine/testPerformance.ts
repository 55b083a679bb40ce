import fc from 'fast-check';
import { hexOf } from '../midi/describe';
import type { RigDocument, RigMapping } from '../rig/document';
import type { MemberPart } from '../ensemble/parts';
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
  if (order.includes(0)) withEnsemble(rig, order);
  rig.outputs[0]!.sendsClock = order.length % 2 === 0;
  rig.scenes = [
    { id: 'low', name: 'Low', mappings: Object.fromEntries(order.map((m) => [`m${m}`, m % 2 === 0])), pages: {}, values: { fog: 0.2 }, messages: [{ output: 'weather', bytes: [0x93, 50, 80] }], glideMs: 80 },
    { id: 'high', name: 'High', mappings: Object.fromEntries(order.map((m) => [`m${m}`, true])), pages: {}, values: { fog: 0.9 }, messages: [{ output: 'weather', bytes: [0xc2, 7] }], glideMs: 0 },
  ];
  return rig;
}

/** A crew of all kinds, led by the voices of "hull" and the signals. */
function withEnsemble(rig: RigDocument, order: readonly number[]): void {
  const last = order.at(-1)!;
  const member = { on: true, level: 1, octave: 0, begins: (['now', 'beat', 'bar'] as const)[last % 3]!, swing: last % 2 ? 0.6 : 0.5, feelMs: (last % 3) * 7 - 7 };
  const parts: [string, MemberPart][] = [
    ['chord', { kind: 'chord', tonic: 2, mode: 'dorian', from: { by: 'stream', stream: 'hull' }, tones: 4, qualities: [{ gate: 'bell', quality: '9' }], inversion: 0, leads: last > 1, spread: 'drop 2', bass: 'root', low: 50, stays: (['nothing', 'for others', 'sounding'] as const)[last % 3]! }],
    ['strum', { kind: 'strum', listens: 'chord', across: 'fog', by: 'fog.touch', strings: 6, directions: 'both', ringMs: 90, dampedBy: 'chord', fullMs: 100 }],
    ['bass', { kind: 'bass', listens: 'chord', way: 'walk', tones: ['root'], low: 28, everyBeats: 0.25, length: 0.7, strike: 0.9 }],
    ['arpeggio', { kind: 'arpeggio', listens: last > 2 ? 'chord' : 'hull', order: 'random', octaves: 2, everyBeats: 0.125, length: 0.5, accents: [1, 0.5], latch: last > 4 }],
    ['drums', { kind: 'pattern', listens: 'chord', everyBeats: 0.125, patterns: [{ name: 'A', lanes: [{ name: 'low', plays: { note: 36 }, length: 5, hits: [{ at: 0, strike: 1, lasts: 1, times: 3 }, { at: 3, strike: 0.4, lasts: 2, chance: 0.5 }] }, { name: 'tone', plays: { tone: 2 }, length: 3, hits: [{ at: 1, strike: 0.7, lasts: 0.5 }] }] }], present: 0 }],
    ['notes', { kind: 'stream', everyBeats: 0.2, pitch: 'fog', low: 40, high: 80, tonic: 0, mode: 'minor', strike: { signal: 'fog' }, length: 0.5, while: 'bell' }],
    ['echo', { kind: 'echo', listens: 'arpeggio', times: 3, everyBeats: 0.1, softer: 0.7, fewer: 0.8, transpose: 12 }],
  ];
  rig.members = parts.filter((_, i) => i < 3 || order.includes(i - 1)).filter(([id], _, all) => id !== 'echo' || all.some(([other]) => other === 'arpeggio')).map(([id, part]) => ({ ...member, id, name: id, part }));
  rig.voiceMappings.push(...rig.members.map(({ id }, i) => ({ ...voiceRig({}).voiceMappings[0]!, id: `to.${id}`, stream: id, layout: { kind: 'poly', channel: 7 + i, voices: 16, steal: 'oldest' } as const })));
  if (last === 5) rig.startsBy = 'first note';
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
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('tempo' as const), bpm: fc.constantFrom(100, 300), beat: fc.constantFrom(0, 3.97, 16) }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('transport' as const), does: fc.constantFrom('start' as const, 'start' as const, 'continue' as const, 'stop' as const) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('tapped' as const), bpm: fc.constantFrom(60, 333) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('goTo' as const), beat: fc.constantFrom(0, 7.5) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('nudge' as const), beats: fc.constantFrom(-0.02, 0.02) }) },
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
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('heldOn' as const), signal: fc.integer({ min: 0, max: 2 }), value: fc.constantFrom(0.4, 1) }) },
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
