import { describe, expect, it } from 'vitest';
import { voiceEvent } from '../../voices/event';
import { Engine } from '../engine';
import { crew, member, playCrew, sounding, struck, swell } from './testCrew';
import type { MemberPart } from '../../ensemble/parts';

const keys = (heard: ReturnType<ReturnType<typeof playCrew>['heard']>, channel = 1) => struck(heard, channel).map(([, key]) => key);

describe('a chord', () => {
  it('plays the chord of the degree of a key, and ends with it', () => {
    const { press, lift, heard } = playCrew(crew(member(swell)));
    press(0, 62, 100 / 127);
    // D is the second degree of C major: D minor.
    expect(heard()).toEqual([[0, 1, 62, 100], [0, 1, 65, 100], [0, 1, 69, 100]]);
    lift(500, 62);
    expect(heard().map(([, , key, velocity]) => [key, velocity])).toEqual([[62, 0], [65, 0], [69, 0]]);
  });
  it('goes back to the chord that is still held, and the last one pressed leads', () => {
    const { press, lift, heard } = playCrew(crew(member(swell)));
    press(0, 60);
    press(100, 67);
    lift(200, 67);
    lift(300, 60);
    expect(keys(heard())).toEqual([60, 64, 67, 67, 71, 74, 60, 64, 67]);
  });
  it('is asked for by gates, one a degree, with their strength, and takes another quality while a gate is on', () => {
    const rig = crew(member({ ...swell, from: { by: 'gates', gates: [{ gate: 'fog.touch', degree: 1 }, { gate: 'bell', degree: 2 }] }, qualities: [{ gate: 'seventh', quality: '7' }] }));
    rig.signals.push({ id: 'seventh', name: 'Seventh', input: 'deck', kind: 'gate', unit: 'unit', range: [0, 1] });
    const { move, heard } = playCrew(rig);
    move('bell', 0, 0.5);
    expect(heard()).toEqual([[0, 1, 62, 64], [0, 1, 65, 64], [0, 1, 69, 64]]);
    move('seventh', 100, 1);
    expect(keys(heard())).toEqual([62, 66, 69, 72]);
    move('seventh', 200, 0);
    expect(keys(heard())).toEqual([62, 65, 69]);
    move('bell', 300, 0);
    expect(sounding(heard().filter(([, , , velocity]) => velocity > 0)).left).toEqual([]);
  });
  it('is asked for by where a signal lies: seven equal parts of its range', () => {
    const { move, heard } = playCrew(crew(member({ ...swell, from: { by: 'signal', signal: 'fog', gate: 'bell' } })));
    move('fog', 0, 0.99);
    expect(heard()).toEqual([]);
    move('bell', 10, 1);
    expect(keys(heard())).toEqual([71, 74, 77]);
    move('fog', 20, 0.97);
    expect(heard()).toEqual([]);
    move('fog', 30, 0.3);
    expect(keys(heard())).toEqual([64, 67, 71]);
    move('bell', 40, 0);
    expect(keys(heard())).toEqual([]);
  });
  it('is not struck over and over by a signal that trembles between two parts', () => {
    const { move, heard } = playCrew(crew(member({ ...swell, from: { by: 'signal', signal: 'fog' } })));
    // The border of the third and the fourth part, within a twentieth of a part.
    for (let i = 0; i < 40; i++) move('fog', i * 10, 3 / 7 + (i % 2 === 0 ? -0.007 : 0.007));
    expect(keys(heard()).length).toBe(3);
    move('fog', 500, 3.3 / 7);
    expect(keys(heard())).toEqual([65, 69, 72]);
    move('fog', 510, 1);
    move('fog', 520, 0);
    expect(keys(heard())).toEqual([71, 74, 77, 60, 64, 67]);
  });
  it('leads its voices, lies apart over a bass of its own, and has chords of one’s own', () => {
    const led = playCrew(crew(member({ ...swell, leads: true, bass: 'root', low: 60 })));
    led.press(0, 60);
    led.press(100, 65);
    expect(keys(led.heard())).toEqual([48, 60, 64, 67, 53, 60, 65, 69]);
    const own = playCrew(crew(member({ ...swell, own: [{ degree: 4, tones: [5, 11, 14] }] })));
    own.press(0, 65);
    expect(keys(own.heard())).toEqual([65, 71, 74]);
  });
  it('waits for the bar where it begins there and the transport runs; at once where it stands', () => {
    const { press, does, run, heard } = playCrew(crew(member(swell, { begins: 'bar' })));
    press(0, 60);
    expect(keys(heard())).toEqual([60, 64, 67]);
    does(1000, 'start');
    press(1100, 65);
    run(1100, 2996);
    expect(heard().filter(([, , , velocity]) => velocity > 0)).toEqual([]);
    run(3000, 3010);
    // 4/4 at 120 bpm: two seconds a bar.
    expect(struck(heard())).toEqual([[3000, 65], [3000, 69], [3000, 72]]);
  });
});

