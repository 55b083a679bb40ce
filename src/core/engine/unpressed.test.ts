import { describe, expect, it } from 'vitest';
import type { MessageSpec } from '../messages';
import type { RigMapping } from '../rig/document';
import type { Formula } from '../signal/formulas';
import { play } from './testPlay';
import { testRig } from './testRig';
import { cc } from './testScript';

// engine.md, Settled: nothing presses by itself.

const note: MessageSpec = { kind: 'note', channel: 1, note: 60, velocity: 100 };
const program: MessageSpec = { kind: 'programChange', channel: 1, range: [1, 5] };

describe('an edit', () => {
  const toggle = { message: cc(20), gate: { on: 0.5, press: 'toggle' } } satisfies Partial<RigMapping>;
  /** A fader at 0.4 below the threshold, an edit that puts it above, a small move, and then down and up again: what each sends. */
  function edited(before: Partial<RigMapping>, after: Partial<RigMapping>, range: [number, number] = [0, 1]): string[] {
    const { engine, move, run, bytes } = play(testRig([before]));
    const other = testRig([after]);
    other.signals[0]!.range = range;
    const steps = [() => engine.take({ kind: 'rig', timeMs: 2000, rig: other }), () => move('fog', 3000, 0.41), () => move('fog', 4000, 0), () => move('fog', 5000, 0.42)];
    move('fog', 1000, 0.4);
    run(1004, 1900);
    bytes();
    return steps.map((step, i) => (step(), run(2004 + 1000 * i, 2900 + 1000 * i), bytes().join(', ')));
  }

  it.each([
    ['a lower threshold', { gate: { on: 0.3 } }],
    ['a narrower range in', { shaping: { rangeIn: { lo: 0, hi: 0.5 } } }],
    ['another curve', { shaping: { curve: { kind: 'power', k: -2 } } }],
  ] satisfies [string, Partial<RigMapping>][])('presses nothing by %s', (_, change) => {
    const of = (message: RigMapping['message'], press: 'toggle' | 'momentary') => {
      const before: Partial<RigMapping> = { message, gate: { on: 0.5, press } };
      return edited(before, { ...before, ...change, gate: { ...before.gate, ...('gate' in change ? change.gate : {}) } });
    };
    expect(of(note, 'momentary')).toEqual(['', '', '', '90 3C 64']);
    expect(of(note, 'toggle')).toEqual(['', '', '', '90 3C 64']);
    // What they stand at, which an edit may say again, is that they were never pressed.
    expect(of(program, 'toggle').slice(1)).toEqual(['', '', 'C0 04']);
    expect(of(cc(20), 'toggle').slice(1)).toEqual(['', '', 'B0 14 7F']);
  });
  it('presses nothing by another range of the signal', () => {
    expect(edited(toggle, toggle, [0, 0.5])).toEqual(['', '', '', 'B0 14 7F']);
  });
  it('says of a controller that is on as long as it is held where it stands', () => {
    expect(edited({ message: cc(20), gate: { on: 0.5 } }, { message: cc(20), gate: { on: 0.3 } })).toEqual(['B0 14 7F', '', 'B0 14 00', 'B0 14 7F']);
  });
  it('ends what it finds below the threshold', () => {
    expect(edited({ message: note, gate: { on: 0.3, off: 0.2 } }, { message: note, gate: { on: 0.9, off: 0.8 } })).toEqual(['80 3C 40', '', '', '']);
  });
  it('takes no press away that waits for the shortest gap', () => {
    const rig = (name: string, minGapMs: number) => testRig([{ signal: 'bell', name, message: note, gate: { minGapMs } }]);
    const { engine, move, run, bytes } = play(rig('Bell', 200));
    move('bell', 1000, 1);
    move('bell', 1050, 0);
    move('bell', 1100, 1);
    bytes();
    engine.take({ kind: 'rig', timeMs: 1120, rig: rig('Great bell', 200) });
    run(1124, 1400);
    expect(bytes()).toEqual(['90 3C 64']);
  });
});

