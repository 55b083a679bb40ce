import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { ChordPart, MemberPart, RigMember } from '../../ensemble/parts';
import type { RigDocument } from '../../rig/document';
import { crew, member, playCrew, sounding, swell } from './testCrew';

const parts: MemberPart[] = [
  { ...swell, leads: true, tones: 4 },
  { ...swell, from: { by: 'gates', gates: [{ gate: 'bell', degree: 1 }, { gate: 'fog.touch', degree: 2 }] }, qualities: [{ gate: 'bell', quality: 'm9' }], stays: 'sounding' },
  { kind: 'strum', listens: 'm0', across: 'fog', touch: 'fog.touch', by: 'bell', strings: 12, directions: 'both', ringMs: 700, dampedBy: 'letting go', fullMs: 100 },
  { kind: 'bass', listens: 'm0', way: 'walk', tones: ['root'], low: 30, everyBeats: 0.5, length: 1.5, strike: 0.8 },
  { kind: 'arpeggio', listens: 'm0', order: 'both', octaves: 2, everyBeats: 0.25, length: 2, accents: [1, 0.3], latch: true },
  { kind: 'pattern', listens: 'm0', everyBeats: 0.25, patterns: [{ name: 'A', lanes: [{ name: 'x', plays: { note: 60 }, length: 7, hits: [{ at: 0, strike: 1, lasts: 9, times: 4 }, { at: 3, strike: 0.5, lasts: 1, chance: 0.5 }] }, { name: 't', plays: { tone: 1 }, length: 2, hits: [{ at: 0, strike: 1, lasts: 4 }] }] }], present: 0, fill: { gate: 'bell', pattern: 0 } },
  { kind: 'stream', everyBeats: 0.2, pitch: 'fog', low: 40, high: 90, tonic: 0, mode: 'major', strike: { signal: 'fog' }, length: 3, while: 'fog.touch' },
  { kind: 'stream', everyBeats: 0.2, pitch: 'fog', low: 40, high: 90, tonic: 0, mode: 'major', strike: 1, length: 2, by: 'bell', while: 'fog.touch', holds: true },
  { kind: 'echo', listens: 'm4', times: 5, everyBeats: 0.3, softer: 0.9, fewer: 0.7, transpose: 1 },
];
/** The crew in variations: who is on or alone, when it begins, where it plays. */
const variant = fc.record({ off: fc.subarray([0, 1, 2, 3, 4, 5, 6, 7, 8]), alone: fc.constantFrom(null, null, 0, 4), begins: fc.constantFrom('now' as const, 'beat' as const, 'bar' as const), swing: fc.constantFrom(0.5, 0.7), feelMs: fc.constantFrom(-15, 0, 30), less: fc.constantFrom(0, 0, 1, 5), oneChannel: fc.boolean(), first: fc.boolean() });
type Variant = typeof variant extends fc.Arbitrary<infer V> ? V : never;

function rigOf({ off, alone, less, oneChannel, first, ...more }: Variant): RigDocument {
  const members: RigMember[] = parts.slice(0, parts.length - less).map((part, i) => member(part, { id: `m${i}`, name: `Member ${i}`, on: !off.includes(i), ...(alone === i && { alone: true }), begins: more.begins, swing: more.swing, feelMs: more.feelMs }));
  const rig = crew(...members);
  // Members that share a channel meet on its keys.
  if (oneChannel) for (const mapping of rig.voiceMappings) mapping.layout = { kind: 'poly', channel: 1, voices: 8, steal: 'quietest' };
  return { ...rig, ...(first && { startsBy: 'first note' as const }), meter: [3, 4] };
}

const step = fc.oneof(
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('press' as const), pitch: fc.integer({ min: 48, max: 60 }), strike: fc.constantFrom(0.2, 1) }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('lift' as const), pitch: fc.integer({ min: 48, max: 60 }) }) },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('move' as const), signal: fc.constantFrom('fog', 'bell', 'fog.touch'), value: fc.constantFrom(0, 0, 0.3, 1) }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('does' as const), does: fc.constantFrom('start' as const, 'stop' as const, 'continue' as const) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('tempo' as const), bpm: fc.constantFrom(20, 90, 400), beat: fc.constantFrom(NaN, NaN, 0, 11.9) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('goTo' as const), beat: fc.constantFrom(0, 33.25) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('rig' as const), variant }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constantFrom('panic' as const, 'endStream' as const, 'nudge' as const) }) },
);