it('a chord that stays and begins on the bar is taken although it was let go of before', () => {
  const { press, lift, does, run, heard } = playCrew(crew(member({ ...swell, stays: 'sounding' }, { begins: 'bar' })));
  does(0, 'start');
  press(0, 60);
  lift(100, 60);
  press(300, 67);
  lift(400, 67);
  run(400, 1996);
  expect(struck(heard())).toEqual([[0, 60], [0, 64], [0, 67]]);
  run(2000, 4100);
  expect(struck(heard())).toEqual([[2000, 67], [2000, 71], [2000, 74]]);
});

it('what stays of a chord that is let go of: nothing, the chord for others, or its sound', () => {
  const left = (stays: 'nothing' | 'for others' | 'sounding') => {
    const { engine, press, lift, heard } = playCrew(crew(member({ ...swell, stays })));
    press(0, 60);
    lift(100, 60);
    const [shown] = engine.ensemble.shown();
    return [sounding(heard()).left.length, shown!.harmony?.tones.length ?? 0];
  };
  expect([left('nothing'), left('for others'), left('sounding')]).toEqual([[0, 0], [0, 3], [3, 3]]);
  // One that was tapped before its bar is the chord from there on, and sounds no more.
  const { engine, press, lift, does, run, heard } = playCrew(crew(member({ ...swell, stays: 'for others' }, { begins: 'bar' })));
  does(0, 'start');
  press(100, 65);
  lift(200, 65);
  run(200, 2100);
  expect(heard()).toEqual([]);
  expect(engine.ensemble.shown()[0]!.harmony!.root).toBe(5);
});
it('what was held where nobody listened for a while is not held for who listens again', () => {
  const bass = member({ kind: 'bass', listens: 'hull', way: 'root', tones: ['root'], low: 36, everyBeats: 1, length: 0.5, strike: 1 });
  const { engine, press, lift, does, run, heard } = playCrew(crew(bass));
  press(0, 60);
  engine.take({ kind: 'rig', timeMs: 10, rig: crew() });
  lift(20, 60);
  engine.take({ kind: 'rig', timeMs: 30, rig: crew(bass) });
  does(40, 'start');
  run(40, 3000);
  expect(heard()).toEqual([]);
});
it('has a time whatever comes first', () => {
  const notes: number[] = [];
  const rig = { ...crew(member({ kind: 'arpeggio', listens: 'hull', order: 'up', octaves: 1, everyBeats: 1, length: 0.5, accents: [], latch: false })), tempoBpm: 90 };
  const engine = new Engine(rig, { midi: (_, __, [status]) => void ((status! & 0xf0) === 0x90 && notes.push(engine.messageMs)), osc: () => undefined });
  engine.take({ kind: 'tempo', timeMs: 500, bpm: 120 });
  engine.take({ ...voiceEvent('on'), stream: 0, timeMs: 600, voice: 1, pitch: 60 });
  for (let timeMs = 600; timeMs <= 1700; timeMs += 4) engine.take({ kind: 'tick', timeMs });
  expect(notes).toEqual([600, 1100, 1600]);
});

