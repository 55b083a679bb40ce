import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { WebSocket } from 'ws';
import { decodeFacts, decodeValues } from '../protocol/frames';
import { LIMITS } from '../protocol/limits';
import { Watcher } from './watcher';

// The clock of the fake timers.
vi.mock('./time', () => ({ hubTimeMs: () => Date.now() }));

function watching(maxFacts = 10) {
  const frames: ArrayBuffer[] = [];
  const socket = { bufferedAmount: 0, send: (frame: ArrayBuffer) => void frames.push(frame) };
  const values = new Map<number, number>();
  const levels = new Map<number, number>();
  const due = { dueMs: Infinity };
  const watcher = new Watcher(socket as unknown as WebSocket, { get dueMs() { return due.dueMs; }, signalValue: (n) => values.get(n) ?? NaN, soundingVoices: () => [], mappingLevel: (n) => levels.get(n) ?? NaN }, maxFacts);
  const move = (number: number, value: number) => {
    values.set(number, value);
    watcher.signalChanged(number);
  };
  const seen = () => frames.splice(0).map((frame) => decodeValues(new DataView(frame))!);
  return { watcher, socket, frames, due, levels, move, seen };
}

describe('Watcher', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it('says of what is watched from now on where it lies, and of what lies nowhere yet that it does not', async () => {
    const { watcher, move, seen } = watching();
    move(5, 0.25);
    watcher.watchSignals([5, 6]);
    await vi.advanceTimersByTimeAsync(1);
    expect(seen().map(({ numbers, values }) => [numbers, values])).toEqual([[[5, 6], [0.25, NaN]]]);
  });

  it('says so of mappings, too, once', async () => {
    const { watcher, levels, seen } = watching();
    levels.set(2, 0.5);
    watcher.watchMappings([2, 3]);
    await vi.advanceTimersByTimeAsync(1);
    expect(seen().map(({ numbers, values }) => [numbers, values])).toEqual([[[2, 3], [0.5, NaN]]]);
    watcher.mappingChanged(3);
    await vi.advanceTimersByTimeAsync(100);
    expect(seen()).toEqual([]);
  });

  it('waits with a picture while something is about to leave, but not for ever', async () => {
    const { watcher, due, move, seen } = watching();
    watcher.watchSignals([5]);
    due.dueMs = Date.now() + 0.5;
    move(5, 0.25);
    await vi.advanceTimersByTimeAsync(1);
    expect(seen()).toEqual([]);
    due.dueMs = Date.now() + 20;
    await vi.advanceTimersByTimeAsync(2);
    expect(seen()).toHaveLength(1);
    due.dueMs = Date.now();
    move(5, 0.5);
    await vi.advanceTimersByTimeAsync(30);
    expect(seen().map(({ values }) => values)).toEqual([[0.5]]);
  });

  it('says with what it tells how far the page was heard', async () => {
    const { watcher, move, seen } = watching();
    watcher.watchSignals([5]);
    move(5, 0.25);
    await vi.advanceTimersByTimeAsync(20);
    watcher.heardUpTo = 12;
    move(5, 0.5);
    await vi.advanceTimersByTimeAsync(20);
    expect(seen().map(({ heardUpTo, values }) => [heardUpTo, values])).toEqual([[0, [0.25]], [12, [0.5]]]);
  });

  it('says nothing of a signal that is gone before its turn comes, to who watches it and to who watches all', async () => {
    for (const numbers of [[5], 'all'] as const) {
      const { watcher, move, seen } = watching();
      watcher.watchSignals(numbers);
      move(5, 0.25);
      await vi.advanceTimersByTimeAsync(100);
      seen();
      move(5, NaN);
      await vi.advanceTimersByTimeAsync(100);
      expect(seen()).toEqual([]);
    }
  });

  it('shows a change at once, then at most 60 frames a second (and 2 early ones), and always the last value', async () => {
    const { watcher, move, seen } = watching();
    watcher.watchSignals([5]);
    await vi.advanceTimersByTimeAsync(100);
    let frames = 0;
    let last = NaN;
    for (let i = 1; i <= 1000; i++) {
      move(5, i / 1000);
      await vi.advanceTimersByTimeAsync(1);
      for (const frame of seen()) {
        frames++;
        last = frame.values[0]!;
      }
    }
    await vi.advanceTimersByTimeAsync(20);
    for (const frame of seen()) last = frame.values[0]!;
    expect(last).toBe(1);
    expect(frames).toBeGreaterThan(55);
    expect(frames).toBeLessThanOrEqual(60 + 1 + 2);
  });
  it('shows only what is watched', async () => {
    const { watcher, move, seen } = watching();
    watcher.watchSignals([5]);
    move(6, 1);
    move(5, 0.5);
    await vi.advanceTimersByTimeAsync(20);
    expect(seen().flatMap(({ numbers }) => numbers)).toEqual([5]);
  });
  it('sends nothing into a socket that does not drain, and the newest value once it does', async () => {
    const { watcher, socket, move, seen } = watching();
    watcher.watchSignals([5]);
    socket.bufferedAmount = LIMITS.watcherBacklogBytes + 1;
    for (let i = 0; i < 100; i++) {
      move(5, i);
      await vi.advanceTimersByTimeAsync(10);
    }
    expect(seen()).toEqual([]);
    socket.bufferedAmount = 0;
    await vi.advanceTimersByTimeAsync(20);
    expect(seen().map(({ values }) => values)).toEqual([[99]]);
    watcher.close();
  });
  it('keeps the newest facts and counts those it had to leave out', async () => {
    const { watcher, frames } = watching(10);
    watcher.monitor = true;
    for (let i = 0; i < 25; i++) watcher.fact({ direction: 'in', hubTimeMs: i, signal: i, value: 0 });
    await vi.advanceTimersByTimeAsync(20);
    const { facts, dropped } = decodeFacts(new DataView(frames[0]!))!;
    expect([facts.length, dropped, facts[0]!.hubTimeMs]).toEqual([10, 15, 15]);
  });
});
