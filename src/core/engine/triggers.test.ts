import { expect, it } from 'vitest';
import type { RigScene } from '../rig/document';
import { play } from './testPlay';
import { testRig } from './testRig';

const scene = (id: string, more: Partial<RigScene>): RigScene => ({ id, name: id, mappings: {}, pages: {}, values: {}, messages: [{ output: 'weather', bytes: [0xc0, id.charCodeAt(0)] }], glideMs: 0, ...more });

function rigWith(scenes: RigScene[]) {
  const rig = testRig([]);
  rig.signals.push({ id: 'program', name: 'Program', input: 'deck', kind: 'continuous', unit: 'count', range: [1, 128] });
  rig.scenes = scenes;
  return play(rig);
}

it('a gate recalls a scene each time it goes on, not while it stays on', () => {
  const { move, bytes } = rigWith([scene('a', { recalledBy: { signal: 'bell' } })]);
  for (const [timeMs, value] of [[1, 1], [2, 0.6], [3, 0], [4, 1]] as const) move('bell', timeMs, value);
  expect(bytes()).toEqual(['C0 61', 'C0 61']);
});

it('a program change recalls the scene of its number, again when it comes again', () => {
  const { move, bytes } = rigWith([scene('a', { recalledBy: { signal: 'program', at: 5 } }), scene('b', { recalledBy: { signal: 'program', at: 6 } })]);
  for (const [i, program] of [5, 5, 6, 7].entries()) move('program', i * 400, program);
  expect(bytes()).toEqual(['C0 61', 'C0 61', 'C0 62']);
});

it('a stream of equal samples recalls its scene once, and again when it comes back after a silence', () => {
  const { move, bytes } = rigWith([scene('a', { recalledBy: { signal: 'program', at: 5 } })]);
  for (let i = 0; i < 100; i++) move('program', i * 10, 5);
  expect(bytes()).toEqual(['C0 61']);
  for (let i = 0; i < 100; i++) move('program', 2000 + i * 10, 5);
  expect(bytes()).toEqual(['C0 61']);
});

it('what a scene moves recalls no other, and a value that is restored recalls none', () => {
  const { move, engine, index, bytes } = rigWith([scene('a', { recalledBy: { signal: 'bell' }, values: { program: 6 } }), scene('b', { recalledBy: { signal: 'program', at: 6 } })]);
  engine.take({ kind: 'restore', signal: index('program'), timeMs: 0, value: 6 });
  expect(bytes()).toEqual([]);
  move('bell', 1, 1);
  expect(bytes()).toEqual(['C0 61']);
});

it('a derived gate recalls a scene when it goes on, not by what it is found at, nor by what a scene moved', () => {
  const rig = testRig([]);
  rig.derived = [
    { id: 'half', name: 'Half', kind: 'continuous', unit: 'unit', range: [0, 1], formula: { op: 'constant', value: 0.5 } },
    { id: 'high', name: 'High', kind: 'gate', unit: 'unit', range: [-0.5, 0.5], formula: { op: 'difference', of: ['fog', 'half'] } },
  ];
  rig.scenes = [scene('a', { recalledBy: { signal: 'high' } }), scene('b', { values: { fog: 0.9 } })];
  const { move, engine, index, bytes } = play(rig);
  engine.take({ kind: 'restore', signal: index('fog'), timeMs: 0, value: 0.8 });
  move('fog', 1, 0.7);
  expect(bytes()).toEqual([]);
  move('fog', 2, 0.2);
  move('fog', 3, 0.6);
  move('fog', 4, 0.7);
  expect(bytes()).toEqual(['C0 61']);
  move('fog', 5, 0.2);
  engine.take({ kind: 'recall', scene: 'b', timeMs: 6 });
  move('bell', 7, 1);
  expect(bytes()).toEqual(['C0 62']);
});

it('the first press of a derived gate that was never heard recalls its scene, also after an edit; what an edit finds on does not', () => {
  const rig = testRig([]);
  rig.derived = [{ id: 'made', name: 'Made', kind: 'gate', unit: 'unit', range: [0, 1], formula: { op: 'maximum', of: ['bell'] } }];
  rig.scenes = [scene('a', { recalledBy: { signal: 'made' } })];
  const first = play(rig);
  first.move('bell', 1, 1);
  expect(first.bytes()).toEqual(['C0 61']);
  // Edited before it was ever pressed.
  const edited = play(rig);
  edited.engine.take({ kind: 'rig', timeMs: 0, rig: { ...rig, name: 'Other' } });
  edited.move('bell', 1, 1);
  expect(edited.bytes()).toEqual(['C0 61']);
  // Made while its source lies there already, or lies off.
  for (const [lies, recalls] of [[1, []], [0, ['C0 61']]] as const) {
    const added = play({ ...rig, derived: [], scenes: [] });
    added.move('bell', 1, lies);
    added.engine.take({ kind: 'rig', timeMs: 2, rig });
    added.move('bell', 3, 0.5);
    expect(added.bytes()).toEqual(recalls);
  }
});

it('a tap is no scene that another would follow: what one began sounds on', () => {
  const { move, engine, bytes } = rigWith([scene('drone', { messages: [{ output: 'weather', bytes: [0x90, 40, 90] }] }), scene('tap', { recalledBy: { signal: 'bell' }, transport: 'tap', messages: [] }), scene('next', {})]);
  engine.take({ kind: 'recall', scene: 'drone', timeMs: 0 });
  move('bell', 10, 1);
  expect(bytes()).toEqual(['90 28 5A']);
  engine.take({ kind: 'recall', scene: 'next', timeMs: 20 });
  expect(bytes()[0]).toBe('80 28 40');
});

it('a scene taps the tempo, starts what stands and stops what runs', () => {
  const { move, engine } = rigWith([scene('tap', { recalledBy: { signal: 'bell' }, transport: 'tap', messages: [] }), scene('pedal', { recalledBy: { signal: 'program', at: 5 }, transport: 'startStop', messages: [] })]);
  // Every 600 ms: 100 beats a minute.
  for (let i = 0; i < 4; i++) {
    move('bell', 1000 + 600 * i, 1);
    move('bell', 1100 + 600 * i, 0);
  }
  expect([engine.tempoBpm, engine.tappedBpm, engine.running]).toEqual([100, 100, false]);
  move('program', 4000, 5);
  expect(engine.running).toBe(true);
  move('program', 5000, 5);
  expect(engine.running).toBe(false);
  // A foot that is too quick for any rig's tempo (more than 400) is taken for the quickest.
  for (let i = 0; i < 4; i++) {
    move('bell', 9000 + 100 * i, 1);
    move('bell', 9050 + 100 * i, 0);
  }
  expect(engine.tempoBpm).toBe(400);
});