describe('a bass', () => {
  const keel: MemberPart = { kind: 'bass', listens: 'chord', way: 'fifth', tones: ['root', 'octave', 'rest', 'third'], low: 36, everyBeats: 1, length: 0.5, strike: 1 };
  it('goes along with the chord while the transport runs: root and fifth by beats', () => {
    const { press, does, run, heard } = playCrew(crew(member(swell), member(keel)));
    press(0, 67);
    run(0, 3000);
    expect(keys(heard(), 2)).toEqual([]);
    does(3000, 'start');
    run(3000, 4900);
    expect(struck(heard(), 2)).toEqual([[3000, 43], [3500, 50], [4000, 43], [4500, 50]]);
  });
  it('has ways of its own, and ends half a step later where its length says so', () => {
    const { press, does, run, heard } = playCrew(crew(member(swell), member({ ...keel, way: 'pattern' } as MemberPart)));
    press(0, 60);
    does(0, 'start');
    run(0, 1990);
    expect(heard().filter(([, channel]) => channel === 2)).toEqual([[0, 2, 36, 127], [250, 2, 36, 0], [500, 2, 48, 127], [750, 2, 48, 0], [1500, 2, 40, 127], [1750, 2, 40, 0]]);
  });
  it('says nothing without a chord, and goes on when there is one', () => {
    const { press, does, run, heard } = playCrew(crew(member(swell), member(keel)));
    does(0, 'start');
    run(0, 900);
    expect(heard()).toEqual([]);
    press(910, 60);
    run(912, 1100);
    expect(struck(heard(), 2)).toEqual([[1000, 36]]);
  });
});

describe('an arpeggio', () => {
  const winch: MemberPart & { kind: 'arpeggio' } = { kind: 'arpeggio', listens: 'hull', order: 'up', octaves: 1, everyBeats: 0.5, length: 0.5, accents: [1, 0.5], latch: false };
  it('goes through what is held in time, with accents, and ends with it', () => {
    const { press, lift, run, heard } = playCrew(crew(member(winch)));
    [60, 64, 67].forEach((key) => press(0, key));
    run(0, 900);
    for (const key of [60, 64, 67]) lift(900, key);
    run(900, 3000);
    const all = heard();
    expect(all.filter(([, , , velocity]) => velocity > 0)).toEqual([[0, 1, 60, 127], [250, 1, 64, 64], [500, 1, 67, 127], [750, 1, 60, 64]]);
    expect(sounding(all)).toEqual({ left: [], mistakes: [] });
  });
  it('swings: at 2/3 the second eighth comes on the third triplet', () => {
    const { press, run, heard } = playCrew(crew(member(winch, { swing: 2 / 3 })));
    press(0, 60);
    run(0, 999);
    expect(struck(heard()).map(([ms]) => ms)).toEqual([0, 333.333, 500, 833.333]);
  });
  it('goes on in its time when the chord under it changes between two beats', () => {
    const { press, does, run, heard } = playCrew(crew(member({ ...swell, stays: 'sounding' }), member({ ...winch, listens: 'chord' }, { begins: 'beat' })));
    does(0, 'start');
    press(0, 60);
    run(0, 600);
    press(610, 65);
    run(612, 1100);
    expect(struck(heard(), 2)).toEqual([[0, 60], [250, 64], [500, 67], [750, 65], [1000, 69]]);
  });
  it('comes sooner or later by its feel', () => {
    const { press, does, run, heard } = playCrew(crew(member(winch, { feelMs: -20, begins: 'beat' })));
    does(0, 'start');
    press(100, 60);
    run(100, 1000);
    expect(struck(heard()).map(([ms]) => ms)).toEqual([480, 730, 980]);
  });
  it('goes on with what was let go where it latches, until something new is struck', () => {
    const { press, lift, run, heard } = playCrew(crew(member({ ...winch, latch: true })));
    press(0, 60);
    lift(100, 60);
    run(0, 600);
    press(600, 72);
    run(600, 1100);
    expect(keys(heard())).toEqual([60, 60, 60, 72, 72]);
  });
  it.each([false, true])('of two fingers on one key the one that stays goes on, and the key counts once (latch %s)', (latch) => {
    const { press, lift, run, heard } = playCrew(crew(member({ ...winch, order: 'as played', latch })));
    press(0, 60);
    press(0, 64);
    press(10, 60, 1, 999);
    run(10, 600);
    lift(610, 999);
    run(610, 1100);
    expect(new Set(keys(heard()))).toEqual(new Set([60, 64]));
    run(1100, 2100);
    const rest = keys(heard());
    expect(rest).toHaveLength(4);
    expect([...new Set(rest)].sort()).toEqual([60, 64]);
    expect(rest[0]).not.toBe(rest[1]);
  });
  it('draws its lots from the seed: the same again, another for another', () => {
    const render = (seed: number) => {
      const { press, run, heard } = playCrew(crew(member({ ...winch, order: 'random', octaves: 4 })), seed);
      [60, 62, 64, 65].forEach((key) => press(0, key));
      run(0, 5000);
      return keys(heard()).join();
    };
    expect(render(1)).toBe(render(1));
    expect(render(1)).not.toBe(render(2));
  });
  it('follows a tempo that changes in the middle of a step', () => {
    const { engine, press, run, heard } = playCrew(crew(member(winch)));
    press(0, 60);
    run(0, 120);
    // Half of the step of 250 ms is over at 125; the rest takes twice as long at 60 bpm.
    engine.take({ kind: 'tempo', timeMs: 125, bpm: 60 });
    run(128, 700);
    expect(struck(heard()).map(([ms]) => ms)).toEqual([0, 375]);
  });
});

