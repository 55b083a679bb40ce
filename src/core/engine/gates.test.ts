import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RigDocument, RigMapping } from '../rig/document';
import { play, playing } from './testPlay';
import { testRig } from './testRig';
import type { Note } from '../messages/note';

const note = (more: Partial<Note> = {}): Note => ({ kind: 'note', channel: 1, note: 60, velocity: 100, ...more });
const on = (key: number, velocity = 100) => `90 ${hex(key)} ${hex(velocity)}`;
const off = (key: number) => `80 ${hex(key)} 40`;
const hex = (n: number) => n.toString(16).toUpperCase().padStart(2, '0');

describe('a gate from a continuous signal', () => {
  const gate = { on: 0.6, off: 0.4 };
  it('goes on above `on` and off below `off`, so that noise between them does nothing', () => {
    const { move, bytes } = playing({ message: note(), gate });
    for (const value of [0.5, 0.61, 0.55, 0.62, 0.45, 0.39, 0.5]) move('fog', 0, value);
    expect(bytes()).toEqual([on(60), off(60)]);
  });
  it('stays on for at least its shortest time, and off for the shortest gap', () => {
    const { move, run, sent } = playing({ message: note(), gate: { ...gate, minOnMs: 100, minGapMs: 60 } });
    move('fog', 1000, 1);
    move('fog', 1010, 0);
    run(1014, 1050);
    move('fog', 1050, 1);
    move('fog', 1060, 0);
    run(1064, 1130);
    move('fog', 1130, 1);
    run(1134, 1400);
    expect(sent.map(({ timeMs, bytes }) => [timeMs, bytes[0]])).toEqual([
      [1000, 0x90],
      [1100, 0x80],
      [1162, 0x90],
    ]);
  });
  it('takes its strength from the speed of the crossing', () => {
    const { move, words } = playing({ message: note({ velocityFrom: { fullSpeedPerS: 20 } }), gate });
    move('fog', 0, 0.2);
    move('fog', 50, 0.7);
    expect(words()).toEqual(['channel 1 · note C4 on · 50']);
  });
  it('sends 0 and full as a controller', () => {
    const { move, bytes } = playing({ gate });
    for (const value of [0.1, 0.7, 0.5, 0.1]) move('fog', 0, value);
    expect(bytes()).toEqual(['B2 15 00', 'B2 15 7F', 'B2 15 00']);
  });
});

describe('presses', () => {
  it('toggle', () => {
    const { move, bytes } = playing({ signal: 'bell', gate: { press: 'toggle' } });
    for (const value of [1, 0, 1, 0]) move('bell', 0, value);
    expect(bytes()).toEqual(['B2 15 7F', 'B2 15 00']);
  });
  it('one of a radio group turns the others off', () => {
    const { move, bytes } = playing(
      { signal: 'bell', gate: { press: { radio: 'lights' } } },
      { signal: 'fog.touch', gate: { press: { radio: 'lights' } }, message: { kind: 'controlChange', channel: 3, controller: 22, range: [0, 127] } },
    );
    move('bell', 0, 1);
    move('bell', 0, 0);
    move('fog.touch', 0, 1);
    move('fog.touch', 0, 0);
    move('bell', 0, 1);
    expect(bytes()).toEqual(['B2 15 7F', 'B2 15 00', 'B2 16 7F', 'B2 16 00', 'B2 15 7F']);
  });
  it('send their strength as a controller, and as velocity', () => {
    const { move, bytes } = playing({ signal: 'bell' }, { signal: 'bell', message: note({ velocity: 127, velocityFrom: 'strength' }) });
    move('bell', 0, 0.5);
    expect(bytes()).toEqual(['B2 15 40', on(60, 64)]);
  });
});

