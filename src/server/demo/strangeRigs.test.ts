import { describe, expect, it } from 'vitest';
import { Engine } from '../../core/engine/engine';
import type { EngineEvent, EventNow } from '../../core/engine/event';
import { packKept, unpackKept } from '../../core/engine/snapshot';
import type { MessageSink } from '../../core/engine/sink';
import { decode, splitMessages } from '../../core/midi/decode';
import type { RigDocument } from '../../core/rig/document';
import { randomFrom } from '../../core/standIn/noise';
import { LogWriter } from '../../core/takes/log';
import { TakeRenderer } from '../../core/takes/render';
import { voiceEvent } from '../../core/voices/event';
import { strangeRig } from '../../../test/helpers/strangeRig';
import { nightFerry } from './nightFerry';

/**
 * Laws that hold for every rig and every performance, tried on rigs that nobody would make: what a rig says depends on what is played alone,
 * not on when, on how its lists are ordered, or on what else is edited meanwhile.
 */
const RIGS = 16;
const CHANGES = 60;
const STEPS = 200;
const HALFWAY = STEPS / 2;
const BEGINS_MS = 1000;
const STEP_MS = [0, 1, 4, 4, 4, 10, 30, 200];

interface Performance {
  /** The document that is played; events go by the ids of the first one. */
  plays?: RigDocument;
  sinceMs?: number;
  /** Told of each event before the engine takes it, and of the engine at the beginning. */
  hear?: (event: EngineEvent | null, engine: Engine) => void;
  /** What happens half-way; gives the engine to go on with. */
  halfway?: (engine: Engine, sink: MessageSink) => Engine;
}

/** Plays `rig` by chance; every message as its time, output and body, and what sounds at the end by output, channel and key. */
function perform(rig: RigDocument, seed: number, { plays = rig, sinceMs = 0, hear, halfway }: Performance = {}) {
  const chance = randomFrom(seed);
  for (let i = 0; i < 5; i++) chance();
  const pick = <T>(of: readonly T[]): T => of[Math.floor(chance() * of.length)]!;
  const sent: string[] = [];
  const sounding = new Set<string>();
  const broken: string[] = [];
  const say = (output: string, body: string) => void sent.push(`${(engine.messageMs - sinceMs).toFixed(2)} ${output} ${body}`);
  const sink: MessageSink = {
    midi(output, _, bytes, length) {
      const id = engine.plan.outputIds[output]!;
      for (const message of splitMessages(bytes.slice(0, length))) {
        const is = decode(message);
        if (!is) broken.push(message.join());
        if (is?.kind === 'noteOn' && is.velocity > 0) sounding.add(`${id} ${is.channel} ${is.note}`);
        else if (is?.kind === 'noteOff' || is?.kind === 'noteOn') sounding.delete(`${id} ${is.channel} ${is.note}`);
      }
      say(id, bytes.slice(0, length).join());
    },
    osc(output, _, path, args) {
      if (args.some(({ value }) => typeof value === 'number' && !Number.isFinite(value))) broken.push(`${path} ${JSON.stringify(args)}`);
      say(engine.plan.outputIds[output]!, `${path} ${JSON.stringify(args)}`);
    },
  };
  let engine: Engine = new Engine(plays, sink);
  let timeMs = BEGINS_MS + sinceMs;
  engine.take({ kind: 'start', timeMs });
  const begun = sent.length;
  hear?.(null, engine);
  const held = new Map<number, number>();
  const event = (): EventNow => {
    const by = chance();
    if (by < 0.55) {
      const { id, kind, range: [lo, hi] } = pick(rig.signals);
      const value = kind === 'gate' ? pick([0, 0, 0.5, 1]) : pick([lo, hi, lo + (hi - lo) * chance(), lo + (hi - lo) * chance(), lo - 1, Infinity, NaN]);
      return { kind: 'sample', signal: engine.plan.signalIndex.get(id)!, value };
    }
    const stream = engine.plan.streamIndex.get(pick(rig.streams).id)!;
    if (by < 0.63) {
      const voice = held.size + Math.round(1e6 * chance());
      held.set(voice, stream);
      return { ...voiceEvent('on'), stream, voice, pitch: pick([60, 36.5, 127, 0, 140]), strike: chance(), pressure: chance() };
    }
    if (by < 0.72 && held.size > 0) {
      const [voice, of] = pick([...held]);
      if (chance() < 0.5) return { ...voiceEvent('move'), stream: of, voice, pitch: pick([NaN, 60 + 12 * chance()]), slide: chance() };
      held.delete(voice);
      return { ...voiceEvent('off'), stream: of, voice, release: chance() };
    }
    if (by < 0.74) return { kind: 'recall', scene: pick(rig.scenes).id };
    if (by < 0.76) return { kind: 'transport', does: pick(['start', 'stop', 'continue']) };
    if (by < 0.77) return { kind: 'pedal', stream, controller: pick([64, 66, 69]), value: pick([0, 127]) };
    return { kind: 'tick' };
  };
  const take = (now: EventNow) => {
    const happens = { ...now, timeMs } as EngineEvent;
    hear?.(happens, engine);
    engine.take(happens);
  };
  for (let step = 0; step < STEPS; step++) {
    timeMs += pick(STEP_MS);
    take(event());
    if (step !== HALFWAY) continue;
    // What moves by itself is where it would be, so that to look at it again is no news.
    take({ kind: 'tick' });
    if (halfway) engine = halfway(engine, sink);
  }
  return { sent, begun, sounding, broken, engine, timeMs };
}

