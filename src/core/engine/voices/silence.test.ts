import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { RigDocument } from '../../rig/document';
import type { RigVoiceMapping } from '../../rig/voices';
import { voiceEvent } from '../../voices/event';
import { playVoices, voiceRig } from './testVoices';

const PEDALS = [64, 66];
const VOICES = 5;

const steal = fc.constantFrom('oldest' as const, 'quietest' as const, 'notLowest' as const, 'refuse' as const);
const layout = fc.oneof(
  fc.record({ kind: fc.constant('zone' as const), zone: fc.constantFrom('lower' as const, 'upper' as const), members: fc.integer({ min: 1, max: 3 }), steal }),
  fc.record({ kind: fc.constant('run' as const), first: fc.constantFrom(1, 2), last: fc.constantFrom(2, 4), steal }),
  fc.record({ kind: fc.constant('poly' as const), channel: fc.constantFrom(1, 2), voices: fc.constantFrom(1, 3), steal }),
  fc.record({ kind: fc.constant('mono' as const), channel: fc.constantFrom(1, 2), priority: fc.constantFrom('last' as const, 'highest' as const, 'lowest' as const), legato: fc.boolean(), glideMs: fc.constantFrom(0, 80) }),
);
const axis = fc.constantFrom<RigVoiceMapping['pressure'][]>(
  undefined,
  { shaping: {}, message: { kind: 'channelPressure' }, range: [0, 127] },
  { shaping: { smoothing: { kind: 'onePole', timeConstantMs: 20 } }, message: { kind: 'polyPressure' }, range: [0, 127] },
  { shaping: {}, message: { kind: 'controlChange', controller: 74 }, range: [127, 0] },
);
/** Mappings that share streams, channels and keys, so that they take each other's notes. */
const mapping: fc.Arbitrary<Partial<RigVoiceMapping>> = fc.record({
  on: fc.constantFrom(true, true, true, false),
  stream: fc.constantFrom('hull', 'keel'),
  layout,
  keys: fc.constantFrom(undefined, undefined, undefined, { low: 50, high: 127 }),
  strikes: fc.constantFrom(undefined, undefined, undefined, { low: 0, high: 60 }),
  pitch: fc.record({ transpose: fc.constantFrom(0, -12, 0.4), bends: fc.boolean() }),
  pressure: axis,
  slide: axis,
});
const mappings = fc.array(mapping, { minLength: 1, maxLength: 3 });
const stream = fc.constantFrom(0, 1);
const voice = fc.nat(VOICES - 1);
const gesture = fc.oneof(
  { weight: 6, arbitrary: fc.record({ kind: fc.constant('on' as const), stream, voice, pitch: fc.constantFrom(48, 52, 60, 60.4, 61), strike: fc.constantFrom(0, 0.3, 1) }) },
  { weight: 5, arbitrary: fc.record({ kind: fc.constant('off' as const), stream, voice }) },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('move' as const), stream, voice, pitch: fc.constantFrom(NaN, 55, 60.6), pressure: fc.constantFrom(NaN, 0, 0.6), slide: fc.constantFrom(NaN, 1) }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('pedal' as const), stream, controller: fc.constantFrom(...PEDALS), value: fc.constantFrom(0, 127) }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('edit' as const), at: fc.nat(2), to: mapping }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('editAll' as const), to: mappings }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('recall' as const), scene: fc.constantFrom('on', 'off') }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('endStream' as const), stream }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('panic' as const) }) },
);

function rigOf(of: readonly Partial<RigVoiceMapping>[]): RigDocument {
  const rig = voiceRig(...of);
  rig.streams.push({ id: 'keel', name: 'Keel', input: 'hull', source: 'channel 2' });
  const scene = { name: 'S', mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0 };
  rig.scenes.push({ ...scene, id: 'off', voiceMappings: { v0: false } }, { ...scene, id: 'on', voiceMappings: { v0: true } });
  return rig;
}

/** Hears what leaves as a receiver does: keys and pedals that are down, and what is said of a key that makes no sense. */
class Receiver {
  readonly sounding = new Set<string>();
  readonly pedals = new Set<string>();
  readonly mistakes: string[] = [];
  notes = 0;

  hear([status = 0, number = 0, value = 0]: Uint8Array): void {
    const kind = status & 0xf0;
    const name = `channel ${(status & 15) + 1}, ${number}`;
    if (kind === 0x90 && value > 0) {
      this.notes++;
      if (this.sounding.has(name)) this.mistakes.push(`${name} is struck twice`);
      this.sounding.add(name);
    } else if (kind === 0x80 || kind === 0x90) {
      if (!this.sounding.delete(name)) this.mistakes.push(`${name} ends without sounding`);
    } else if (kind === 0xb0 && PEDALS.includes(number)) this.pedals[value > 0 ? 'add' : 'delete'](name);
  }
}

it('whatever layouts share channels, and are edited while they sound: no key is struck twice, and all ends when all is let go of', () => {
  let notes = 0;
  fc.assert(
    fc.property(mappings, fc.array(fc.tuple(gesture, fc.nat(60)), { minLength: 10, maxLength: 50, size: 'max' }), (first, gestures) => {
      const receiver = new Receiver();
      let present = first;
      const { engine } = playVoices(rigOf(first), (bytes) => receiver.hear(bytes));
      let timeMs = 0;
      const run = (untilMs: number) => {
        while (timeMs < untilMs) {
          timeMs = Math.min(untilMs, timeMs + 4);
          engine.take({ kind: 'tick', timeMs });
        }
      };
      const edit = (to: typeof present) => {
        present = to;
        engine.take({ kind: 'rig', timeMs, rig: rigOf(to) });
      };
      for (const [what, afterMs] of gestures) {
        run(timeMs + afterMs);
        if (what.kind === 'edit') edit(what.at < present.length ? present.with(what.at, what.to) : present);
        else if (what.kind === 'editAll') edit(what.to);
        else if (what.kind === 'on' || what.kind === 'off' || what.kind === 'move') engine.take({ ...voiceEvent(what.kind), timeMs, ...what });
        else engine.take({ ...what, timeMs });
        if (what.kind !== 'panic') continue;
        expect([...receiver.sounding]).toEqual([]);
        // Other pedals than sustain are lifted by the book of what is held at an output.
        receiver.pedals.clear();
      }
      for (const s of [0, 1]) {
        for (let v = 0; v < VOICES; v++) engine.take({ ...voiceEvent('off'), timeMs, stream: s, voice: v });
        for (const controller of PEDALS) engine.take({ kind: 'pedal', timeMs, stream: s, controller, value: 0 });
      }
      run(timeMs + 400);
      notes += receiver.notes;
      expect({ sounding: [...receiver.sounding], pedals: [...receiver.pedals], mistakes: receiver.mistakes }).toEqual({ sounding: [], pedals: [], mistakes: [] });
    }),
    { numRuns: 600 },
  );
  expect(notes).toBeGreaterThan(1500);
});