describe('a level moved by a gate', () => {
  it('ramps up and down in its times', () => {
    const { move, run, engine } = playing({ signal: 'bell', motion: { kind: 'ramp', onLevel: 1, offLevel: 0.2, upMs: 400, downMs: 800 } });
    move('bell', 0, 1);
    run(4, 200);
    expect(engine.levels[0]).toBeCloseTo(0.6, 6);
    run(204, 1000);
    expect(engine.levels[0]).toBe(1);
    move('bell', 1000, 0);
    run(1004, 1400);
    expect(engine.levels[0]).toBeCloseTo(0.6, 6);
    run(1404, 2000);
    expect([engine.levels[0], engine.pending]).toEqual([0.2, false]);
  });
  it('climbs while it is held, faster and faster, and stays', () => {
    const { move, run, engine } = playing({ signal: 'bell', motion: { kind: 'climb', perS: 0.1, accelerationPerS2: 0.2 } });
    move('bell', 0, 1);
    run(4, 1000);
    move('bell', 1000, 0);
    run(1004, 1500);
    // s = v t + a t^2 / 2
    expect(engine.levels[0]).toBeCloseTo(0.1 + 0.1, 6);
  });
});

describe('notes', () => {
  it('of fixed length end by themselves, however long they are held', () => {
    const { move, run, sent } = playing({ signal: 'bell', message: note({ length: { ms: 50 } }) });
    move('bell', 0, 1);
    run(4, 200);
    move('bell', 200, 0);
    expect(sent.map(({ timeMs, bytes }) => [timeMs, bytes[0]])).toEqual([
      [0, 0x90],
      [52, 0x80],
    ]);
  });
  it('until pressed again sound on after the release', () => {
    const { move, bytes } = playing({ signal: 'bell', message: note({ length: 'untilPressedAgain' }) });
    for (const value of [1, 0]) move('bell', 0, value);
    expect(bytes()).toEqual([on(60)]);
    for (const value of [1, 0]) move('bell', 0, value);
    expect(bytes()).toEqual([off(60)]);
  });
  it('repeat at a division of the tempo while held: eighths at 120 bpm every 250 ms, without drift', () => {
    const { move, run, sent } = playing({ signal: 'bell', message: note({ repeat: { beats: 0.5 } }) });
    move('bell', 0, 1);
    run(4, 10_004);
    const strikes = sent.filter(({ bytes }) => bytes[0] === 0x90);
    expect(strikes).toHaveLength(41);
    expect(Math.abs(strikes[40]!.timeMs - 10_000)).toBeLessThanOrEqual(4);
    move('bell', 10_006, 0);
    expect(sent.filter(({ bytes }) => bytes[0] === 0x80)).toHaveLength(41);
  });
  it('until pressed again repeat until then, as hard as they were struck', () => {
    const { move, run, sent, engine } = playing({ signal: 'bell', message: note({ length: 'untilPressedAgain', repeat: { rateHz: 10 }, velocityFrom: 'strength' }) });
    const strikes = () => sent.splice(0).flatMap(({ bytes }) => (bytes[0] === 0x90 ? [bytes[2]] : []));
    move('bell', 0, 0.5);
    move('bell', 10, 0);
    run(14, 310);
    expect(strikes()).toEqual([50, 50, 50, 50]);
    move('bell', 320, 1);
    move('bell', 330, 0);
    expect(sent.splice(0).map(({ bytes }) => bytes[0])).toEqual([0x80]);
    run(334, 1000);
    expect([sent, engine.pending]).toEqual([[], false]);
  });
  it('repeat as hard as their key is held, and where it is not held any more as it was struck', () => {
    const { move, run, sent } = playing({ signal: 'bell', message: note({ repeat: { rateHz: 10 }, velocityFrom: 'strength' }), gate: { press: 'toggle' } });
    move('bell', 0, 0.5);
    move('bell', 50, 0.8);
    run(54, 110);
    move('bell', 150, 0);
    run(154, 310);
    expect(sent.flatMap(({ bytes }) => (bytes[0] === 0x90 ? [bytes[2]] : []))).toEqual([50, 80, 80, 80]);
  });
  it('repeat as fast as they were struck, whatever the key does since', () => {
    const { move, run, sent } = playing({ signal: 'fog', message: note({ repeat: { rateHz: 10 }, velocityFrom: { fullSpeedPerS: 100 } }) });
    move('fog', 0, 0);
    move('fog', 10, 0.8);
    move('fog', 20, 0.78);
    run(24, 230);
    expect(sent.flatMap(({ bytes }) => (bytes[0] === 0x90 ? [bytes[2]] : []))).toEqual([80, 80, 80]);
  });
  it('of a toggle come back as hard as they were struck when a scene switches their mapping on again', () => {
    const rig = testRig([{ id: 'm0', signal: 'bell', message: note({ velocityFrom: 'strength' }), gate: { press: 'toggle' } }]);
    rig.scenes = [false, true].map((on) => ({ id: String(on), name: 'Scene', mappings: { m0: on }, pages: {}, values: {}, messages: [], glideMs: 0 }));
    const { engine, move, bytes } = play(rig);
    move('bell', 0, 0.5);
    move('bell', 10, 0);
    for (const [i, scene] of ['false', 'true'].entries()) engine.take({ kind: 'recall', scene, timeMs: 20 + i });
    expect(bytes()).toEqual(['90 3C 32', off(60), '90 3C 32']);
  });
  it('repeat at a rate that is itself a signal', () => {
    const { move, run, sent } = playing({ signal: 'bell', message: note({ repeat: { rateHz: { signal: 'fog' } } }) });
    move('fog', 0, 1);
    move('bell', 0, 1);
    run(4, 3500);
    expect(sent.filter(({ bytes }) => bytes[0] === 0x90)).toHaveLength(4);
  });
  it('repeat at a rate that may stand still and be turned up again while the gate is held', () => {
    const { move, run, sent, engine } = playing({ signal: 'bell', message: note({ repeat: { rateHz: { signal: 'fog' } } }) });
    const strikes = () => sent.splice(0).flatMap(({ timeMs, bytes }) => (bytes[0] === 0x90 ? [timeMs] : []));
    move('fog', 0, 0);
    move('bell', 0, 1);
    run(4, 1000);
    expect(strikes()).toEqual([0]);
    move('fog', 1000, 10);
    run(1004, 1310);
    expect(strikes()).toEqual([1100, 1200, 1300].map((timeMs) => expect.closeTo(timeMs, -1)));
    move('fog', 1310, 0.1);
    run(1314, 1500);
    expect(strikes()).toEqual([]);
    // At 10 Hz the next was due long ago: it comes at once, and the others 100 ms apart.
    move('fog', 1502, 10);
    run(1504, 1800);
    const [first, ...others] = strikes();
    expect([first, others.length]).toEqual([1504, 2]);
    others.forEach((timeMs, i) => expect(timeMs).toBeCloseTo(1604 + 100 * i, -1));
    move('bell', 1802, 0);
    run(1804, 3000);
    expect([strikes(), engine.pending]).toEqual([[], false]);
  });
  it('of a chord begin and end together, transposed, those outside 0-127 left out', () => {
    const { move, bytes } = playing({ signal: 'bell', message: note({ note: 120, chord: [0, 4, 7], transpose: 2 }) });
    for (const value of [1, 0]) move('bell', 0, value);
    expect(bytes()).toEqual([on(122), on(126), off(122), off(126)]);
  });
  it('that sound already are ended before they are struck again, and the first release is silent', () => {
    const { move, bytes } = playing({ signal: 'bell', message: note({ chord: [0, 4] }) }, { signal: 'fog.touch', message: note() });
    move('bell', 0, 1);
    move('fog.touch', 0, 1);
    move('bell', 0, 0);
    move('fog.touch', 0, 0);
    expect(bytes()).toEqual([on(60), on(64), off(60), on(60), off(64), off(60)]);
  });
  it('carry poly pressure along while they sound', () => {
    const { move, bytes } = playing({ signal: 'bell', message: note() }, { message: { kind: 'polyPressure', channel: 1, note: { of: 'm0' }, range: [0, 127] } });
    move('fog', 0, 0.5);
    move('bell', 0, 1);
    move('fog', 0, 1);
    move('bell', 0, 0);
    move('fog', 0, 0);
    expect(bytes()).toEqual([on(60), 'A0 3C 40', 'A0 3C 7F', off(60)]);
  });
  it('are told the pressure that there is whenever they are struck, repeats and the same number again as well', () => {
    const { move, run, bytes } = playing({ signal: 'bell', message: note({ repeat: { rateHz: 10 } }) }, { message: { kind: 'polyPressure', channel: 1, note: { of: 'm0' }, range: [0, 127] } });
    move('fog', 0, 0);
    move('bell', 0, 1);
    expect(bytes()).toEqual([on(60)]);
    move('fog', 10, 1);
    run(14, 104);
    expect(bytes()).toEqual(['A0 3C 7F', off(60), on(60), 'A0 3C 7F']);
    move('bell', 110, 0);
    move('fog', 120, 0);
    move('fog', 130, 1);
    move('bell', 140, 1);
    expect(bytes()).toEqual([off(60), on(60), 'A0 3C 7F']);
    move('bell', 150, 0);
    move('fog', 160, 0);
    move('bell', 170, 1);
    expect(bytes()).toEqual([off(60), on(60), 'A0 3C 00']);
  });
  it('carry poly pressure along for every note of a chord that still is theirs', () => {
    const { move, bytes, sent } = playing(
      { signal: 'bell', message: note({ channel: 3, chord: [0, 4, 7] }) },
      { message: { kind: 'polyPressure', channel: 3, note: { of: 'm0' }, range: [0, 127] } },
      { signal: 'fog.touch', message: note({ channel: 3, note: 64 }) },
    );
    const pressed = () => (sent.splice(0), move('fog', 0, 1), bytes());
    move('fog', 0, 0.5);
    move('bell', 0, 1);
    expect(pressed()).toEqual(['A2 3C 7F', 'A2 40 7F', 'A2 43 7F']);
    move('fog.touch', 0, 1);
    move('fog', 0, 0.5);
    expect(pressed()).toEqual(['A2 3C 7F', 'A2 43 7F']);
    move('bell', 0, 0);
    move('fog', 0, 0.5);
    expect(pressed()).toEqual([]);
  });
});