describe('a strum', () => {
  const rigging: MemberPart & { kind: 'strum' } = { kind: 'strum', listens: 'chord', across: 'fog', touch: 'fog.touch', by: 'bell', strings: 6, directions: 'both', ringMs: 400, dampedBy: 'chord', fullMs: 100 };
  const strummed = (part = rigging) => {
    const played = playCrew(crew(member(swell, { on: false }), member(part)));
    played.press(0, 60);
    return played;
  };
  it('strikes the strings that a finger crosses, each once, harder the faster, and they ring', () => {
    const { move, run, heard } = strummed();
    move('fog', 10, 0);
    move('fog.touch', 10, 1);
    move('fog', 20, 0.05);
    // Half of the strip in 50 ms: with the whole strip in 100 ms as the hardest that is full.
    move('fog', 70, 0.55);
    const all = heard();
    expect(struck(all, 2)).toEqual([[70, 60], [70, 64], [70, 67]]);
    expect(all.every(([, channel, , velocity]) => channel === 2 && velocity === 127)).toBe(true);
    move('fog', 90, 0.4);
    expect(keys(heard(), 2)).toEqual([67]);
    run(92, 600);
    expect(heard().map(([ms, , key, velocity]) => [ms, key, velocity])).toEqual([[470, 60, 0], [470, 64, 0], [490, 67, 0]]);
  });
  it('strikes nothing where the finger comes down, or without a chord', () => {
    const { move, lift, heard } = strummed();
    move('fog.touch', 10, 1);
    move('fog', 10, 0.9);
    move('fog.touch', 20, 0);
    move('fog', 30, 0.1);
    move('fog.touch', 40, 1);
    heard();
    move('fog', 50, 0.1);
    expect(heard()).toEqual([]);
    lift(60, 60);
    move('fog', 70, 0.9);
    expect(heard()).toEqual([]);
  });
  it('is struck by a gate, one string after another, there and back', () => {
    const { move, run, heard } = strummed();
    move('bell', 100, 1);
    run(100, 200);
    move('bell', 200, 0);
    move('bell', 300, 1);
    run(300, 400);
    const down = [79, 76, 72, 67, 64, 60];
    expect(keys(heard(), 2)).toEqual([...down, ...down.toReversed()]);
  });
  it('is damped by the next chord', () => {
    const { move, press, heard } = strummed();
    move('bell', 100, 1);
    press(110, 65);
    expect(heard().at(-1)!.slice(2)).toEqual([79, 0]);
  });
});