function perform(first: Variant, steps: readonly (readonly [typeof step extends fc.Arbitrary<infer S> ? S : never, number])[]) {
  const { engine, press, lift, move, does, run, sent, heard } = playCrew(rigOf(first), 5);
  const all: ReturnType<typeof heard> = [];
  const bytes: string[] = [];
  const collect = () => {
    bytes.push(...sent.map(({ timeMs, output, bytes: of }) => `${timeMs} ${output} ${of.join(' ')}`));
    all.push(...heard());
  };
  let timeMs = 0;
  for (const [what, afterMs] of steps) {
    run(Math.ceil(timeMs / 4) * 4, timeMs + afterMs);
    timeMs += afterMs;
    if (what.kind === 'press') press(timeMs, what.pitch, what.strike);
    else if (what.kind === 'lift') lift(timeMs, what.pitch);
    else if (what.kind === 'move') move(what.signal, timeMs, what.value);
    else if (what.kind === 'does') does(timeMs, what.does);
    else if (what.kind === 'rig') engine.take({ kind: 'rig', timeMs, rig: rigOf(what.variant) });
    else if (what.kind === 'nudge') engine.take({ kind: 'nudge', timeMs, beats: 0.03 });
    else if (what.kind === 'endStream') engine.take({ kind: 'endStream', timeMs, stream: 0 });
    else if (what.kind === 'tempo') engine.take({ kind: 'tempo', timeMs, bpm: what.bpm, ...(Number.isNaN(what.beat) ? {} : { beat: what.beat }) });
    else if (what.kind === 'goTo') engine.take({ ...what, timeMs });
    else engine.take({ kind: 'panic', timeMs });
    collect();
    if ((what.kind === 'does' && what.does === 'stop') || what.kind === 'panic') expect(sounding(all).left).toEqual([]);
  }
  does(timeMs + 1, 'stop');
  collect();
  return { ...sounding(all), bytes, times: all.map(([ms]) => ms) };
}