describe('scenes', () => {
  it.each<[string, (rig: RigDocument) => RigDocument, string[]]>([
    ['is deleted', (rig) => ({ ...rig, scenes: [] }), ['80 3C 40']],
    ['says something else', (rig) => ({ ...rig, scenes: [{ ...rig.scenes[0]!, messages: [] }] }), ['80 3C 40']],
    ['is renamed', (rig) => ({ ...rig, scenes: [{ ...rig.scenes[0]!, name: 'Drone' }] }), []],
  ])('what one began ends when it %s', (_, edited, ends) => {
    const rig = testRig([]);
    rig.scenes = [{ id: 'drone', name: 'Drone of the hull', mappings: {}, pages: {}, values: {}, messages: [{ output: 'weather', bytes: [0x90, 60, 100] }], glideMs: 0 }];
    const { engine, bytes } = play(rig);
    engine.take({ kind: 'recall', scene: 'drone', timeMs: 1 });
    expect(bytes()).toEqual(['90 3C 64']);
    engine.take({ kind: 'rig', rig: { ...edited(rig), name: 'Edited' }, timeMs: 2 });
    expect(bytes()).toEqual(ends);
  });
  it('switch mappings, send messages and glide values; what sounds is ended', () => {
    const rig = testRig([{ signal: 'bell', message: note() }, {}]);
    rig.scenes = [{ id: 'fog-bank', name: 'Fog bank', mappings: { m0: false }, pages: {}, values: { fog: 1 }, messages: [{ output: 'weather', bytes: [0xc0, 5] }], glideMs: 100 }];
    const { move, run, bytes, engine } = play(rig);
    move('fog', 0, 0);
    move('bell', 0, 1);
    bytes();
    expect(engine.take({ kind: 'recall', scene: 'fog-bank', timeMs: 10 })).toBe(true);
    expect(bytes()).toEqual([off(60), 'C0 05']);
    run(14, 60);
    expect(engine.levels[1]).toBeCloseTo(0.48, 1);
    run(64, 120);
    expect(bytes().at(-1)).toBe('B2 15 7F');
    expect(engine.take({ kind: 'recall', scene: 'nowhere', timeMs: 10 })).toBe(false);
  });
});

