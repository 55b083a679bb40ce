import { describe, expect, it } from 'vitest';
import { voiceEvent } from '../../voices/event';
import type { MemberPart } from '../../ensemble/parts';
import { Engine } from '../engine';
import { crew, keys, member, playCrew, sounding, struck, swell } from './testCrew';

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

it('a member that goes along with another one hears it at each of its steps first, and ends before it begins, in this century as at its start', () => {
  const bass: MemberPart = { kind: 'bass', listens: 'hull', way: 'root', tones: ['root', 'third', 'fifth'], low: 36, everyBeats: 1 / 3, length: 1, strike: 1 };
  const along: MemberPart = { kind: 'arpeggio', listens: 'bass', order: 'as played', octaves: 1, everyBeats: 1 / 3, length: 1, accents: [], latch: false };
  const playedAt = (sinceMs: number) => {
    const { press, does, run, heard } = playCrew({ ...crew(member(bass), member(along)), tempoBpm: 84 });
    does(sinceMs, 'start');
    press(sinceMs, 60);
    press(sinceMs, 64);
    press(sinceMs, 67);
    run(sinceMs, sinceMs + 12_000);
    return heard().map(([ms, ...note]) => [Math.round(ms - sinceMs), ...note]);
  };
  const first = playedAt(0);
  expect(first.length).toBeGreaterThan(180);
  for (let day = 0; day < 20; day++) expect(playedAt(Date.UTC(2026, 10, 23 + day) + day / 128)).toEqual(first);
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
