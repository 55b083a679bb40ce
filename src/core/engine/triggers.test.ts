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
  for (const [i, program] of [5, 5, 6, 7].entries()) move('program', i, program);
  expect(bytes()).toEqual(['C0 61', 'C0 61', 'C0 62']);
});

it('what a scene moves recalls no other, and a value that is restored recalls none', () => {
  const { move, engine, index, bytes } = rigWith([scene('a', { recalledBy: { signal: 'bell' }, values: { program: 6 } }), scene('b', { recalledBy: { signal: 'program', at: 6 } })]);
  engine.take({ kind: 'restore', signal: index('program'), timeMs: 0, value: 6 });
  expect(bytes()).toEqual([]);
  move('bell', 1, 1);
  expect(bytes()).toEqual(['C0 61']);
});
