import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Engine } from '../engine/engine';
import type { EngineState } from '../engine/state';
import { cc } from '../engine/testScript';
import { hexOf } from '../midi/describe';
import { voiceEvent } from '../voices/event';
import type { RigDocument } from '../rig/document';
import { loggable, LogReader, LogWriter, type LogPiece } from './log';
import { TakeRenderer } from './render';
import { packKept, unpackKept, type Kept } from '../engine/snapshot';
import { ALL_MAPPINGS, eventOf, performer, rigOf, step, type Step } from '../engine/testPerformance';

const silent = { midi: () => undefined, osc: () => undefined };

/** Plays steps, and from `cut` on keeps the log; what was sent from there on, as text. */
function performed(first: readonly number[], steps: readonly (readonly [Step, number])[], cut: number) {
  const { engine, sent } = performer(rigOf(first));
  const writer = new LogWriter();
  const pieces: LogPiece[] = [];
  let beginning: { rig: RigDocument; state: Uint8Array; startMs: number } | null = null;
  let timeMs = 0;
  engine.take({ kind: 'start', timeMs });
  steps.forEach(([what, afterMs], i) => {
    timeMs = loggable(timeMs + afterMs);
    if (i === cut) {
      beginning = { rig: engine.plan.rig, state: packKept(engine.state as unknown as Kept), startMs: timeMs };
      sent.length = 0;
    }
    const event = eventOf(what, timeMs);
    if (i >= cut) writer.write(event, engine.plan);
    engine.take(event);
    // In pieces of any length.
    if (i >= cut && i % 7 === 0) pieces.push(...[writer.take()].filter((piece) => piece !== null));
  });
  pieces.push(...[writer.take()].filter((piece) => piece !== null));
  return { sent, pieces, beginning: beginning! as { rig: RigDocument; state: Uint8Array; startMs: number } };
}

/** What a take says when it is played again, as text. */
function replayed({ rig, state, startMs }: { rig: RigDocument; state: Uint8Array; startMs: number }, pieces: readonly LogPiece[]): string[] {
  const sent: string[] = [];
  const renderer = new TakeRenderer(
    { rig: JSON.parse(JSON.stringify(rig)) as RigDocument, state: unpackKept(state) as unknown as EngineState, startMs, seed: 7 },
    {
      midi: (timeMs, { output, mapping, who }, bytes, length) => void sent.push(`${timeMs} ${output} ${who} ${mapping} ${hexOf(bytes.slice(0, length))}`),
      osc: (timeMs, { output }, path, args) => void sent.push(`${timeMs} ${output} ${path} ${JSON.stringify(args)}`),
    },
  );
  for (const { bytes } of pieces) renderer.piece(bytes);
  return sent;
}

