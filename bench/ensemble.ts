import { DRUMS } from '../src/core/ensemble/kinds/pattern';
import type { MemberPart, RigMember } from '../src/core/ensemble/parts';
import type { RigDocument } from '../src/core/rig/document';
import { chance } from '../src/core/signal/oscillator';
import { SongClock } from '../src/core/time/songClock';
import { TapTempo } from '../src/core/time/tapTempo';
import { TestClient } from '../test/helpers/client';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { nearestPlace, onGrid, openEar, watchWrites } from './grid';
import { atRate, sleep } from './pace';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';

/**
 * Eight members at 200 bpm in sixteenths while 200 mappings move by eight fingers, 20 times a second each: how far from its place on the grid each beginning is written
 * (the socket's own call), and heard by a process that only hears, beside a thread of that one which waits on the same grid with `Atomics.wait`; and what the grid drifts by in ten minutes. And how soon and how
 * near the tempo and the place of a clock that comes in, and of taps, are known.
 */
const LASTS_MS = Number(process.env.PUMICE_BENCH_MINUTES ?? 10) * 60_000;
const TEMPO_BPM = 200;
const STEP_MS = 60_000 / TEMPO_BPM / 4;
const MAPPINGS = 200;
/** Signals that move them, each in its turn, as fingers and sensors come. */
const MOVERS = ['fog', 'engine', 'lamp', 'swell', 'rust', 'spray', 'wind.bearing', 'wind.gust'].map((name) => `wheelhouse.${name}`);
const MOVES_HZ = 20 * MOVERS.length;
const EVERY_BEATS = 0.25;
/** The first beginnings stand before all is warm. */
const SETTLING = 40;

const plain: Omit<RigMember, 'id' | 'name' | 'part'> = { on: true, level: 1, octave: 0, begins: 'now', swing: 0.5, feelMs: 0 };
const pulse = (note: number): MemberPart => ({ kind: 'pattern', everyBeats: EVERY_BEATS, present: 0, patterns: [{ name: 'A', lanes: [{ name: 'pulse', plays: { note }, length: 1, hits: [{ at: 0, strike: 0.8, lasts: 0.5 }] }] }] });
const PARTS: MemberPart[] = [
  { kind: 'chord', tonic: 0, mode: 'major', from: { by: 'gates', gates: [{ gate: 'wheelhouse.bell', degree: 1 }] }, tones: 4, inversion: 0, leads: true, spread: 'close', bass: 'none', low: 55, stays: 'sounding' },
  { kind: 'bass', listens: 'm0', way: 'walk', tones: ['root'], low: 36, everyBeats: EVERY_BEATS, length: 0.5, strike: 0.8 },
  { kind: 'arpeggio', listens: 'm0', order: 'both', octaves: 2, everyBeats: EVERY_BEATS, length: 0.5, accents: [], latch: true },
  { kind: 'echo', listens: 'm2', times: 2, everyBeats: EVERY_BEATS, softer: 0.7, fewer: 1, transpose: 12 },
  pulse(DRUMS.kick),
  pulse(DRUMS.snare),
  pulse(DRUMS['closed hat']),
  { kind: 'stream', everyBeats: EVERY_BEATS, pitch: 'wheelhouse.swell', low: 48, high: 84, tonic: 0, mode: 'major', strike: 0.8, length: 0.5 },
];

/** The members leave as OSC, so that each beginning is one packet to here; nobody else looks on. */
function withBand(rig: RigDocument, port: number): RigDocument {
  const [first] = rig.voiceMappings;
  const members = PARTS.map((part, i): RigMember => ({ ...plain, id: `m${i}`, name: `Member ${i}`, part }));
  const voiceMappings = members.map(({ id, name }, i) => ({ ...first!, id: `to-${id}`, name, stream: id, output: 'far', layout: { kind: 'osc', address: `/m${i}`, voices: 16, steal: 'oldest' } as const, pitch: { transpose: 0, bends: false }, pressure: undefined, slide: undefined }));
  const mappings = Array.from({ length: MAPPINGS }, (_, i) => ({ ...rig.mappings[0]!, id: `moves-${i}`, name: `Moves ${i}`, signal: MOVERS[i % MOVERS.length]!, output: 'weather', message: { kind: 'controlChange' as const, channel: 1 + (i % 16), controller: 20 + Math.floor(i / 16), range: [0, 127] as [number, number] } }));
  return { ...rig, name: 'Band', tempoBpm: TEMPO_BPM, members, voiceMappings, mappings, scenes: [], outputs: [...rig.outputs, { id: 'far', name: 'Far', kind: 'osc', host: '127.0.0.1', port, receiver: 'weather' }] };
}

