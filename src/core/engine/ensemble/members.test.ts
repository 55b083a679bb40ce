import { describe, expect, it } from 'vitest';
import type { MemberPart } from '../../ensemble/parts';
import { crew, keys, member, playCrew, sounding, struck, swell } from './testCrew';

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
  it('is as hard after a rest on the strip: the way began three mean intervals before it was heard of (Settled: silence)', () => {
    const { move, heard } = strummed();
    move('fog.touch', 0, 1);
    for (let i = 0; i <= 8; i++) move('fog', 10 * i, 0.01 * i);
    move('fog', 250, 0.28);
    // 0.2 of the strip in 30 ms, of a whole one in 100: two thirds of 127.
    expect(heard().filter(([, channel]) => channel === 2).map(([, , key, velocity]) => [key, velocity])).toEqual([[60, 85], [64, 85]]);
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
