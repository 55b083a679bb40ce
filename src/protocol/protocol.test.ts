import { describe, expect, it } from 'vitest';
import { testRig } from '../core/engine/testRig';
import { check } from './check';
import { readEnvironment } from './environment';
import { checkFromClient } from './liveSchema';
import { isLoopback, isOwnHost, isOwnOrigin } from './origin';
import { checkEdited, checkRig, editRequestSchema } from './rig';
import { upgradeRig } from './rig/upgrade';

const problemsOf = (input: unknown) => {
  const checked = checkRig(input);
  return checked.ok ? [] : checked.problems.map(({ message }) => message);
};

describe('a rig document', () => {
  it('that is sound comes out as it went in', () => {
    expect(checkRig(JSON.parse(JSON.stringify(testRig([{}]))))).toEqual({ ok: true, value: testRig([{}]) });
  });
  it('gives all problems at once, each with its path, what was expected and what was found', () => {
    const rig = { ...testRig([{}]), format: 'other-rig', tempoBpm: 'fast', colour: 'blue' };
    (rig.mappings[0]!.message as { channel: number }).channel = 17;
    expect(problemsOf(rig)).toEqual([
      'format must be [pumice-rig], found "other-rig"',
      'tempoBpm must be a number, found "fast"',
      'mappings[0].message.channel must be less than or equal to 16, found 17',
      'colour is not allowed, found "blue"',
    ]);
  });
  it('of a newer version is said to be so, with the version that is known', () => {
    expect(problemsOf({ ...testRig([]), version: 4 })).toEqual(['version: expected 3 or an earlier one, found 4: this rig was made by a newer Pumice.']);
  });
  it('of an older version is brought up step by step', () => {
    const steps = [(old: object) => ({ ...old, tide: 'low' }), (old: object) => ({ ...old, tide: 'high' })];
    expect(upgradeRig({ version: 1, name: 'Old' }, steps, 3)).toEqual({ ok: true, value: { version: 3, name: 'Old', tide: 'high' } });
  });
  it('whose derived signals go in a circle is refused, with the path of the circle', () => {
    const rig = testRig([]);
    const derived = (id: string, of: string) => ({ id, name: id, kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number], formula: { op: 'sum' as const, of: [of] } });
    rig.derived = [derived('a', 'b'), derived('b', 'a')];
    expect(problemsOf(rig)).toEqual(['derived[0].formula: derived signals must not go in a circle, found a -> b -> a']);
  });
  it('refuses controllers 120-127, which are channel mode messages', () => {
    const rig = testRig([{ message: { kind: 'controlChange', channel: 1, controller: 123, range: [0, 127] } }]);
    expect(problemsOf(rig)).toEqual(['mappings[0].message.controller must be less than or equal to 119, found 123']);
  });
  it('has room for so many of a kind, said alike of a file and of an edit', () => {
    const rig = testRig([]);
    const full = { ...rig, scenes: Array.from({ length: 257 }, (_, i) => ({ id: `s${i}`, name: `Scene ${i}`, values: {}, mappings: {}, pages: {}, messages: [], glideMs: 0 })) };
    const sentence = 'A rig has room for 256 scenes, and here are 257: take out what is not needed';
    expect(problemsOf(full)).toEqual([`${sentence}.`]);
    const edited = checkEdited(rig, full);
    expect(!edited.ok && edited.problems.map(({ message }) => message)).toContain(sentence);
  });
  it('names a dangling reference', () => {
    expect(problemsOf(testRig([{ signal: 'gone' }]))).toEqual(['mappings[0].signal: expected the id of a signal of this rig, found "gone"']);
  });
  it.each([null, 7, 'rig', [], {}])('is not %j', (input) => expect(checkRig(input).ok).toBe(false));
});

describe('an edit', () => {
  it.each([
    [{ edit: { kind: 'setMapping', mapping: 'm0', set: { on: false } } }, null],
    [{ edit: { kind: 'setMapping', mapping: 'm0', set: {} } }, 'edit.set'],
    [{ edit: { kind: 'setMapping', mapping: 'm0', set: { id: 'other' } } }, 'edit.set.id'],
    [{ edit: { kind: 'eraseAll' } }, 'edit.kind'],
    [{ edit: { kind: 'setRig', set: { name: 'x'.repeat(10_000) } } }, 'edit.set.name'],
    [{ edit: { kind: 'setRig', set: { tempoBpm: 1e308 } } }, 'edit.set.tempoBpm'],
  ])('%j', (body, field) => {
    const checked = check(editRequestSchema, body);
    expect(checked.ok ? null : checked.problems[0]!.field).toBe(field);
  });
});