const ear = await openEar(STEP_MS);
const writes = watchWrites();
const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);
const { document } = (await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: RigDocument };
const { answer } = await pumice.post('/api/rigs', withBand(document, ear.port));
await pumice.post(`/api/rigs/${(answer as unknown as { id: string }).id}/open`, {});
await waitFor('the band', async () => (await pumice.playing()).document.name === 'Band');
const surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
const host = await TestClient.open(pumice.hubPort);
surface.move('wheelhouse.bell', 1);
host.tell({ kind: 'transport', does: 'start' });
await sleep(2000);
const hears = ear.listen(LASTS_MS);
const fromMs = Date.now();
await atRate(MOVES_HZ, LASTS_MS, (i) => {
  surface.move(MOVERS[i % MOVERS.length]!, 0.5 + 0.5 * Math.sin(i / 50));
});
const lastedS = (Date.now() - fromMs) / 1000;
host.tell({ kind: 'transport', does: 'stop' });
surface.close();
host.socket.close();
const { bare: grid, begins } = await hears;
ear.close();
await pumice.stop();

// Bass, arpeggio, three pulses and the stream begin something at every step.
const steady = (times: Record<string, number[]>) => [1, 2, 4, 5, 6, 7].map((place) => onGrid(times[`/m${place}`]!.slice(SETTLING), STEP_MS, nearestPlace(STEP_MS)));
const written = writes.read();
const members = steady(written);
const bare = onGrid(grid, STEP_MS, nearestPlace(STEP_MS));
const off = members.flatMap(({ offMs }) => offMs);
const heard = steady(begins).flatMap(({ offMs }) => offMs);

/** Of clocks with +-2 ms on each, over many seeds: how far tempo and place are off. */
function clockIn() {
  const tempo: number[] = [];
  const place: number[] = [];
  const stepBeats: number[] = [];
  for (let seed = 1; seed <= 1000; seed++) {
    const song = new SongClock();
    song.start();
    const at = (i: number) => 1000 + (i * 500) / 24;
    for (let i = 0; i < 96; i++) {
      const timeMs = at(i) + 4 * chance(seed, i) - 2;
      const { bpm, beat } = song.clock(timeMs);
      if (i === 48) tempo.push(Math.abs(bpm - 120));
      if (i > 48) place.push(Math.abs((beat - (timeMs - 1000) / 500) * 500));
    }
    const settled: number[] = [];
    for (let i = 0; i < 96; i++) settled.push(Math.abs(song.clock(at(96) + (i * 60_000) / 140 / 24 + 4 * chance(seed + 5000, i) - 2).bpm - 140));
    const last = settled.findLastIndex((offBpm) => !(offBpm < 1));
    stepBeats.push((last + 1) / 24);
  }
  return { tempo, place, stepBeats };
}
const { tempo, place, stepBeats } = clockIn();
const tapped = Array.from({ length: 1000 }, (_unused, seed) => {
  const tap = new TapTempo();
  return Math.abs(Array.from({ length: 4 }, (__, i) => tap.tap(1000 + i * 500 + 20 * chance(seed + 1, i) - 10)).at(-1)! - 120);
});

const figures: Figure[] = [
  figure('a beginning is written: off its grid, p50', percentile(off, 0.5), 'ms', percentile(bare.offMs, 0.5), null, 'lower'),
  figure('a beginning is written: off its grid, p99', percentile(off, 0.99), 'ms', percentile(bare.offMs, 0.99), aimAtRatio(1.5), 'lower'),
  figure('a beginning is heard by another process: off its grid, p99', percentile(heard, 0.99), 'ms', percentile(bare.offMs, 0.99), null, 'lower'),
  figure(`drift in ${(lastedS / 60).toFixed(1)} minutes, the worst member`, Math.max(...members.map(({ driftMs }) => driftMs)), 'ms', null, aimAt(1), 'lower'),
  figure('steps that are not there', members.reduce((sum, { missing }) => sum + missing, 0), 'steps', null, aimAt(0), 'lower'),
  figure('beginnings seen', off.length / lastedS, 'a second', null, null, 'higher'),
  figure('messages of 200 mappings meanwhile, at most', (MOVES_HZ * MAPPINGS) / MOVERS.length, 'a second', null, null, 'higher'),
  figure('clock in, +-2 ms: tempo off after 2 beats, p95', percentile(tempo, 0.95), 'bpm', null, aimAt(0.1), 'lower'),
  figure('clock in, +-2 ms: place off after 2 beats, most', percentile(place, 1), 'ms', null, aimAt(3), 'lower'),
  figure('clock in, +-2 ms: a step of 20 bpm followed (within 1 bpm), p95', percentile(stepBeats, 0.95), 'beats', null, aimAt(2), 'lower'),
  figure('taps at 120 bpm, +-10 ms: off after 4, p50', percentile(tapped, 0.5), 'bpm', null, null, 'lower'),
  figure('taps at 120 bpm, +-10 ms: off after 4, p95', percentile(tapped, 0.95), 'bpm', null, aimAt(1), 'lower'),
];
report('ensemble', figures);
