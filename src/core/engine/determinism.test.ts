import { describe, expect, it } from 'vitest';
import type { RigMapping } from '../rig/document';
import { chance } from '../signal/oscillator';
import { hexOf } from '../midi/describe';
import { play } from './testPlay';
import { testRig } from './testRig';

function rig() {
  const made = testRig([
    { shaping: { smoothing: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 }, curve: { kind: 's', amount: 1 } } },
    { signal: 'gusts', message: { kind: 'controlChange14', channel: 2, controller: 20, range: [0, 16383] }, shaping: { rangeIn: { lo: -1, hi: 1 } } },
    { signal: 'bell', message: { kind: 'note', channel: 10, note: 60, velocity: 100, repeat: { beats: 0.25 } } },
  ]);
  made.derived = [{ id: 'gusts', name: 'Gusts', kind: 'continuous', unit: 'unit', range: [-1, 1], formula: { op: 'oscillator', shape: 'random', rateHz: 8, depth: 1 } }];
  made.outputs[0]!.sendsClock = true;
  return made;
}

function rendered(seed: number): string {
  const { move, run, sent } = play(rig(), seed);
  for (let i = 0; i < 500; i++) {
    move('fog', i * 7, chance(1, i));
    if (i % 40 === 0) move('bell', i * 7, i % 80 === 0 ? 1 : 0);
    run(i * 7, i * 7 + 6);
  }
  return sent.map(({ timeMs, bytes }) => `${timeMs} ${hexOf(bytes)}`).join('\n');
}

describe('the engine', () => {
  it('gives byte-identical output for the same rig, samples, ticks and seed, and another for another seed', () => {
    expect(rendered(3)).toBe(rendered(3));
    expect(rendered(3)).not.toBe(rendered(4));
  });
  it('takes a thousand mappings on one signal and 5 kHz without a throw, each with its own last value', () => {
    const mappings = Array.from({ length: 1000 }, (_, i): Partial<RigMapping> => ({
      message: { kind: 'controlChange', channel: 1 + (i % 16), controller: Math.floor(i / 16), range: [0, 127] },
      shaping: { smoothing: { kind: 'onePole', timeConstantMs: 5 } },
    }));
    const { move, run, engine } = play(testRig(mappings));
    for (let i = 0; i <= 200; i++) move('fog', i * 0.2, i / 200);
    run(44, 1000);
    expect([...engine.levels].every((level) => level === 1)).toBe(true);
  });
  it('takes time that stands still or runs backwards for no time at all', () => {
    const { move, engine } = play(testRig([{ shaping: { smoothing: { kind: 'onePole', timeConstantMs: 50 } } }]));
    move('fog', 1000, 0);
    for (const timeMs of [1000, 500, -1e9, 1000]) move('fog', timeMs, 1);
    expect(engine.levels[0]).toBe(0);
    move('fog', 1020, 1);
    expect(engine.levels[0]).toBeGreaterThan(0);
  });
});