it('whatever is started, stopped, edited and changed in tempo: nothing hangs, no note is struck twice, the same seed gives the same bytes', () => {
  fc.assert(
    fc.property(variant, fc.array(fc.tuple(step, fc.integer({ min: 0, max: 400 })), { maxLength: 25 }), (first, steps) => {
      const { left, mistakes, bytes } = perform(first, steps);
      expect({ left, mistakes }).toEqual({ left: [], mistakes: [] });
      expect(perform(first, steps).bytes).toEqual(bytes);
    }),
    { numRuns: 1000 },
  );
});
it('when everything was let go of, all that nothing keeps going ends by itself, without a stop, whatever was edited meanwhile', () => {
  const from = [
    { by: 'gates', gates: [{ gate: 'bell', degree: 1 }, { gate: 'fog.touch', degree: 5 }] },
    { by: 'signal', signal: 'fog', gate: 'bell' },
    { by: 'stream', stream: 'hull' },
  ] as const;
  const edit = fc.record({ way: fc.constantFrom(0, 1, 2), stays: fc.constantFrom<ChordPart['stays'][]>('nothing', 'nothing', 'for others', 'sounding'), latch: fc.boolean() });
  type Edit = typeof edit extends fc.Arbitrary<infer E> ? E : never;
  const gesture = fc.oneof(
    { weight: 4, arbitrary: fc.record({ kind: fc.constant('press' as const), pitch: fc.integer({ min: 48, max: 52 }) }) },
    { weight: 2, arbitrary: fc.record({ kind: fc.constant('lift' as const), pitch: fc.integer({ min: 48, max: 52 }) }) },
    { weight: 4, arbitrary: fc.record({ kind: fc.constant('move' as const), signal: fc.constantFrom('fog', 'bell', 'fog.touch'), value: fc.constantFrom(0, 0.3, 1) }) },
    { weight: 3, arbitrary: fc.record({ kind: fc.constant('edit' as const), edit }) },
    { weight: 1, arbitrary: fc.record({ kind: fc.constant('start' as const) }) },
  );
  const rig = ({ way, stays, latch }: Edit) => crew(member({ ...swell, from: from[way]!, stays } as MemberPart), member(parts[2]!, { id: 's' }), member({ kind: 'arpeggio', listens: 'chord', order: 'up', octaves: 2, everyBeats: 0.25, length: 1, accents: [], latch }), member({ kind: 'echo', listens: 's', times: 3, everyBeats: 0.5, softer: 0.8, fewer: 1, transpose: 0 }));
  const whole = (as: Edit): RigDocument => {
    const made = rig(as);
    return { ...made, members: made.members.map((one) => (one.part.kind === 'strum' ? { ...one, part: { ...one.part, listens: 'chord' } } : one)) };
  };
  fc.assert(
    fc.property(edit, fc.array(fc.tuple(gesture, fc.integer({ min: 0, max: 300 })), { maxLength: 25 }), fc.boolean(), (first, gestures, letsGoFirst) => {
      const { engine, press, lift, move, does, run, heard } = playCrew(whole(first));
      let timeMs = 0;
      let { way } = first;
      for (const [what, afterMs] of gestures) {
        run(Math.ceil(timeMs / 4) * 4, timeMs + afterMs);
        timeMs += afterMs;
        if (what.kind === 'press') press(timeMs, what.pitch);
        else if (what.kind === 'lift') lift(timeMs, what.pitch);
        else if (what.kind === 'move') move(what.signal, timeMs, what.value);
        else if (what.kind === 'start') does(timeMs, 'start');
        else {
          ({ way } = what.edit);
          engine.take({ kind: 'rig', timeMs, rig: whole(what.edit) });
        }
      }
      const keepNothing = () => engine.take({ kind: 'rig', timeMs, rig: whole({ way, stays: 'nothing', latch: false }) });
      if (!letsGoFirst) keepNothing();
      for (let pitch = 48; pitch <= 52; pitch++) lift(timeMs, pitch);
      for (const signal of ['bell', 'fog.touch', 'fog']) move(signal, timeMs, 0);
      if (letsGoFirst) keepNothing();
      run(Math.ceil(timeMs / 4) * 4, timeMs + 8000);
      expect(sounding(heard())).toEqual({ left: [], mistakes: [] });
    }),
    { numRuns: 600 },
  );
});
it('64 held notes are as many as are followed, and end', () => {
  const { press, lift, run, does, heard } = playCrew(crew(member({ kind: 'arpeggio', listens: 'hull', order: 'chord', octaves: 4, everyBeats: 0.25, length: 1, accents: [], latch: false }), member(swell)));
  for (let i = 0; i < 80; i++) press(i, 24 + i, 1, 24 + i);
  run(80, 1000);
  for (let i = 0; i < 80; i++) lift(1000 + i, 24 + i);
  run(1080, 2000);
  const all = heard();
  expect(sounding(all)).toEqual({ left: [], mistakes: [] });
  does(2000, 'stop');
  expect(heard()).toEqual([]);
});

it.each<[string, MemberPart]>([
  ['a stream', { kind: 'stream', everyBeats: 0.25, pitch: 'fog', low: 40, high: 90, tonic: 0, mode: 'major', strike: 1, length: 0.5, while: 'bell' }],
  ['a chord', { ...swell, from: { by: 'signal', signal: 'fog', gate: 'bell' } }],
])('after Panic %s that a gate still holds on stays silent, whatever moves and is edited, until it is let go of and pressed again', (_, part) => {
  const rig = crew(member(part));
  const { engine, move, run, heard } = playCrew(rig);
  move('bell', 0, 1);
  move('fog', 10, 0.2);
  run(12, 1000);
  expect(heard().length).toBeGreaterThan(0);
  engine.take({ kind: 'panic', timeMs: 1000 });
  expect(sounding(heard()).left).toEqual([]);
  for (let i = 0; i < 50; i++) {
    move('fog', 1010 + i * 20, (i % 10) / 10);
    run(1012 + i * 20, 1028 + i * 20);
  }
  engine.take({ kind: 'rig', rig: structuredClone(rig), timeMs: 2100 });
  run(2104, 3000);
  expect(heard()).toEqual([]);
  move('bell', 3000, 0);
  move('fog', 3010, 0.9);
  expect(heard()).toEqual([]);
  move('bell', 3020, 1);
  move('fog', 3030, 0.5);
  run(3032, 3600);
  expect(heard().length).toBeGreaterThan(0);
});
