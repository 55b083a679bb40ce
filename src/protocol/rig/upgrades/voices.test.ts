import { describe, expect, it } from 'vitest';
import { Engine } from '../../../core/engine/engine';
import { voiceEvent } from '../../../core/voices/event';
import type { RigDocument } from '../../../core/rig/document';
import { checkRig } from '../index';

/** A keyboard of three keys as version 1 had it, by what its mappings say. */
function old(change: (mapping: Record<string, unknown>, i: number) => object = () => ({}), more: object = {}) {
  const keys = [60, 61, 62];
  return {
    format: 'pumice-rig',
    version: 1,
    name: 'Old',
    tempoBpm: 120,
    inputs: [{ id: 'bridge', name: 'Bridge', kind: 'surface', surface: 'bridge' }, { id: 'board', name: 'Board', kind: 'midi', device: { report: 'Board', slot: 1 } }],
    signals: keys.map((key) => ({ id: `k${key}`, name: `Keys ${key}`, input: 'bridge', kind: 'gate', unit: 'unit', range: [0, 1] })),
    derived: [],
    mappings: keys.map((key, i) => {
      const mapping = { id: `m${key}`, name: `Keys ${key}`, on: true, signal: `k${key}`, shaping: {}, output: 'weather', message: { kind: 'note', channel: 5, note: key - 12, velocity: 110, velocityFrom: 'strength' } };
      return { ...mapping, ...change(mapping, i) };
    }),
    outputs: [{ id: 'weather', name: 'Weather', kind: 'standIn', receiver: 'weather' }],
    receivers: [{ id: 'weather', name: 'Weather', about: '', bendRangeSemitones: 2, taught: { m60: 'channel 5 · C3' } }],
    surfaces: [{ id: 'bridge', name: 'Bridge', width: 400, height: 400, pages: [{ id: 'one', name: 'One', controls: [{ id: 'keys', kind: 'keys', label: 'Keys', frame: { x: 0, y: 0, width: 300, height: 100 }, low: 60, high: 62, strength: 'position', signals: { key60: 'k60', key61: 'k61', key62: 'k62' } }] }] }],
    scenes: [{ id: 's', name: 'S', mappings: { m60: false, m61: false, m62: false }, pages: {}, values: { k60: 0 }, messages: [], glideMs: 0 }],
    ...more,
  };
}

function upgraded(document: unknown): RigDocument {
  const checked = checkRig(document);
  if (!checked.ok) throw new Error(checked.problems[0]!.message);
  return checked.value;
}

describe('keys of version 1', () => {
  it('whose mappings agree become one stream with one voice mapping, scenes with them', () => {
    const rig = upgraded(old());
    expect(rig.surfaces[0]!.pages[0]!.controls).toMatchObject([{ kind: 'keys', signals: {}, stream: 'bridge.keys' }]);
    expect([rig.signals, rig.mappings, rig.receivers[0]!.taught]).toEqual([[], [], {}]);
    expect(rig.streams).toEqual([{ id: 'board.notes', name: 'Board, notes', input: 'board', source: 'all' }, { id: 'bridge.keys', name: 'Keys', input: 'bridge' }]);
    expect(rig.voiceMappings).toEqual([{ id: 'bridge.keys-notes', name: 'Keys', on: true, stream: 'bridge.keys', output: 'weather', layout: { kind: 'poly', channel: 5, voices: 32, steal: 'oldest' }, pitch: { transpose: -12, bends: false }, strike: { shaping: {}, range: [0, 110] } }]);
    expect(rig.scenes[0]).toMatchObject({ mappings: {}, voiceMappings: { 'bridge.keys-notes': false }, values: {} });
  });

  it('sound the same bytes as before', () => {
    const bytesOf = (rig: RigDocument, play: (engine: Engine, key: number, strength: number, timeMs: number) => void) => {
      const sent: string[] = [];
      const engine: Engine = new Engine(rig, { midi: (_, __, bytes, length) => void sent.push([...bytes.slice(0, length)].join(' ')), osc: () => undefined });
      [[60, 1], [62, 0.3], [60, 0], [61, 0.08], [62, 0], [61, 0], [60, 0.503]].forEach(([key, strength], i) => play(engine, key!, strength!, i * 10));
      engine.take({ kind: 'release', timeMs: 100 });
      return sent;
    };
    // As version 1 played them: keys that do not agree stay gates, here by a remark that says nothing.
    const before = upgraded(old((mapping) => ({ shaping: mapping.id === 'm60' ? { curve: { kind: 'power', k: 0 } } : {} })));
    expect(before.mappings).toHaveLength(3);
    const gates = bytesOf(before, (engine, key, strength, timeMs) => void engine.take({ kind: 'sample', signal: engine.plan.signalIndex.get(`k${key}`)!, value: strength, timeMs }));
    const voices = bytesOf(upgraded(old()), (engine, key, strength, timeMs) => {
      const stream = engine.plan.streamIndex.get('bridge.keys')!;
      engine.take(strength > 0 ? { ...voiceEvent('on'), stream, voice: key, pitch: key, strike: strength, timeMs } : { ...voiceEvent('off'), stream, voice: key, timeMs });
    });
    expect(voices).toEqual(gates);
    expect(voices.length).toBe(8);
  });

  it.each([
    ['a velocity', { message: { kind: 'note', channel: 5, note: 49, velocity: 100, velocityFrom: 'strength' } }],
    ['another interval', { message: { kind: 'note', channel: 5, note: 50, velocity: 110, velocityFrom: 'strength' } }],
    ['another output kind', { message: { kind: 'controlChange', channel: 5, controller: 20, range: [0, 127] } }],
    ['being off', { on: false }],
    ['a shaping', { shaping: { window: { lo: 0.5, hi: 1 } } }],
    ['a gate', { gate: { minOnMs: 50 } }],
  ])('of which one has %s of its own stay what they were', (_, change) => {
    const rig = upgraded(old((__, i) => (i === 1 ? change : {})));
    expect([rig.mappings.length, rig.signals.length, rig.voiceMappings.length]).toEqual([3, 3, 0]);
  });

  it('which something else goes by stay what they were', () => {
    const readout = { id: 'read', kind: 'readout', label: '', frame: { x: 0, y: 200, width: 90, height: 40 }, signals: {}, shows: 'k61' };
    const surfaces = old().surfaces.map((surface) => ({ ...surface, pages: surface.pages.map((page) => ({ ...page, controls: [...page.controls, readout] })) }));
    expect(upgraded(old(() => ({}), { surfaces })).voiceMappings).toEqual([]);
    const scenes = [{ id: 's', name: 'S', mappings: { m60: false }, pages: {}, values: {}, messages: [], glideMs: 0 }];
    expect(upgraded(old(() => ({}), { scenes })).voiceMappings).toEqual([]);
  });

  it.each([[{ signals: 7 }], [{ surfaces: [null] }], [{ mappings: [{ id: 'm60', signal: 'k60' }] }], [{ surfaces: [{ id: 'bridge', pages: 3 }] }], [{ scenes: [{}] }]])('a document that was broken before is still refused with its problem: %j', (broken) => {
    const checked = checkRig({ ...old(), ...broken });
    expect(checked.ok ? [] : checked.problems.map(({ code }) => code)).toContain('invalid');
  });
});