describe('an edit while a note sounds', () => {
  it.each([
    ['smoothing', { shaping: { smoothing: { kind: 'onePole', timeConstantMs: 20 } } }],
    ['range in', { shaping: { rangeIn: { lo: 0, hi: 0.9 } } }],
    ['de-glitching', { shaping: { deglitch: { median: 5 } } }],
  ] satisfies [string, Partial<RigMapping>][])('of its %s leaves it its length, and its repeats their places', (_, change) => {
    const of = (message: MessageSpec): number[] => {
      const { engine, move, run, sent } = play(testRig([{ message }]));
      move('fog', 1000, 1);
      run(1004, 1100);
      engine.take({ kind: 'rig', timeMs: 1102, rig: testRig([{ message, ...change }]) });
      run(1104, 1400);
      move('fog', 1402, 0);
      run(1404, 3000);
      return sent.map(({ timeMs, bytes }) => (bytes[0] === 0x90 ? timeMs : -timeMs));
    };
    expect(of({ ...note, length: { ms: 200 } })).toEqual([1000, -1200]);
    expect(of({ ...note, length: { ms: 40 }, repeat: { rateHz: 12.5 } })).toEqual([1000, -1040, 1080, -1120, 1160, -1200, 1240, -1280, 1320, -1360, 1400, -1440]);
  });
});

describe('an edit that makes of a toggle or a radio group what goes on only as long as it is held', () => {
  const pressed: RigMapping['gate'][] = [{ press: 'toggle' }, { press: { radio: 'a' } }];
  const lets = (message: MessageSpec, gate: RigMapping['gate'], off = false) => {
    const rigOf = (set: RigMapping['gate']) => {
      const rig = testRig([{ signal: 'bell', message, ...(set && { gate: set }) }]);
      rig.scenes = [true, false].map((on) => ({ id: String(on), name: String(on), mappings: { m0: on }, pages: {}, values: {}, messages: [], glideMs: 0 }));
      return rig;
    };
    const { engine, move, run, bytes } = play(rigOf(gate));
    const recall = (timeMs: number, on: boolean) => off && engine.take({ kind: 'recall', timeMs, scene: String(on) });
    move('bell', 1000, 1);
    move('bell', 1100, 0);
    recall(1150, false);
    bytes();
    engine.take({ kind: 'rig', timeMs: 1200, rig: rigOf(undefined) });
    recall(1210, true);
    const atOnce = bytes();
    run(1212, 3000);
    return { atOnce, afterwards: bytes() };
  };
  it.each(pressed)('lets go of what a press has left on: %j', (gate) => {
    expect(lets(note, gate)).toEqual({ atOnce: ['80 3C 40'], afterwards: [] });
    expect(lets(cc(20), gate)).toEqual({ atOnce: ['B0 14 00'], afterwards: [] });
    expect(lets({ ...note, repeat: { rateHz: 5 }, length: { ms: 50 } }, gate)).toEqual({ atOnce: [], afterwards: [] });
  });
  it.each(pressed)('lets go of it also while the mapping is off, so that nothing comes back: %j', (gate) => {
    expect(lets(note, gate, true)).toEqual({ atOnce: [], afterwards: [] });
  });
  it('leaves what sounds until it is pressed again', () => {
    expect(lets({ ...note, length: 'untilPressedAgain' }, { press: 'toggle' })).toEqual({ atOnce: [], afterwards: [] });
  });
});