describe('values of scenes', () => {
  const scenes = (values: [value: number, glideMs: number][]) => values.map(([value, glideMs], i) => ({ id: String(i), name: String(i), mappings: {}, pages: {}, values: { fog: value }, messages: [], glideMs }));
  it('that come at once end the glide of the scene before', () => {
    const rig = testRig([{}]);
    rig.scenes = scenes([[1, 1000], [0.25, 0]]);
    const { move, run, engine, index } = play(rig);
    move('fog', 0, 0);
    engine.take({ kind: 'recall', scene: '0', timeMs: 10 });
    run(14, 500);
    engine.take({ kind: 'recall', scene: '1', timeMs: 500 });
    run(504, 1500);
    expect(engine.values[index('fog')]).toBe(0.25);
  });
  it('go the short way round a circle: from 350 to 20 degrees over 0', () => {
    const rig = testRig([{}]);
    Object.assign(rig.signals[0]!, { unit: 'deg', range: [0, 360], period: 360 });
    rig.scenes = scenes([[20, 300], [350, 300]]);
    const { move, run, engine, index } = play(rig);
    const fog = () => engine.values[index('fog')]!;
    move('fog', 0, 350);
    engine.take({ kind: 'recall', scene: '0', timeMs: 0 });
    run(4, 48);
    expect(fog()).toBeCloseTo(354.8, 9);
    run(52, 152);
    expect(fog()).toBeCloseTo(5.2, 9);
    run(156, 400);
    expect(fog()).toBe(20);
    engine.take({ kind: 'recall', scene: '1', timeMs: 400 });
    run(404, 600);
    expect(fog()).toBeCloseTo(0, 9);
    run(604, 800);
    expect(fog()).toBe(350);
  });
});

