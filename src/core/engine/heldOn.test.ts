import { expect, it } from 'vitest';
import type { RigMapping } from '../rig/document';
import { play } from './testPlay';
import { testRig } from './testRig';
import { cc } from './testScript';

/** Pressed, let go of by a line that broke, on again because it was held all the while, lifted, and pressed anew: what each of them sends. */
function held(mapping: Partial<RigMapping>): string[][] {
  const rig = testRig([{ signal: 'bell', ...mapping }]);
  rig.scenes = [{ id: 'a', name: 'A', mappings: {}, pages: {}, values: {}, messages: [{ output: 'weather', bytes: [0xcf, 9] }], glideMs: 0, recalledBy: { signal: 'bell' } }];
  const { engine, index, move, bytes } = play(rig);
  const signal = index('bell');
  const what = [() => move('bell', 100, 1), () => move('bell', 200, 0), () => engine.take({ kind: 'heldOn', timeMs: 300, signal, value: 1 }), () => move('bell', 400, 0), () => move('bell', 500, 1)];
  return what.map((happens) => (happens(), bytes()));
}
const SCENE = 'CF 09';

it('sounds again what sounds as long as it is held', () => {
  expect(held({ message: { kind: 'note', channel: 1, note: 60, velocity: 100 } })).toEqual([['90 3C 64', SCENE], ['80 3C 40'], ['90 3C 64'], ['80 3C 40'], ['90 3C 64', SCENE]]);
  expect(held({ message: cc(20) })).toEqual([['B0 14 7F', SCENE], ['B0 14 00'], ['B0 14 7F'], ['B0 14 00'], ['B0 14 7F', SCENE]]);
});

it('does not do again what a press does once: toggle, choose, call a program, recall a scene', () => {
  expect(held({ message: cc(20), gate: { press: 'toggle' } })).toEqual([['B0 14 7F', SCENE], [], [], [], ['B0 14 00', SCENE]]);
  expect(held({ message: { kind: 'note', channel: 1, note: 60, velocity: 100 }, gate: { press: 'toggle' } })).toEqual([['90 3C 64', SCENE], [], [], [], ['80 3C 40', SCENE]]);
  expect(held({ message: cc(20), gate: { press: { radio: 'r' } } })).toEqual([['B0 14 7F', SCENE], [], [], [], [SCENE]]);
  expect(held({ message: { kind: 'programChange', channel: 1, range: [1, 5] } })).toEqual([['C0 04', SCENE], [], [], [], ['C0 04', SCENE]]);
});

it('is no press either once the shortest time between two has passed, and holds none up by its own', () => {
  const { engine, index, move, run, bytes } = play(testRig([{ signal: 'bell', message: cc(20), gate: { press: 'toggle', minOnMs: 400, minGapMs: 150 } }]));
  const seen: string[] = [];
  const look = () => seen.push(bytes().join(', '));
  move('bell', 100, 1);
  look();
  run(104, 700);
  move('bell', 700, 0);
  engine.take({ kind: 'heldOn', timeMs: 800, signal: index('bell'), value: 1 });
  run(804, 1200);
  look();
  move('bell', 1200, 0);
  run(1204, 1400);
  move('bell', 1400, 1);
  look();
  expect(seen).toEqual(['B0 14 7F', '', 'B0 14 00']);
});

it('is no press where smoothing takes it over the threshold only later, unless it was let go of on the way', () => {
  const { engine, index, move, run, bytes } = play(testRig([{ signal: 'bell', message: cc(20), shaping: { smoothing: { kind: 'onePole', timeConstantMs: 50 } }, gate: { on: 0.5, press: 'toggle' } }]));
  const signal = index('bell');
  const until: string[] = [];
  const next = (happens: () => void, fromMs: number) => {
    happens();
    run(fromMs + 4, fromMs + 900);
    until.push(bytes().join(', '));
  };
  next(() => move('bell', 1000, 1), 1000);
  next(() => move('bell', 2000, 0), 2000);
  next(() => engine.take({ kind: 'heldOn', timeMs: 3000, signal, value: 1 }), 3000);
  next(() => move('bell', 4000, 0), 4000);
  next(() => move('bell', 5000, 1), 5000);
  next(() => move('bell', 6000, 0), 6000);
  // Back, and lifted before it came over the threshold: what is pressed then is a press.
  engine.take({ kind: 'heldOn', timeMs: 7000, signal, value: 1 });
  next(() => move('bell', 7008, 0), 7008);
  next(() => move('bell', 8000, 1), 8000);
  expect(until).toEqual(['B0 14 7F', '', '', '', 'B0 14 00', '', '', 'B0 14 7F']);
});

it('of a signal that is not there is said to be none', () => {
  const { engine } = play(testRig([]));
  expect(engine.take({ kind: 'heldOn', timeMs: 1, signal: 99, value: 1 })).toBe(false);
});