describe('a derived signal that an edit makes otherwise', () => {
  const rigOf = (formula: Formula) => {
    const rig = testRig([{ signal: 'd', message: note, gate: { on: 0.5 } }, { signal: 'd', message: cc(20) }, { signal: 'e', message: cc(21) }]);
    rig.derived = [
      { id: 'd', name: 'D', kind: 'continuous', unit: 'unit', range: [0, 1], formula },
      { id: 'e', name: 'E', kind: 'continuous', unit: 'unit', range: [0, 2], formula: { op: 'sum', of: ['d', 'fog'] } },
    ];
    return rig;
  };
  const start = (formula: Formula) => {
    const playing = play(rigOf(formula));
    for (const [signal, value] of [['fog', 0.25], ['fog.touch', 0], ['bell', 1]] as const) playing.move(signal, 1000, value);
    playing.run(1004, 1900);
    playing.bytes();
    return { ...playing, edit: (timeMs: number, to: Formula) => (playing.engine.take({ kind: 'rig', timeMs, rig: rigOf(to) }), playing.bytes()) };
  };
  const highest = (...of: string[]): Formula => ({ op: 'maximum', of });
  it('says at once what it and all that follows from it stand at, and a note that nothing holds any more ends', () => {
    expect(start(highest('bell', 'fog')).edit(2000, highest('fog.touch', 'fog')).sort()).toEqual(['80 3C 40', 'B0 14 20', 'B0 15 20']);
  });
  it('strikes no note', () => {
    const { edit, move, bytes } = start(highest('fog.touch', 'fog'));
    expect(edit(2000, highest('bell', 'fog')).sort()).toEqual(['B0 14 7F', 'B0 15 4F']);
    expect(edit(3000, { op: 'constant', value: 0.75 }).sort()).toEqual(['B0 14 5F', 'B0 15 40']);
    expect(edit(4000, highest('bell', 'fog')).sort()).toEqual(['B0 14 7F', 'B0 15 4F']);
    move('bell', 5000, 0);
    move('bell', 6000, 1);
    expect(bytes()).toContain('90 3C 64');
  });
  it('has no value before its new sources were heard, and holds nothing', () => {
    const rig = rigOf({ op: 'speed', of: 'new' });
    rig.signals.push({ ...rig.signals[0]!, id: 'new', name: 'New' });
    const { engine, bytes, index } = start(highest('bell', 'fog'));
    engine.take({ kind: 'rig', timeMs: 2000, rig });
    // A sum counts what was not heard as lying at its rest.
    expect(bytes().sort()).toEqual(['80 3C 40', 'B0 15 10']);
    expect(engine.values[index('d')]).toBeNaN();
    expect(engine.levels[0]).toBe(0);
  });
  it('begins anew where it is made of something else: the speed of one signal is none of another', () => {
    const { edit, move, bytes } = start({ op: 'speed', of: 'fog' });
    expect(edit(2000, { op: 'speed', of: 'bell' })).toEqual([]);
    move('bell', 2004, 1);
    expect(bytes()).toEqual([]);
  });
});

describe('a mapping that comes on', () => {
  const smoothings = [
    { kind: 'onePole', timeConstantMs: 200 },
    { kind: 'slew', perS: 2 },
    { kind: 'attackRelease', attackMs: 200, releaseMs: 400 },
  ] as const;
  it.each(smoothings)('counts what is held as not pressed until it is let go, also while $kind is still on its way there', (smoothing) => {
    for (const message of [cc(20), note, program]) {
      const rig = testRig([{ signal: 'bell', message, shaping: { smoothing }, gate: { on: 0.5 } }]);
      const scene = (id: string, on: boolean) => ({ id, name: id, mappings: { m0: on }, pages: {}, values: {}, messages: [], glideMs: 0 });
      rig.scenes = [scene('on', true), scene('off', false)];
      const { engine, move, run, sent, bytes } = play(rig);
      move('bell', 1000, 0);
      run(1004, 1900);
      move('bell', 2000, 1);
      run(2004, 2040);
      engine.take({ kind: 'recall', timeMs: 2042, scene: 'off' });
      engine.take({ kind: 'recall', timeMs: 2044, scene: 'on' });
      bytes();
      run(2048, 4000);
      expect(bytes()).toEqual([]);
      move('bell', 5000, 0);
      run(5004, 6900);
      expect(bytes()).toEqual([]);
      move('bell', 7000, 1);
      run(7004, 8000);
      expect(sent).not.toEqual([]);
    }
  });
});
