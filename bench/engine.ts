import { Engine } from '../src/core/engine/engine';
import { testRig } from '../src/core/engine/testRig';
import { compile } from '../src/core/engine/plan';
import { StreamParser } from '../src/core/midi/streamParser';
import type { RigMapping } from '../src/core/rig/document';
import { giveCompilerRoom } from '../src/hub/compilerRoom';
import { decodeOsc, encodeOsc } from '../src/net/osc/codec';
import { allocated } from './allocated';
import { aimAt, figure, percentile, report, type Figure } from './report';

/** The engine alone: One Euro, a points curve and 7-bit output, beside a loop that only reads and writes three bytes. */
const SAMPLES = 2_000_000;
const WARM_UP_STEPS = 6_000_000;
/** However many mappings: the compiler counts calls and rounds of a loop, not steps. */
const WARM_UP_SAMPLES = 40_000;
const ALLOCATION_SAMPLES = 200_000;

// As the hub does at its start.
giveCompilerRoom();

const mapping = (i: number): Partial<RigMapping> => ({
  message: { kind: 'controlChange', channel: 1 + (i % 16), controller: Math.floor(i / 16) % 120, range: [0, 127] },
  shaping: {
    smoothing: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 },
    curve: { kind: 'points', points: [[0, 0], [0.2, 0.05], [0.5, 0.6], [0.8, 0.7], [1, 1]] },
  },
});
const rigOf = (mappings: number) => testRig(Array.from({ length: mappings }, (_, i) => mapping(i)));

/** A restless hand, made beforehand so that it costs nothing. */
const hand = Float64Array.from({ length: 4096 }, (_, i) => 0.5 + 0.35 * Math.sin(i / 37) + 0.1 * Math.sin(i / 3.1));

function engineOf(mappings: number) {
  const count = { bytes: 0 };
  const engine = new Engine(rigOf(mappings), { midi: (_o, _m, _b, length) => void (count.bytes += length), osc: () => undefined });
  return { engine, count };
}

/**
 * The quickest of several turns, in ns: on a shared machine the same loop takes up to twice as long while a neighbour is
 * busy, without a sign of it in the stolen time. Floors are measured in the same way.
 */
function quickest(work: () => void, turns = 15): number {
  let best = Infinity;
  for (let i = 0; i < turns; i++) {
    const start = process.hrtime.bigint();
    work();
    best = Math.min(best, Number(process.hrtime.bigint() - start));
  }
  return best;
}

/** Nanoseconds a sample through a rig of so many mappings, and bytes allocated a sample. */
function throughput(mappings: number): { perSampleNs: number; bytesPerSample: number } {
  const { engine } = engineOf(mappings);
  const rounds = Math.max(2000, Math.floor(SAMPLES / mappings));
  // As the hub does, which uses one again and again.
  const event = { kind: 'sample' as const, signal: 0, timeMs: 0, value: 0 };
  const run = (n: number) => {
    for (let i = 0; i < n; i++) {
      event.timeMs += 2;
      event.value = hand[i & 4095]!;
      engine.take(event);
      engine.movedMappings.clear();
      engine.movedSignals.clear();
    }
  };
  // Long enough for the compiler to have settled, or its own work would be measured.
  run(Math.max(WARM_UP_SAMPLES, Math.ceil(WARM_UP_STEPS / mappings)));
  const ns = quickest(() => run(rounds));
  const samples = Math.max(1000, Math.floor(ALLOCATION_SAMPLES / mappings));
  return { perSampleNs: ns / rounds, bytesPerSample: allocated(() => run(samples)) / samples };
}

/** The floor: reads the value and writes three bytes for each mapping. */
function floorNs(mappings: number): number {
  const out = new Uint8Array(3 * mappings);
  const rounds = Math.max(2000, Math.floor(SAMPLES / mappings));
  let sink = 0;
  const run = (n: number) => {
    for (let i = 0; i < n; i++) {
      const value = hand[i & 4095]!;
      for (let m = 0; m < mappings; m++) {
        out[3 * m] = 0xb0;
        out[3 * m + 1] = m & 127;
        out[3 * m + 2] = Math.round(value * 127);
      }
      sink += out[2]!;
    }
  };
  run(rounds);
  const ns = quickest(() => run(rounds)) / rounds;
  return sink < 0 ? NaN : ns;
}