/** At one moment the order may be another. */
const inTime = (sent: readonly string[]) => [...sent].sort();

const rigs = Array.from({ length: RIGS }, (_, i) => ({ seed: i + 1, rig: strangeRig(nightFerry(), (i + 1) * 7919, CHANGES) }));
const each = describe.each(rigs);
const edited = (rig: RigDocument) => ({ halfway: (engine: Engine) => (engine.take({ kind: 'rig', rig, timeMs: -Infinity }), engine) });

each('strange rig $seed', ({ seed, rig }) => {
  const plain = perform(rig, seed);
  const sameAs = (sent: readonly string[]) => expect(inTime(sent)).toEqual(inTime(plain.sent));
  it('says whole messages alone', () => expect(plain.broken).toEqual([]));
  it('says the same where its document is read anew, or only names are others', () => {
    sameAs(perform(rig, seed, edited(structuredClone(rig))).sent);
    const named = structuredClone(rig);
    for (const list of [named.inputs, named.signals, named.derived, named.mappings, named.members, named.voiceMappings, named.outputs, named.scenes]) for (const thing of list) thing.name = `Another ${thing.name}`.slice(0, 60);
    sameAs(perform(rig, seed, edited(named)).sent);
  });
  it('says the same at another time, and with its lists in another order', () => {
    sameAs(perform(rig, seed, { sinceMs: 2 ** 40 }).sent);
    const turned = structuredClone(rig);
    for (const list of [turned.inputs, turned.signals, turned.outputs, turned.receivers, turned.streams, turned.scenes]) list.reverse();
    sameAs(perform(rig, seed, { plays: turned }).sent);
  });
  it('goes on from what was kept of it, and its log replays to the same', () => {
    const kept = (engine: Engine) => ({ addresses: engine.state.addresses, kept: unpackKept(packKept(engine.state.kept)) });
    sameAs(perform(rig, seed, { halfway: (engine, sink) => new Engine(structuredClone(rig), sink, 1, kept(engine)) }).sent);
    const writer = new LogWriter();
    const again: string[] = [];
    let state: ReturnType<typeof kept> | null = null;
    const { sent, begun } = perform(rig, seed, {
      hear: (event, engine) => {
        if (event) writer.write(event, engine.plan);
        else state = kept(engine);
      },
    });
    new TakeRenderer(
      { startMs: BEGINS_MS, rig: structuredClone(rig), seed: 1, state },
      { midi: (timeMs, { output }, bytes, length) => void again.push(`${timeMs.toFixed(2)} ${output} ${bytes.slice(0, length).join()}`), osc: (timeMs, { output }, path, args) => void again.push(`${timeMs.toFixed(2)} ${output} ${path} ${JSON.stringify(args)}`) },
    ).piece(writer.take()!.bytes);
    expect(again).toEqual(sent.slice(begun));
  });
  it.each(['panic', 'release'] as const)('is silent after %s', (kind) => {
    const { engine, sounding, timeMs } = perform(rig, seed);
    engine.take({ kind, timeMs });
    expect([...sounding]).toEqual([]);
  });
});
