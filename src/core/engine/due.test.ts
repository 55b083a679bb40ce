import { describe, expect, it } from 'vitest';
import { play, playing } from './testPlay';
import { testRig } from './testRig';

const note = { kind: 'note' as const, channel: 10, note: 42, velocity: 100 };

/** Ticks exactly when they are wanted, from one to the next. */
function ticksWanted({ engine }: ReturnType<typeof play>, most: number): number[] {
  const times: number[] = [];
  while (times.length < most && Number.isFinite(engine.dueMs)) {
    times.push(engine.dueMs);
    engine.take({ kind: 'tick', timeMs: engine.dueMs });
  }
  return times;
}

describe('the time of what is due next', () => {
  it('is that of the next clock: 24 a beat, at 120 bpm 20.83 ms apart, without drift in a minute', () => {
    const rig = testRig([{}]);
    rig.outputs[0]!.sendsClock = true;
    const player = play(rig);
    // The first is wanted at once, and none at an even rate besides.
    expect([player.engine.dueMs, player.engine.quietUntilMs]).toEqual([0, Infinity]);
    player.engine.take({ kind: 'tick', timeMs: 0 });
    const times = ticksWanted(player, 2880);
    expect(times[0]).toBeCloseTo(60_000 / 120 / 24, 9);
    expect(times.at(-1)).toBeCloseTo(60_000, 6);
    expect(player.bytes().filter((bytes) => bytes === 'F8')).toHaveLength(2881);
  });
  it('is the end of a note of fixed length, and then nothing', () => {
    const player = playing({ signal: 'bell', message: { ...note, length: { ms: 37.5 } } });
    player.move('bell', 10, 1);
    expect(player.engine.dueMs).toBe(47.5);
    player.engine.take({ kind: 'tick', timeMs: 47.4 });
    expect([player.bytes(), player.engine.dueMs]).toEqual([['99 2A 64'], 47.5]);
    player.engine.take({ kind: 'tick', timeMs: 47.5 });
    expect([player.bytes(), player.engine.dueMs]).toEqual([['89 2A 40'], Infinity]);
  });
  it('is that of the next repeat, for as long as the gate is held', () => {
    const player = playing({ signal: 'bell', message: { ...note, repeat: { rateHz: 30 } } });
    player.move('bell', 0, 1);
    const times = ticksWanted(player, 30);
    times.forEach((timeMs, i) => expect(timeMs).toBeCloseTo(((i + 1) * 1000) / 30, 9));
    player.move('bell', 1001, 0);
    player.engine.take({ kind: 'tick', timeMs: 1004 });
    expect([player.engine.dueMs, player.engine.pending]).toEqual([Infinity, false]);
  });
  it('stays on the beat of its repeats after a stall, and makes up for none of them', () => {
    const player = playing({ signal: 'bell', message: { ...note, repeat: { rateHz: 10 } } });
    player.move('bell', 0, 1);
    player.bytes();
    player.engine.take({ kind: 'tick', timeMs: 530 });
    expect([player.bytes().filter((bytes) => bytes.startsWith('99')).length, player.engine.dueMs]).toEqual([1, 600]);
    // Late by less than one of them: the next comes where it would have.
    player.engine.take({ kind: 'tick', timeMs: 604 });
    expect(player.engine.dueMs).toBe(700);
  });
  it('is the end of a shortest time that a gate waits for', () => {
    const player = playing({ signal: 'bell', gate: { minOnMs: 30 }, message: note });
    player.move('bell', 5, 1);
    player.move('bell', 12, 0);
    player.engine.take({ kind: 'tick', timeMs: 13 });
    expect(player.engine.dueMs).toBe(35);
    player.engine.take({ kind: 'tick', timeMs: 35 });
    expect(player.bytes()).toEqual(['99 2A 64', '89 2A 40']);
  });
  it('is never a time that has passed', () => {
    const player = playing({ signal: 'bell', gate: { minGapMs: 500 }, message: note });
    player.move('bell', 5, 1);
    player.engine.take({ kind: 'tick', timeMs: 9 });
    expect(player.engine.dueMs).toBe(Infinity);
  });
  it('is never for what only goes on, which any tick does', () => {
    const player = playing({ shaping: { smoothing: { kind: 'onePole', timeConstantMs: 50 } } });
    player.move('fog', 0, 0);
    player.move('fog', 10, 1);
    expect([player.engine.pending, player.engine.dueMs]).toEqual([true, Infinity]);
  });
  it('is not lost over an edit', () => {
    const player = playing({ signal: 'bell', message: { ...note, length: { ms: 100 } } });
    player.move('bell', 0, 1);
    const edited = structuredClone(player.engine.plan.rig);
    edited.mappings[0]!.name = 'Another';
    player.engine.take({ kind: 'rig', rig: edited, timeMs: 50 });
    player.engine.take({ kind: 'tick', timeMs: 51 });
    expect(player.engine.dueMs).toBe(100);
  });
});
