import { describe, expect, it } from 'vitest';
import { voiceRig } from '../engine/voices/testVoices';
import { freeControllers, ledgerOf } from './ledger';
import { ledgerRows } from './rows';

const clashing = (...mappings: Parameters<typeof voiceRig>) => [...new Set(ledgerOf(voiceRig(...mappings)).clashes.flatMap(({ claims }) => claims.map(({ mapping }) => mapping)))].sort();
const zone = (zone: 'lower' | 'upper', members: number) => ({ layout: { kind: 'zone', zone, members, steal: 'oldest' } }) as const;
const run = (first: number, last: number) => ({ layout: { kind: 'run', first, last, steal: 'oldest' } }) as const;
const poly = (channel: number) => ({ layout: { kind: 'poly', channel, voices: 8, steal: 'oldest' } }) as const;

describe('voices in the ledger', () => {
  it.each([
    ['two zones that overlap', [zone('lower', 10), zone('upper', 8)], ['v0', 'v1']],
    ['two zones that do not', [zone('lower', 7), zone('upper', 7)], []],
    ['a zone that two streams share', [zone('lower', 7), zone('lower', 7)], []],
    ['zones of other sizes at one end', [zone('lower', 7), zone('lower', 8)], ['v0', 'v1']],
    ['a zone and a run that reaches into it', [zone('lower', 4), run(5, 8)], ['v0', 'v1']],
    ['a zone and a run beside it', [zone('lower', 4), run(6, 8)], []],
    ['a run and one channel of it', [run(3, 6), poly(4)], ['v0', 'v1']],
    ['two streams on one channel that are one pool', [poly(4), poly(4)], []],
    ['two on one channel that are not', [poly(4), { layout: { kind: 'mono', channel: 4, priority: 'last', legato: true, glideMs: 0 } } as const], ['v0', 'v1']],
  ])('%s', (_, mappings, met) => expect(clashing(...mappings)).toEqual(met));

  it('a mapping meets a zone, and the keys of a channel', () => {
    const rig = voiceRig(zone('lower', 4));
    const mapping = { id: 'm', name: 'M', on: true, signal: 'fog', shaping: {}, output: 'weather', message: { kind: 'controlChange', channel: 3, controller: 20, range: [0, 127] as [number, number] } } as const;
    expect(ledgerOf({ ...rig, mappings: [mapping] }).clashes.length).toBeGreaterThan(0);
    const note = { ...mapping, message: { kind: 'note', channel: 4, note: 60, velocity: 9 } } as const;
    expect(ledgerRows({ ...voiceRig({ ...poly(4), keys: { low: 60, high: 72 } }), mappings: [note] }).map(({ state }) => state)).toEqual(['clash', 'clash']);
    expect(ledgerRows({ ...voiceRig({ ...poly(4), keys: { low: 61, high: 72 } }), mappings: [note] }).map(({ state }) => state)).not.toContain('clash');
  });

  it('no controller of a channel of a zone is free', () => {
    expect(freeControllers(voiceRig(zone('lower', 4)), 'weather', 3)).toEqual([]);
    expect(freeControllers(voiceRig(zone('lower', 4)), 'weather', 6)[0]).toBe(20);
  });
});