describe('a pattern', () => {
  const hit = (at: number, more = {}) => ({ at, strike: 1, lasts: 0.5, ...more });
  const engineRoom = (more: Partial<MemberPart & { kind: 'pattern' }> = {}): MemberPart => ({
    kind: 'pattern',
    everyBeats: 0.25,
    present: 0,
    patterns: [
      { name: 'A', lanes: [{ name: 'three', plays: { note: 36 }, length: 3, hits: [hit(0)] }, { name: 'four', plays: { note: 40 }, length: 4, hits: [hit(1, { times: 2 })] }] },
      { name: 'B', lanes: [{ name: 'one', plays: { note: 50 }, length: 16, hits: [hit(0)] }] },
    ],
    ...more,
  });
  it('plays lanes of lengths that differ, and ratchets within a step', () => {
    const { does, run, heard } = playCrew(crew(member(engineRoom())));
    run(0, 1000);
    does(1000, 'start');
    run(1000, 1740);
    expect(struck(heard())).toEqual([[1000, 36], [1125, 40], [1187.5, 40], [1375, 36], [1625, 40], [1687.5, 40]]);
  });
  it('is at the same place wherever the piece goes on', () => {
    const { engine, does, run, heard } = playCrew(crew(member(engineRoom())));
    engine.take({ kind: 'goTo', timeMs: 0, beat: 1.5 });
    does(0, 'continue');
    run(0, 300);
    // Step 6 is the first again of three, and the third of four.
    expect(struck(heard())).toEqual([[0, 36]]);
  });
  it('changes at the bar, and fills at once', () => {
    const rig = crew(member(engineRoom({ fill: { gate: 'bell', pattern: 1 } })));
    const { engine, does, run, move, heard } = playCrew(rig);
    does(0, 'start');
    run(0, 500);
    const changed = { ...rig, members: [member(engineRoom({ present: 1, fill: { gate: 'bell', pattern: 1 } }))] };
    engine.take({ kind: 'rig', rig: changed, timeMs: 510 });
    heard();
    run(512, 1990);
    expect(keys(heard())).not.toContain(50);
    run(2000, 4100);
    expect(struck(heard())).toEqual([[2000, 50], [4000, 50]]);
    engine.take({ kind: 'rig', rig, timeMs: 4110 });
    run(4112, 6010);
    move('bell', 6020, 1);
    heard();
    run(6020, 8010);
    expect(struck(heard())).toEqual([[8000, 50]]);
  });
  it('leaves to chance what has one: about half at a half, the same for the same seed', () => {
    const part = engineRoom({ patterns: [{ name: 'A', lanes: [{ name: 'maybe', plays: { note: 36 }, length: 1, hits: [hit(0, { chance: 0.5 })] }] }] });
    const count = (seed: number) => {
      const { does, run, heard } = playCrew(crew(member(part)), seed);
      does(0, 'start');
      run(0, 50_000);
      return struck(heard()).length;
    };
    expect(count(1)).toBe(count(1));
    expect(Math.abs(count(1) - 200)).toBeLessThan(40);
  });
  it('that is empty, or has no chord for its tones, says nothing', () => {
    const { does, run, heard } = playCrew(crew(member(engineRoom({ patterns: [{ name: 'A', lanes: [{ name: 'tone', plays: { tone: 0 }, length: 1, hits: [hit(0)] }] }, { name: 'B', lanes: [] }] }))));
    does(0, 'start');
    run(0, 2000);
    expect(heard()).toEqual([]);
  });
});

describe('who is heard', () => {
  it('is who is on, or alone where one is; those that are not heard still lead', () => {
    const winch: MemberPart = { kind: 'arpeggio', listens: 'chord', order: 'up', octaves: 1, everyBeats: 0.5, length: 0.5, accents: [], latch: false };
    const rig = crew(member(swell), member(winch, { alone: true }));
    const { press, run, heard } = playCrew(rig);
    press(0, 60);
    run(0, 600);
    expect(keys(heard(), 1)).toEqual([]);
    const { engine, ...again } = playCrew(crew(member(swell), member(winch)));
    again.press(0, 60);
    again.run(0, 100);
    again.heard();
    engine.take({ kind: 'rig', timeMs: 110, rig: { ...crew(member(swell, { on: false }), member(winch)) } });
    expect(again.heard().map(([, channel, key, velocity]) => [channel, key, velocity])).toEqual([[1, 60, 0], [1, 64, 0], [1, 67, 0]]);
    again.run(112, 600);
    expect(keys(again.heard(), 2)).toEqual([64, 67]);
  });
  it('is switched by scenes, which can start and stop the transport too', () => {
    const rig = crew(member(swell));
    const scene = { pages: {}, values: {}, messages: [], mappings: {}, glideMs: 0 };
    rig.scenes = [{ ...scene, id: 'harbour', name: 'Harbour', members: { chord: false }, transport: 'stop' }, { ...scene, id: 'open', name: 'Open water', members: { chord: true }, transport: 'start' }];
    const { engine, press, heard } = playCrew(rig);
    engine.take({ kind: 'recall', timeMs: 0, scene: 'open' });
    expect(engine.running).toBe(true);
    press(10, 60);
    heard();
    engine.take({ kind: 'recall', timeMs: 20, scene: 'harbour' });
    expect(engine.running).toBe(false);
    expect(heard().length).toBe(3);
    press(30, 62);
    expect(heard()).toEqual([]);
  });
  it('level and octave belong to it', () => {
    const { press, heard } = playCrew(crew(member(swell, { level: 0.5, octave: -1 })));
    press(0, 60, 1);
    expect(heard()).toEqual([[0, 1, 48, 64], [0, 1, 52, 64], [0, 1, 55, 64]]);
  });
});