/** Times of single calls in microseconds. */
function latencies(mappings: number, calls: number, tick: boolean): number[] {
  const { engine } = engineOf(mappings);
  const times: number[] = new Array<number>(calls).fill(0);
  let timeMs = 0;
  const once = (i: number) => {
    timeMs += tick ? 30 : 2;
    engine.movedMappings.clear();
    engine.movedSignals.clear();
    if (tick) engine.take({ kind: 'sample', signal: 0, timeMs: timeMs - 29, value: hand[i & 4095]! });
    const start = process.hrtime.bigint();
    if (tick) engine.take({ kind: 'tick', timeMs });
    else engine.take({ kind: 'sample', signal: 0, timeMs, value: hand[i & 4095]! });
    return Number(process.hrtime.bigint() - start) / 1000;
  };
  for (let i = 0; i < calls / 4; i++) once(i);
  for (let i = 0; i < calls; i++) times[i] = once(i);
  return times;
}

function perSecond(calls: number, work: () => void): number {
  for (let i = 0; i < calls / 10; i++) work();
  const start = process.hrtime.bigint();
  for (let i = 0; i < calls; i++) work();
  return (calls * 1e9) / Number(process.hrtime.bigint() - start);
}

const figures: Figure[] = [];
for (const mappings of [1, 64, 1000]) {
  const floor = floorNs(mappings);
  const { perSampleNs, bytesPerSample } = throughput(mappings);
  figures.push(figure(`${mappings} mappings: samples a second`, 1e9 / perSampleNs, '1/s', 1e9 / floor, null, 'higher'));
  figures.push(figure(`${mappings} mappings: time a mapping a sample`, perSampleNs / mappings / 1000, 'us', floor / mappings / 1000, aimAt(mappings === 1 ? 0.16 : 0.15), 'lower'));
  figures.push(figure(`${mappings} mappings: allocated a sample`, bytesPerSample, 'bytes', null, aimAt(0), 'lower'));
}
const single = latencies(1, 100_000, false);
const ticks = latencies(1000, 4000, true);
const empty: number[] = Array.from({ length: 20_000 }, () => {
  const start = process.hrtime.bigint();
  return Number(process.hrtime.bigint() - start) / 1000;
});
for (const share of [0.5, 0.99, 0.999]) {
  const floor = percentile(empty, share);
  const label = `p${share * 100}`;
  figures.push(figure(`one sample, one mapping, ${label}`, percentile(single, share), 'us', floor, share === 0.999 ? aimAt(5) : null, 'lower'));
  figures.push(figure(`one tick, 1000 mappings, ${label}`, percentile(ticks, share), 'us', floor, share === 0.999 ? aimAt(500) : null, 'lower'));
}
const big = rigOf(1000);
const compiles = Array.from({ length: 30 }, () => {
  const start = process.hrtime.bigint();
  compile(big);
  return Number(process.hrtime.bigint() - start) / 1e6;
});
figures.push(figure('compile 1000 mappings, p50', percentile(compiles, 0.5), 'ms', null, null, 'lower'));

const bytes = Uint8Array.from({ length: 3000 }, (_, i) => [0xb0, i % 120, (i * 7) % 128][i % 3]!);
let parsed = 0;
const parser = new StreamParser(() => parsed++);
figures.push(figure('MIDI stream parser', perSecond(300, () => parser.push(bytes)) * 1000, 'messages/s', null, null, 'higher'));
const packet = encodeOsc('/mooring/acceleration', [1, 2, 3].map((value) => ({ type: 'f', value })));
figures.push(figure('OSC decoding of ,fff', perSecond(100_000, () => void decodeOsc(packet)), 'messages/s', null, null, 'higher'));
report('engine', figures);
