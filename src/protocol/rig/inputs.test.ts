import { describe, expect, it } from 'vitest';
import { checkRig } from './index';
import { ledgerOf } from '../../core/ledger/ledger';
import { play } from '../../core/engine/testPlay';
import { testRig } from '../../core/engine/testRig';
import { addMirror } from '../../core/rig/addMirror';
import { addRecording } from '../../core/inputs/addRecording';
import type { Found } from '../../core/inputs/feed';
import type { RigDocument } from '../../core/rig/document';
import { applyEdit, type Change } from '../../core/rig/edit';
import { takeUp } from '../../core/inputs/found';
import { gamepadSources } from '../../core/inputs/gamepadSources';
import { addLightPoints } from '../../core/inputs/lightPoints';
import { removeInput } from '../../core/rig/remove';

const after = (rig: RigDocument, changes: Change[]): RigDocument => {
  const applied = applyEdit(rig, { kind: 'change', changes });
  if (!applied.ok) throw new Error(applied.message);
  const checked = checkRig(applied.document);
  if (!checked.ok) throw new Error(checked.problems.map(({ message }) => message).join('; '));
  return checked.value;
};

const pad = (slot = 1): Found => ({ feed: { kind: 'gamepad', report: 'pad', name: 'Deck hand', slot }, sources: gamepadSources(4, 17) });
const rope = (address: string, slot = 1): Found => ({
  feed: { kind: 'osc', report: 'this computer /rope', name: 'Rope', slot },
  sources: [{ key: `${address} 0`, name: 'Stretch', kind: 'continuous', unit: 'unit', range: [0, 1], osc: { address, argument: 0 } }],
});

describe('taking up what arrived', () => {
  it('makes an input and its signals once, however often it is told', () => {
    const rig = after(testRig([]), takeUp(testRig([]), [rope('/rope/stretch')]));
    expect(rig.inputs.at(-1)).toEqual({ id: 'rope', name: 'Rope', kind: 'osc', device: { report: 'this computer /rope', slot: 1 } });
    expect(takeUp(rig, [rope('/rope/stretch')])).toEqual([]);
    expect(takeUp(rig, [rope('/rope/grip')])).toHaveLength(1);
  });
  it('tells two alike apart by name and id', () => {
    const rig = after(testRig([]), takeUp(testRig([]), [rope('/rope/stretch'), rope('/rope/stretch', 2)]));
    expect(rig.inputs.slice(-2).map(({ id, name }) => [id, name])).toEqual([['rope', 'Rope'], ['rope-2', 'Rope 2']]);
  });
  it('stops a flood of addresses at 256 signals of an input', () => {
    const sources = Array.from({ length: 1000 }, (_, i) => rope(`/rope/${i}`).sources[0]!);
    const changes = takeUp(testRig([]), [{ ...rope('/rope/x'), sources }]);
    expect(changes.filter(({ list }) => list === 'signals')).toHaveLength(256);
  });
  it('pairs the axes of a stick', () => {
    const rig = after(testRig([]), takeUp(testRig([]), [pad()]));
    expect(rig.signals.find(({ source }) => source === 'axis 1')?.pair).toBe('deck-hand.axis-0');
  });
});

describe('a gamepad that is seen for the first time', () => {
  const rig = after(testRig([{}]), takeUp(testRig([{}]), [pad()]));
  it('has mappings without a clash', () => {
    expect(rig.mappings.length).toBeGreaterThan(10);
    expect(ledgerOf(rig).clashes).toEqual([]);
  });
  it('sounds at once: a chord on the low button of the right cluster', () => {
    const { move, words } = play(rig);
    move('deck-hand.button-0', 10, 1);
    expect(words()).toEqual(['channel 1 · note C3 on · 96', 'channel 1 · note G3 on · 96', 'channel 1 · note C4 on · 96']);
  });
  it('repeats a note at the rate that the right trigger gives', () => {
    const notesIn = (trigger: number) => {
      const { move, words, run } = play(rig);
      move('deck-hand.button-7', 5, trigger);
      move('deck-hand.button-2', 10, 1);
      run(10, 2010);
      return words().filter((word) => word.includes('note C5 on')).length;
    };
    expect(notesIn(0)).toBeGreaterThanOrEqual(4);
    expect(notesIn(0)).toBeLessThanOrEqual(5);
    expect(notesIn(1)).toBeGreaterThanOrEqual(32);
    expect(notesIn(1)).toBeLessThanOrEqual(33);
  });
  it('climbs by steps while the direction pad is held up, and falls while it is held down', () => {
    const { move, run, engine, index } = play(rig);
    const height = () => engine.values[index('deck-hand.held-steps')]!;
    move('deck-hand.button-13', 0, 0);
    move('deck-hand.button-12', 0, 1);
    run(0, 500);
    expect(height()).toBeCloseTo(0.5, 1);
    move('deck-hand.button-12', 500, 0);
    move('deck-hand.button-13', 500, 1);
    run(500, 700);
    expect(height()).toBeCloseTo(0.3, 1);
  });
  it('comes with no mappings the second time, in a second place', () => {
    expect(takeUp(rig, [pad()])).toEqual([]);
  });
});

describe('removing an input', () => {
  it('takes everything along that hangs on it, and nothing else, and can be undone', () => {
    const rig = after(testRig([{}]), takeUp(testRig([{}]), [pad()]));
    const changes = removeInput(rig, 'deck-hand');
    const without = after(rig, changes);
    expect([without.inputs, without.signals, without.derived, without.mappings]).toEqual([testRig([{}]).inputs, testRig([{}]).signals, [], testRig([{}]).mappings]);
    const applied = applyEdit(rig, { kind: 'change', changes });
    if (!applied.ok) throw new Error(applied.message);
    const back = applyEdit(applied.document, applied.inverse);
    expect(back.ok && back.document).toEqual(rig);
  });
});

it('light points are an input with four points', () => {
  const rig = after(testRig([]), addLightPoints(testRig([]), '/lamps/points', 'rest'));
  expect(rig.signals.filter(({ input }) => input === 'light-points')).toHaveLength(16);
});

it('a recording is an input with the ranges that it reaches', () => {
  const rig = after(testRig([]), addRecording(testRig([]), { id: 'r1', name: 'Rope', signals: [{ name: 'stretch', lo: 2, hi: 7 }, { name: 'still', lo: 3, hi: 3 }] }));
  expect(rig.signals.slice(-2).map(({ id, range }) => [id, range])).toEqual([['rope.stretch', [2, 7]], ['rope.still', [0, 3]]]);
});

it('a mirror makes its output once', () => {
  const target = { host: '127.0.0.1', port: 9500, address: '/out/fog' };
  const rig = after(testRig([]), addMirror(testRig([]), 'fog', target)!);
  expect(addMirror(rig, 'bell', target)).toHaveLength(1);
  expect(addMirror(rig, 'nothing', target)).toBeNull();
  const shaped = testRig([{ shaping: { smoothing: { kind: 'slew', perS: 1 } } }]);
  const mirrored = after(shaped, addMirror(shaped, 'fog', target, shaped.mappings[0])!);
  expect(mirrored.mappings[1]).toMatchObject({ name: 'Mapping 0 mirrored', shaping: shaped.mappings[0]!.shaping, message: { kind: 'osc', range: [0, 1] } });
});
