import { describe, expect, it } from 'vitest';
import type { RigDocument } from '../../rig/document';
import { randomFrom } from '../../standIn/noise';
import { toLog, fromLog } from '../eventLog';
import type { EngineEvent } from '../event';
import { voiceEvent } from '../../voices/event';
import { playVoices, voiceRig } from './testVoices';
import { ZoneWatch } from './testZone';

const MEMBERS = 5;
const lower = Array.from({ length: MEMBERS }, (_, i) => 2 + i);

/** A rig with two streams into one zone, one by keys above middle C alone, and scenes that switch one off and back on. */
function busyRig(): RigDocument {
  const layout = { kind: 'zone', zone: 'lower', members: MEMBERS, steal: 'quietest' } as const;
  const rig = voiceRig({ layout }, { layout, stream: 'keel', keys: { low: 60, high: 127 }, pitch: { transpose: -12.3, bends: true, pull: { scale: { kind: 'mode', root: 2, mode: 'dorian' }, referenceHz: 442, atStart: 1, held: 0.7, bandCents: 60, speedMs: 120, atRelease: 1 } } });
  rig.streams.push({ id: 'keel', name: 'Keel', input: 'hull', source: 'channel 2' });
  const scene = { name: 'S', mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0 };
  rig.scenes.push({ ...scene, id: 'off', voiceMappings: { v0: false } }, { ...scene, id: 'on', voiceMappings: { v0: true } });
  return rig;
}

/** Something that may happen on a stage, at a time. */
function anything(random: () => number, timeMs: number, rig: RigDocument, put: (rig: RigDocument) => void): EngineEvent {
  const pick = <T>(things: readonly T[]): T => things[Math.floor(random() * things.length)]!;
  const stream = random() < 0.6 ? 0 : 1;
  const voice = Math.floor(random() * 9);
  const chance = random();
  if (chance < 0.4) return { ...voiceEvent('on'), timeMs, stream, voice, pitch: 20 + 90 * random(), strike: random(), ...(random() < 0.8 ? { pressure: random(), slide: random() } : {}) };
  if (chance < 0.7) return { ...voiceEvent('off'), timeMs, stream, voice, release: random() < 0.5 ? random() : NaN };
  if (chance < 0.93) return { ...voiceEvent('move'), timeMs, stream, voice, ...(random() < 0.5 ? { pitch: 20 + 90 * random() } : {}), ...(random() < 0.5 ? { pressure: random() } : {}), ...(random() < 0.5 ? { slide: random() } : {}) };
  if (chance < 0.95) return { kind: 'tick', timeMs };
  if (chance < 0.965) return { kind: 'pedal', timeMs, stream, controller: pick([64, 66]), value: pick([0, 127]) };
  if (chance < 0.975) return { kind: 'recall', timeMs, scene: pick(['on', 'off']) };
  if (chance < 0.98) return { kind: 'endStream', timeMs, stream };
  const v = Math.floor(random() * 2);
  const edited: RigDocument = {
    ...rig,
    voiceMappings: rig.voiceMappings.with(v, { ...rig.voiceMappings[v]!, on: random() < 0.9, pressure: { shaping: random() < 0.5 ? {} : { curve: { kind: 's', amount: 1 }, smoothing: { kind: 'onePole', timeConstantMs: 20 } }, message: { kind: 'channelPressure' }, range: [0, 127] } }),
  };
  put(edited);
  return { kind: 'rig', timeMs, rig: edited };
}

describe.each([1, 2, 3, 4])('random performances, seed %i', (seed) => {
  it('25,000 notes with thefts, pedals, scenes, edits and streams that vanish break no rule of a zone, and none hangs', () => {
    const random = randomFrom(seed);
    const watch = new ZoneWatch(1, lower);
    let rig = busyRig();
    const play = playVoices(rig, (bytes) => watch.hear(bytes));
    let timeMs = 0;
    while (watch.notes < 25_000) {
      timeMs += random() * 12;
      play.engine.take(anything(random, timeMs, rig, (edited) => (rig = edited)));
      if (watch.broken.length > 0) break;
    }
    expect(watch.broken).toEqual([]);
    for (const stream of [0, 1]) play.engine.take({ kind: 'endStream', timeMs: timeMs + 1, stream });
    expect(watch.soundingNotes).toBe(0);
    expect([...watch.pedals.values()].every((value) => value === 0)).toBe(true);
  });

  it('the log of one, as JSON, replays to the same bytes', () => {
    const random = randomFrom(seed);
    let rig = busyRig();
    const play = playVoices(rig);
    const log: string[] = [];
    for (let i = 0, timeMs = 0; i < 3000; i++) {
      timeMs += random() * 12;
      const event = anything(random, timeMs, rig, (edited) => (rig = edited));
      const logged = toLog(event, play.engine.plan);
      if (logged) log.push(JSON.stringify(logged));
      play.engine.take(event);
    }
    const again = playVoices(busyRig());
    for (const line of log) again.engine.take(fromLog(JSON.parse(line), again.engine.plan)!);
    expect(again.take()).toEqual(play.take());
  });
});

it('bends are within half a step of the pitch that was asked for (0.29 cent at range 48), wherever a finger goes within the range', () => {
  const random = randomFrom(9);
  const watch = new ZoneWatch(1, lower);
  const play = playVoices(voiceRig({ layout: { kind: 'zone', zone: 'lower', members: MEMBERS, steal: 'oldest' } }), (bytes) => watch.hear(bytes));
  let worstCents = 0;
  for (let i = 0; i < 2000; i++) {
    const begun = 40 + 40 * random();
    play.on(i, 0, begun);
    const [noteOn] = play.take().filter((bytes) => bytes.startsWith('9'));
    const channel = parseInt(noteOn![1]!, 16) + 1;
    const note = parseInt(noteOn!.slice(3, 5), 16);
    for (const asked of [begun, begun + 40 * (random() - 0.5), begun + 90 * (random() - 0.5)]) {
      play.move(i, 0, { pitch: asked });
      const sounds = note + (48 * (watch.bends.get(channel)! - 8192)) / 8192;
      worstCents = Math.max(worstCents, 100 * Math.abs(sounds - asked));
    }
  }
  expect(worstCents).toBeLessThanOrEqual((100 * 48) / 8192 / 2 + 1e-9);
});
