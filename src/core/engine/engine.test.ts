import { describe, expect, it } from 'vitest';
import { hexOf } from '../midi/describe';
import type { RigMapping } from '../rig/document';
import { Engine } from './engine';
import { testRig } from './testRig';

const FOG = 0;
const BELL = 2;
const note: RigMapping['message'] = { kind: 'note', channel: 10, note: 67, velocity: 100 };

function playing(...mappings: Partial<RigMapping>[]) {
  const sent: string[] = [];
  const engine = new Engine(testRig(mappings), {
    midi: (_output, _mapping, bytes, length) => void sent.push(hexOf(bytes.slice(0, length))),
    osc: (_output, _mapping, _path, [argument]) => void sent.push(`osc ${argument!.value}`),
  });
  const heard = () => sent.splice(0);
  return { engine, heard, load: (timeMs: number, ...next: Partial<RigMapping>[]) => engine.take({ kind: 'rig', rig: testRig(next), timeMs }) };
}

describe('a controller', () => {
  it('sends 87 for 0.685 of the way, as B2 15 57', () => {
    const { engine, heard } = playing({});
    engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: 0.685 });
    expect(heard()).toEqual(['B2 15 57']);
  });
  it('is sent on change only, with 0.3 steps of hysteresis, and always reaches its ends', () => {
    const { engine, heard } = playing({});
    for (const step of [64, 64.4, 64.6, 64.79, 64.81, 64.6, 64.3, 64.19, 0, 127]) engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: step / 127 });
    expect(heard()).toEqual(['B2 15 40', 'B2 15 41', 'B2 15 40', 'B2 15 00', 'B2 15 7F']);
  });
  it('runs downwards where its range does', () => {
    const { engine, heard } = playing({ message: { kind: 'controlChange', channel: 1, controller: 27, range: [96, 0] } });
    engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: 0.25 });
    expect(heard()).toEqual(['B0 1B 48']);
  });
  it('leaves out NaN and signals that do not exist, and takes infinity for the end of the range', () => {
    const { engine, heard } = playing({});
    for (const [signal, value] of [[FOG, NaN], [99, 1], [-1, 1], [0.5, 1]] as const) engine.take({ kind: 'sample', signal, timeMs: 0, value });
    expect(heard()).toEqual([]);
    engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: Infinity });
    engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: -Infinity });
    expect(heard()).toEqual(['B2 15 7F', 'B2 15 00']);
  });
});

describe('smoothing', () => {
  const calm: Partial<RigMapping> = { shaping: { smoothing: { kind: 'onePole', timeConstantMs: 100 } } };

  it('goes on after the last sample until it has arrived, then wants no more ticks', () => {
    const { engine, heard } = playing(calm);
    engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: 0 });
    engine.take({ kind: 'sample', signal: FOG, timeMs: 10, value: 1 });
    for (let timeMs = 14; timeMs < 3000; timeMs += 4) if (engine.pending) engine.take({ kind: 'tick', timeMs });
    const sent = heard();
    expect(sent.at(-1)).toBe('B2 15 7F');
    expect(sent.length).toBeGreaterThan(50);
    expect(engine.pending).toBe(false);
  });
  it('has covered 63.2 % of a step one time constant after it (first-order system)', () => {
    const { engine } = playing(calm);
    engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: 0 });
    for (let timeMs = 4; timeMs <= 1000; timeMs += 4) engine.take({ kind: 'tick', timeMs });
    engine.take({ kind: 'sample', signal: FOG, timeMs: 1000.001, value: 1 });
    for (let timeMs = 1004; timeMs <= 1100; timeMs += 4) engine.take({ kind: 'tick', timeMs });
    expect(engine.levels[0]).toBeCloseTo(1 - Math.exp(-1), 4);
  });
  it('agrees within 1 % of full scale for the same motion at 60 Hz and at 1000 Hz', () => {
    for (const smoothing of [calm.shaping!.smoothing!, { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 } as const]) {
      const levelsAt = (periodMs: number) => {
        const { engine } = playing({ shaping: { smoothing } });
        const levels = new Map<number, number>();
        for (let k = 0; k * periodMs <= 4000; k++) {
          const timeMs = k * periodMs;
          engine.take({ kind: 'sample', signal: FOG, timeMs, value: 0.5 - 0.5 * Math.cos((2 * Math.PI * timeMs) / 2000) });
          levels.set(Math.round(timeMs), engine.levels[0]!);
        }
        return levels;
      };
      const slow = levelsAt(50 / 3);
      const fast = levelsAt(1);
      for (const timeMs of [500, 800, 1200, 1750, 2600, 3300, 3900]) expect(Math.abs(slow.get(timeMs)! - fast.get(timeMs)!)).toBeLessThan(0.01);
    }
  });
});