describe('a control message of a page', () => {
  it.each([[{ kind: 'dance' }, 'kind'], [{ kind: 'ping', pageTimeMs: 'now' }, 'pageTimeMs'], [{ kind: 'watchList', what: 'signals', add: [-1], remove: [] }, 'add[0]']])(
    '%j is refused, naming the field',
    (message, field) => {
      const checked = checkFromClient(message, false);
      expect(checked === 'forbidden' || checked.ok ? null : checked.problems[0]!.field).toBe(field);
    },
  );
  it.each<[object, string | null]>([
    [{ kind: 'panic' }, null],
    [{ kind: 'recall', scene: 'fog-bank' }, null],
    [{ kind: 'feed', feed: 'x', report: { kind: 'motion', report: 'x', name: 'x' }, sources: [] }, null],
    [{ kind: 'feed', feed: 'x', report: { kind: 'gamepad', report: 'x', name: 'x' }, sources: [] }, 'report.kind'],
    [{ kind: 'feed', feed: 'x', report: { kind: 'midi', report: 'x', name: 'x' }, sources: [] }, 'report.kind'],
    [{ kind: 'holdBack', signals: [] }, 'forbidden'],
    [{ kind: 'introduce', mapping: null }, 'forbidden'],
    [{ kind: 'standIn', standIn: 'deck-hand' }, 'forbidden'],
    [{ kind: 'try', surface: null }, 'forbidden'],
    [{ kind: 'nonsense' }, 'kind'],
  ])('a joined device that says %j gets %s', (message, expected) => {
    const checked = checkFromClient(message, true);
    expect(checked === 'forbidden' ? checked : checked.ok ? null : checked.problems[0]!.field).toBe(expected);
  });
});

describe('the environment', () => {
  it('puts the hub beside PORT unless told otherwise', () => {
    expect(readEnvironment({ PORT: '5000' })).toEqual({ https: false, lanAddresses: [], port: 5000, hubPort: 5001, oscPort: 9400, midiPort: 4704, dataFolder: 'data' });
    expect(readEnvironment({ PUMICE_HUB_PORT: '6000' }).hubPort).toBe(6000);
  });
  it.each([
    [{ PORT: 'ninety' }, 'PORT must be a number, found "ninety": set PORT to something else and start again.'],
    [{ PORT: '5000', PUMICE_HUB_PORT: '5000' }, 'PORT and PUMICE_HUB_PORT are both 5000: give each its own.'],
    [{ PORT: '65535' }, 'PORT is 65535 and leaves no port for the hub: set PUMICE_HUB_PORT.'],
  ])('says in one sentence what is wrong with %j', (variables, sentence) => expect(() => readEnvironment(variables)).toThrow(sentence));
});

describe('where a request comes from', () => {
  it('is this computer for its names and addresses at our port alone', () => {
    for (const host of ['localhost:4700', '127.0.0.1:4700', '[::1]:4700', 'LOCALHOST:4700']) expect(isOwnHost(host, 4700)).toBe(true);
    for (const host of [undefined, '', 'localhost', 'localhost:80', 'evil.example:4700', 'localhost.evil.example:4700', '127.0.0.1:4700:1']) {
      expect(isOwnHost(host, 4700)).toBe(false);
    }
  });
  it('is a page of ours, or no page at all', () => {
    expect(isOwnOrigin(undefined, 4700)).toBe(true);
    expect(isOwnOrigin('http://localhost:4700', 4700)).toBe(true);
    for (const origin of ['null', 'http://evil.example', 'http://localhost:4701', 'file://']) expect(isOwnOrigin(origin, 4700)).toBe(false);
  });
  it('knows loopback addresses', () => {
    expect(['127.0.0.1', '::1', '::ffff:127.0.0.1'].every(isLoopback)).toBe(true);
    expect([undefined, '192.168.1.5', '::ffff:10.0.0.1'].some(isLoopback)).toBe(false);
  });
});