describe('the log of a take', () => {
  it('that begins anywhere in a performance gives the same bytes at the same times, with edits, scenes, voices and all else between', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(ALL_MAPPINGS, { minLength: 1 }), fc.array(fc.tuple(step, fc.integer({ min: 0, max: 60 })), { minLength: 2, maxLength: 80 }), fc.nat(), (first, steps, at) => {
        const { sent, pieces, beginning } = performed(first, steps, at % steps.length);
        expect(replayed(beginning, pieces)).toEqual(sent);
      }),
      { numRuns: 1000 },
    );
  });
  it('a document that was read anew is no change: with it voices say what they say with the same one', () => {
    const said = (again: (rig: RigDocument) => RigDocument) => {
      const { engine, sent } = performer(rigOf([0, 1]));
      engine.take({ kind: 'start', timeMs: 0 });
      engine.take({ ...voiceEvent('on'), stream: 0, timeMs: 0, voice: 1, pitch: 48 });
      // Nothing is known of what receivers hold.
      engine.take({ kind: 'sayAgain', timeMs: 0, mappings: [0] });
      sent.length = 0;
      engine.take({ kind: 'rig', timeMs: 0, rig: again(engine.plan.rig) });
      for (let timeMs = 4; timeMs <= 400; timeMs += 4) engine.take({ kind: 'tick', timeMs });
      return sent;
    };
    expect(said((rig) => JSON.parse(JSON.stringify(rig)) as RigDocument)).toEqual(said((rig) => ({ ...rig })));
  });
  it('says the events as they were, values of any kind, and takes few bytes for them', () => {
    const engine = new Engine(rigOf([0]), silent);
    const writer = new LogWriter();
    const values = [0, 1, 127, 255, 256, 0.25, Math.fround(0.1), 0.1, -0, -3, Infinity, -Infinity, NaN, 1e300];
    values.forEach((value, i) => writer.write({ kind: 'sample', signal: i % 3, value, timeMs: 10 + i * 4.0078125 }, engine.plan));
    const seen: [number, number, number][] = [];
    const piece = writer.take()!;
    new LogReader(engine.plan.rig).read(piece.bytes, { names: () => undefined, sample: (...sample) => void seen.push(sample), tick: () => undefined, voice: () => undefined, rig: () => undefined, other: () => undefined });
    expect(seen).toEqual(values.map((value, i) => [10 + i * 4.0078125, i % 3, value]));
    expect(piece).toMatchObject({ events: values.length, firstMs: 10 });
    expect(writer.take()).toBeNull();
    // A tick at 250 Hz: kind and time. 4 ms are 512 units, two bytes.
    for (let i = 0; i < 100; i++) writer.write({ kind: 'tick', timeMs: 100 + 4 * i }, engine.plan);
    expect(writer.take()!.bytes.length).toBeLessThanOrEqual(3 * 100 + 3);
  });
  it('an earlier time counts as the latest, as it does for the engine', () => {
    const engine = new Engine(rigOf([0]), silent);
    const writer = new LogWriter();
    writer.write({ kind: 'tick', timeMs: 50 }, engine.plan);
    writer.write({ kind: 'tick', timeMs: 20 }, engine.plan);
    expect(writer.take()).toMatchObject({ firstMs: 50, lastMs: 50 });
  });
  it('broken bytes are refused, whatever they are', () => {
    const ignore = { names: () => undefined, sample: () => undefined, tick: () => undefined, voice: () => undefined, rig: () => undefined, other: () => undefined };
    const { pieces } = performed([0, 1], [[{ kind: 'sample', signal: 0, value: 0.3 }, 5], [{ kind: 'rig', order: [1] }, 5], [{ kind: 'sample', signal: 0, value: 0.4 }, 5]] as never, 0);
    const whole = pieces[0]!.bytes;
    for (let length = 1; length < whole.length; length++) {
      try {
        new LogReader(rigOf([0, 1])).read(whole.slice(0, length), ignore);
      } catch (error) {
        expect(error).toBeInstanceOf(Error);
      }
    }
    expect(() => new LogReader(rigOf([0])).read(Uint8Array.of(0, 200, 0), ignore)).toThrow('kind 200');
  });
  it('another rig is played as if it had been loaded at the beginning, and what it does not have is counted', () => {
    const { engine } = performer(rigOf([0]));
    engine.take({ kind: 'start', timeMs: 0 });
    engine.take({ kind: 'sample', signal: 0, value: 0.5, timeMs: 1 });
    const beginning = { rig: engine.plan.rig, state: engine.state, startMs: 2, seed: 7 };
    const writer = new LogWriter();
    for (const [signal, value, timeMs] of [[0, 1, 10], [2, 1, 20], [0, 0, 30]] as const) writer.write({ kind: 'sample', signal, value, timeMs }, engine.plan);
    const better = rigOf([]);
    better.mappings.push({ id: 'new', name: 'New', on: true, signal: 'fog', output: 'weather', shaping: {}, message: cc(77) });
    better.signals = better.signals.filter(({ id }) => id !== 'bell');
    better.derived = [];
    const sent: string[] = [];
    const renderer = new TakeRenderer(beginning, { midi: (timeMs, _, bytes, length) => void sent.push(`${timeMs} ${hexOf(bytes.slice(0, length))}`), osc: () => undefined }, { through: better });
    renderer.piece(writer.take()!.bytes);
    // The signal stood at 0.5 when the take began: 63.5 is sent as 64.
    expect(sent).toEqual(['2 B0 4D 40', '10 B0 4D 7F', '30 B0 4D 00']);
    expect([...renderer.leftOut]).toEqual([['bell', 1]]);
  });
  it('a state that is laid out otherwise is left out, and said; the gestures are played all the same', () => {
    const { engine } = performer(rigOf([0]));
    engine.take({ kind: 'start', timeMs: 0 });
    const writer = new LogWriter();
    writer.write({ kind: 'sample', signal: 0, value: 1, timeMs: 10 }, engine.plan);
    const sent: string[] = [];
    const state: EngineState = { ...performer(rigOf([0, 1, 2])).engine.state, addresses: [] };
    const renderer = new TakeRenderer({ rig: engine.plan.rig, state, startMs: 2, seed: 7 }, { midi: (_, __, bytes, length) => void sent.push(hexOf(bytes.slice(0, length))), osc: () => undefined });
    renderer.piece(writer.take()!.bytes);
    expect(sent).toEqual(['B2 15 7F']);
    expect([...renderer.leftOut]).toEqual([['what was held when it began', 1]]);
  });
});