describe('a spring', () => {
  it('takes a signal back to its rest when the touch ends', () => {
    const rig = testRig([{}]);
    rig.signals[0]!.returns = { to: 0.5, overMs: 200, released: 'fog.touch' };
    const { move, run, engine, index } = play(rig);
    move('fog.touch', 0, 1);
    move('fog', 0, 1);
    move('fog.touch', 100, 0);
    run(104, 200);
    expect(engine.values[index('fog')]).toBeCloseTo(0.75, 6);
    run(204, 400);
    expect([engine.values[index('fog')], engine.pending]).toEqual([0.5, false]);
  });
  it('is let go of once, however often a gate says that it is off', () => {
    const rig = testRig([{}]);
    rig.signals[0]!.returns = { to: 0.5, overMs: 200, released: 'fog.touch' };
    const { move, run, engine, index } = play(rig);
    move('fog.touch', 0, 1);
    move('fog', 0, 1);
    for (let timeMs = 100; timeMs < 200; timeMs += 10) {
      move('fog.touch', timeMs, 0);
      run(timeMs + 4, timeMs + 8);
    }
    run(200, 200);
    expect(engine.values[index('fog')]).toBeCloseTo(0.75, 6);
    move('fog', 300, 0.2);
    move('fog.touch', 310, 0);
    run(314, 600);
    expect(engine.values[index('fog')]).toBe(0.2);
  });
});