describe('de-glitching', () => {
  it.each<[string, Partial<RigMapping>]>([
    ['median', { shaping: { deglitch: { median: 7 } } }],
    ['jump gate', { shaping: { deglitch: { jump: { perS: 0.5, forMs: 80 } } } }],
    ['both, with smoothing', { shaping: { deglitch: { median: 5, jump: { perS: 0.5, forMs: 80 } }, smoothing: { kind: 'onePole', timeConstantMs: 30 } } }],
  ])('lets the last value of a movement through once the signal is silent: %s', (_, mapping) => {
    const { engine, heard } = playing(mapping);
    for (let i = 0; i <= 20; i++) engine.take({ kind: 'sample', signal: FOG, timeMs: i * 5, value: i / 20 });
    for (let timeMs = 104; timeMs < 1500; timeMs += 4) if (engine.pending) engine.take({ kind: 'tick', timeMs });
    expect(heard().at(-1)).toBe('B2 15 7F');
    expect(engine.pending).toBe(false);
  });
});

describe('a note', () => {
  it('gets one note on and one note off for a press and its release', () => {
    const { engine, heard } = playing({ signal: 'bell', message: note });
    for (const value of [1, 1, 0.8, 0, 0]) engine.take({ kind: 'sample', signal: BELL, timeMs: 0, value });
    expect(heard()).toEqual(['99 43 64', '89 43 40']);
  });
  it.each<[string, Partial<RigMapping>[]]>([
    ['is switched off', [{ signal: 'bell', message: note, on: false }]],
    ['moves to another note', [{ signal: 'bell', message: { ...note, note: 60 } as RigMapping['message'] }]],
    ['moves to another channel', [{ signal: 'bell', message: { ...note, channel: 2 } as RigMapping['message'] }]],
    ['becomes a controller', [{ signal: 'bell' }]],
    ['is removed', []],
  ])('that sounds is ended when its mapping %s', (_, after) => {
    const { engine, heard, load } = playing({ signal: 'bell', message: note });
    engine.take({ kind: 'sample', signal: BELL, timeMs: 0, value: 1 });
    heard();
    load(5, ...after);
    expect(heard()[0]).toBe('89 43 40');
  });
  it('that sounds stays where something else was edited, and is ended by release', () => {
    const { engine, heard, load } = playing({ signal: 'bell', message: note }, {});
    engine.take({ kind: 'sample', signal: BELL, timeMs: 0, value: 1 });
    heard();
    load(5, { signal: 'bell', message: note }, { name: 'Another name' });
    expect(heard()).toEqual([]);
    engine.take({ kind: 'release', timeMs: 6 });
    expect(heard()).toEqual(['89 43 40']);
  });
});

describe('an edit', () => {
  it('is heard at once: the present value goes to the new address', () => {
    const { engine, heard, load } = playing({});
    engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: 1 });
    heard();
    load(5, { message: { kind: 'controlChange', channel: 4, controller: 30, range: [0, 100] } });
    expect(heard()).toEqual(['B3 1E 64']);
  });
  it('of something else leaves a smoothing where it is', () => {
    const calm: Partial<RigMapping> = { shaping: { smoothing: { kind: 'onePole', timeConstantMs: 500 } } };
    const { engine, load } = playing(calm, {});
    engine.take({ kind: 'sample', signal: FOG, timeMs: 0, value: 0 });
    engine.take({ kind: 'sample', signal: FOG, timeMs: 20, value: 1 });
    const level = engine.levels[0];
    load(20, calm, { name: 'Another name' });
    expect(engine.levels[0]).toBe(level);
    expect(engine.pending).toBe(true);
  });
  it('sends nothing for a signal that never moved', () => {
    const { engine, heard, load } = playing({});
    load(5, { message: { kind: 'controlChange', channel: 4, controller: 30, range: [0, 100] } });
    engine.take({ kind: 'tick', timeMs: 100 });
    expect(heard()).toEqual([]);
  });
});

describe('panic', () => {
  it('ends what sounds, then sends 64, 120, 123 and a centred bend on every channel in use', () => {
    const { engine, heard } = playing({ signal: 'bell', message: note }, {});
    engine.take({ kind: 'sample', signal: BELL, timeMs: 0, value: 1 });
    heard();
    engine.take({ kind: 'panic', timeMs: 1 });
    expect(heard()).toEqual(['89 43 40', 'B2 40 00', 'B2 78 00', 'B2 7B 00', 'E2 00 40', 'B9 40 00', 'B9 78 00', 'B9 7B 00', 'E9 00 40']);
  });
});