describe('the transport', () => {
  it('tells receivers: start, clocks from the first beat on, stop, song position and continue (MIDI 1.0)', () => {
    const rig = crew();
    rig.outputs[0]!.sendsClock = true;
    const { engine, does, run, bytes } = playCrew(rig);
    engine.take({ kind: 'tick', timeMs: 5 });
    bytes();
    does(1000, 'start');
    // The first clock comes a millisecond later, so that receivers are ready.
    expect(bytes()).toEqual(['FA']);
    engine.take({ kind: 'tick', timeMs: 1000.9 });
    expect(bytes()).toEqual([]);
    engine.take({ kind: 'tick', timeMs: 1001 });
    expect(bytes()).toEqual(['F8']);
    run(1004, 1600);
    expect(bytes().length).toBe(Math.floor(599 / (500 / 24)));
    // 1.3 beats: five sixteenths have passed.
    does(1650, 'stop');
    bytes();
    run(1652, 4000);
    bytes();
    does(4000, 'continue');
    expect(bytes().filter((sent) => sent !== 'F8')).toEqual(['F2 05 00', 'FB']);
    expect(engine.positionAt(4001)).toBe(1.25);
    does(4501, 'stop');
    expect([engine.positionAt(4501), engine.positionAt(9000)]).toEqual([2.25, 2.25]);
    bytes();
    does(9000, 'continue');
    bytes();
    // A position is heard by those that stand.
    engine.take({ kind: 'goTo', timeMs: 9100, beat: 8 });
    expect(bytes().filter((sent) => sent !== 'F8')).toEqual(['FC', 'F2 20 00', 'FB']);
    expect(engine.positionAt(9101)).toBe(8);
  });
  it('tells receivers to start after the count-in, between the last clock of it and that of beat 0', () => {
    const rig = { ...crew(), countInBars: 1, meter: [2, 4] as [number, number] } as ReturnType<typeof crew>;
    rig.outputs[0]!.sendsClock = true;
    const { does, run, bytes } = playCrew(rig);
    does(0, 'start');
    run(0, 1100);
    const sent = bytes();
    expect(sent.filter((one) => one === 'FA').length).toBe(1);
    // Two beats of clocks before it.
    expect(sent.indexOf('FA')).toBe(48);
  });
  it('is nudged with all its clocks: a beat has 24, however it was nudged on the way', () => {
    const rig = crew();
    rig.outputs[0]!.sendsClock = true;
    const { engine, does, run, bytes } = playCrew(rig);
    does(0, 'start');
    [0.03, -0.05, 0.04, 0.02, -0.01, 0.01].forEach((beats, i) => {
      run(i * 100, i * 100 + 96);
      engine.take({ kind: 'nudge', timeMs: i * 100 + 98, beats });
    });
    run(600, 2000);
    const beat = engine.positionAt(2000);
    expect(bytes().filter((sent) => sent === 'F8').length).toBe(Math.floor(beat * 24 + 1e-6) + 1);
  });
  it('counts in: beats below 0, in which nobody plays', () => {
    const rig = { ...crew(member({ kind: 'pattern', everyBeats: 1, present: 0, patterns: [{ name: 'A', lanes: [{ name: 'x', plays: { note: 36 }, length: 1, hits: [{ at: 0, strike: 1, lasts: 0.5 }] }] }] })), countInBars: 1 };
    const { engine, does, run, heard } = playCrew(rig);
    does(0, 'start');
    expect(engine.positionAt(0)).toBe(-4);
    run(0, 2400);
    expect(struck(heard())).toEqual([[2000, 36]]);
  });
  it('starts with the first note that a member hears, where the rig says so', () => {
    const rig = { ...crew(member(swell), member({ kind: 'bass', listens: 'chord', way: 'root', tones: ['root'], low: 36, everyBeats: 1, length: 0.5, strike: 1 })), startsBy: 'first note' as const };
    const { engine, press, run, heard } = playCrew(rig);
    run(0, 300);
    press(333, 60);
    run(336, 400);
    expect(engine.running).toBe(true);
    expect(struck(heard(), 2)).toEqual([[333, 36]]);
  });
  it('is not started by a value of an earlier run that is put back', () => {
    const drums = member({ kind: 'pattern', everyBeats: 1, present: 0, patterns: [{ name: 'A', lanes: [] }], while: 'fog' });
    const { engine, index, move } = playCrew({ ...crew(drums), startsBy: 'first note' });
    engine.take({ kind: 'restore', timeMs: 0, signal: index('fog'), value: 1 });
    expect(engine.running).toBe(false);
    move('fog', 10, 0);
    move('fog', 20, 1);
    expect(engine.running).toBe(true);
  });
  it('follows the beat of a clock that comes in, without a note twice', () => {
    const { engine, does, run, heard } = playCrew(crew(member({ kind: 'pattern', everyBeats: 0.25, present: 0, patterns: [{ name: 'A', lanes: [{ name: 'x', plays: { note: 36 }, length: 1, hits: [{ at: 0, strike: 1, lasts: 0.5 }] }] }] })));
    does(0, 'start');
    for (let i = 1; i <= 96; i++) {
      const timeMs = (i * 500) / 24;
      run(Math.ceil(((i - 1) * 500) / 24 / 4) * 4, timeMs - 0.01);
      // The clock is a little unsure where it is.
      engine.take({ kind: 'tempo', timeMs, bpm: 120 + (i % 3) - 1, beat: i / 24 + ((i % 5) - 2) * 0.004 });
    }
    const times = struck(heard()).map(([ms]) => ms!);
    expect(times.length).toBe(16);
    times.forEach((ms, i) => expect(Math.abs(ms - i * 125)).toBeLessThan(5));
  });
  it('is a signal too: where the piece is within a bar or so many beats, still while it stands', () => {
    const rig = { ...crew(), meter: [3, 4] as [number, 4] };
    rig.derived = (['bar', 2] as const).map((every) => ({ id: `way.${every}`, name: 'Way', kind: 'continuous', unit: 'unit', range: [0, 1], formula: { op: 'beat', every } }));
    const { engine, does, run } = playCrew(rig);
    const at = () => ['way.bar', 'way.2'].map((id) => Number(engine.values[engine.plan.signalIndex.get(id)!]!.toFixed(6)));
    run(0, 1000);
    expect(at()).toEqual([0, 0]);
    does(1000, 'start');
    run(1000, 3000);
    // Four beats at 120 bpm: one and a third bars of three.
    expect(at()).toEqual([0.333333, 0]);
    run(3004, 3252);
    expect(at()[1]).toBeCloseTo(0.252, 6);
    does(3252, 'stop');
    run(3256, 9000);
    expect(at()[1]).toBeCloseTo(0.252, 6);
  });
  it('a tempo that was tapped holds until the rig says another', () => {
    const rig = crew();
    const { engine } = playCrew(rig);
    engine.take({ kind: 'tapped', timeMs: 0, bpm: 90 });
    engine.take({ kind: 'rig', timeMs: 10, rig: { ...rig, name: 'Same' } });
    expect(engine.tempoBpm).toBe(90);
    engine.take({ kind: 'rig', timeMs: 20, rig: { ...rig, tempoBpm: 140 } });
    expect(engine.tempoBpm).toBe(140);
  });
  it('after a pause of seconds goes on from now, and makes up for nothing but the ends', () => {
    const { engine, does, run, heard } = playCrew(crew(member({ kind: 'pattern', everyBeats: 0.25, present: 0, patterns: [{ name: 'A', lanes: [{ name: 'x', plays: { note: 36 }, length: 1, hits: [{ at: 0, strike: 1, lasts: 0.5 }] }] }] })));
    does(0, 'start');
    run(0, 10);
    engine.take({ kind: 'tick', timeMs: 60_000 });
    const all = heard();
    expect(all.length).toBeLessThan(30);
    expect(sounding(all).mistakes).toEqual([]);
  });
});