describe('note hygiene', () => {
  const message = fc.oneof(
    fc.record({ note: fc.integer({ min: 60, max: 63 }), length: fc.constantFrom(undefined, 'untilPressedAgain' as const, { ms: 20 }), chord: fc.constantFrom(undefined, [0, 1, 3]), repeat: fc.constantFrom(undefined, { beats: 1 / 16 }) }).map((more) => note(JSON.parse(JSON.stringify(more)))),
    fc.constant<RigMapping['message']>({ kind: 'controlChange', channel: 1, controller: 20, range: [0, 127] }),
  );
  const mapping = fc.record({
    id: fc.constantFrom('a', 'b', 'c'),
    on: fc.boolean(),
    signal: fc.constantFrom('bell', 'fog', 'fog.touch'),
    message,
    gate: fc.constantFrom(undefined, { press: 'toggle' as const }, { minOnMs: 30 }, { press: { radio: 'r' } }),
  });
  const mappings = fc.uniqueArray(mapping, { selector: ({ id }) => id, maxLength: 3 }).map((list) => JSON.parse(JSON.stringify(list)) as Partial<RigMapping>[]);
  const event = fc.oneof(
    { weight: 6, arbitrary: fc.record({ kind: fc.constant('move' as const), signal: fc.constantFrom('bell', 'fog', 'fog.touch'), value: fc.constantFrom(0, 0.3, 1) }) },
    { weight: 2, arbitrary: fc.record({ kind: fc.constant('tick' as const), forMs: fc.integer({ min: 1, max: 60 }) }) },
    { weight: 2, arbitrary: fc.record({ kind: fc.constant('edit' as const), mappings }) },
    { weight: 1, arbitrary: fc.record({ kind: fc.constant('scene' as const), off: fc.boolean() }) },
    { weight: 1, arbitrary: fc.constant({ kind: 'panic' as const }) },
  );

  it('every note on has exactly one note off under random edits, disconnects and scene changes', () => {
    fc.assert(
      fc.property(mappings, fc.array(event, { maxLength: 25 }), (first, events) => {
        const withScenes = (list: Partial<RigMapping>[]) => {
          const rig = testRig(list);
          rig.scenes = [true, false].map((on) => ({ id: String(on), name: 'Scene', mappings: Object.fromEntries(list.map(({ id }) => [id!, on])), pages: {}, values: {}, messages: [], glideMs: 0 }));
          return rig;
        };
        const { engine, move, run, sent } = play(withScenes(first));
        let timeMs = 0;
        for (const step of events) {
          timeMs += 1;
          if (step.kind === 'move') move(step.signal, timeMs, step.value);
          else if (step.kind === 'edit') engine.take({ kind: 'rig', rig: withScenes(step.mappings), timeMs });
          else if (step.kind === 'scene') engine.take({ kind: 'recall', scene: String(!step.off), timeMs });
          else if (step.kind === 'panic') engine.take({ kind: 'panic', timeMs });
          else {
            run(timeMs, timeMs + step.forMs);
            timeMs += step.forMs;
          }
        }
        // The page that holds everything leaves, and the program stops.
        for (const signal of ['bell', 'fog', 'fog.touch']) move(signal, (timeMs += 1), 0);
        run(timeMs, timeMs + 100);
        engine.take({ kind: 'release', timeMs: timeMs + 100 });

        const sounding = new Set<number>();
        for (const { bytes } of sent) {
          const kind = bytes[0]! & 0xf0;
          const key = (bytes[0]! & 0x0f) * 128 + bytes[1]!;
          if (kind === 0x90) {
            expect(sounding.has(key)).toBe(false);
            sounding.add(key);
          } else if (kind === 0x80) expect(sounding.delete(key)).toBe(true);
        }
        expect(sounding.size).toBe(0);
      }),
      { numRuns: 10_000 },
    );
  });
});

it('notes that repeat by beats follow a clock that comes in, and go back to the tempo of the rig', () => {
  const it = playing({ signal: 'bell', message: { kind: 'note', channel: 1, note: 60, velocity: 100, repeat: { beats: 1 } } });
  const strokes = (fromMs: number) => {
    it.sent.length = 0;
    it.move('bell', fromMs, 1);
    it.run(fromMs, fromMs + 1990);
    it.move('bell', fromMs + 1995, 0);
    return it.words().filter((word) => word.includes(' on ')).length;
  };
  expect(strokes(0)).toBe(4);
  it.engine.take({ kind: 'tempo', bpm: 240, timeMs: 0 });
  expect(strokes(2000)).toBe(8);
  it.engine.take({ kind: 'tempo', bpm: null, timeMs: 0 });
  expect(strokes(4000)).toBe(4);
});

it('a threshold of 0 is crossed by everything but rest', () => {
  const it = playing({ signal: 'bell', gate: { on: 0 }, message: { kind: 'note', channel: 1, note: 60, velocity: 100 } });
  it.move('bell', 1, 0);
  expect(it.words()).toEqual([]);
  it.move('bell', 2, 0.01);
  it.move('bell', 3, 0);
  expect(it.words()).toHaveLength(2);
});
