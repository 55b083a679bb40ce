import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chance } from '../signal/oscillator';
import { describe as say } from './describe';
import { LoopGuard } from './loopGuard';
import { PortQueue } from './portQueue';
import { StreamParser } from './streamParser';

function parse(...pieces: number[][]) {
  const heard: string[] = [];
  const parser = new StreamParser((message) => heard.push(say(message)));
  for (const piece of pieces) parser.push(piece);
  return { heard, faults: parser.faults };
}

describe('StreamParser (MIDI 1.0 Detailed Specification, "Data format")', () => {
  it.each<[string, number[][], string[]]>([
    ['running status', [[0xb2, 21, 1, 21, 2, 22, 3]], ['channel 3 · CC 21 · 1', 'channel 3 · CC 21 · 2', 'channel 3 · CC 22 · 3']],
    ['running status of two-byte messages', [[0xc0, 4, 5]], ['channel 1 · program 5', 'channel 1 · program 6']],
    ['messages cut into single bytes', [[0x90], [60], [100]], ['channel 1 · note C4 on · 100']],
    ['a clock inside another message', [[0x90, 60, 0xf8, 100]], ['clock', 'channel 1 · note C4 on · 100']],
    ['a clock inside a SysEx', [[0xf0, 1, 0xf8, 2, 0xf7]], ['clock', 'SysEx · 2 bytes']],
    ['a SysEx over three pieces', [[0xf0, 1], [2, 3], [4, 0xf7]], ['SysEx · 4 bytes']],
    ['a message right after a SysEx that was never ended', [[0xf0, 1, 2, 0x90, 60, 100]], ['channel 1 · note C4 on · 100']],
    ['no running status after a system message', [[0x90, 60, 100, 0xf3, 5, 60, 0]], ['channel 1 · note C4 on · 100', 'song 6']],
    ['song position', [[0xf2, 2, 1]], ['song position · 130']],
  ])('reads %s', (_, pieces, expected) => expect(parse(...pieces).heard).toEqual(expected));

  it('leaves out and counts stray data, undefined status bytes and broken messages, and is in step afterwards', () => {
    const { heard, faults } = parse([1, 2, 0xf4, 0xfd, 0x90, 60, 0xb0, 7, 100, 0xf7]);
    expect(heard).toEqual(['channel 1 · CC 7 · 100']);
    expect(faults).toEqual({ strayData: 2, undefinedStatus: 2, broken: 2 });
  });
  it('leaves out a SysEx without end instead of filling the memory', () => {
    const { heard, faults } = parse([0xf0], Array.from({ length: 70_000 }, () => 1), [0xf7, 0xb0, 7, 100]);
    expect(heard).toEqual(['channel 1 · CC 7 · 100']);
    expect(faults.broken).toBeGreaterThan(0);
  });
  it('survives a million random bytes and is in step with the next whole message (seed 20261123)', () => {
    let count = 0;
    let last = '';
    const parser = new StreamParser((message) => {
      count++;
      last = say(message);
    });
    parser.push(Uint8Array.from({ length: 1_000_000 }, (_, i) => Math.floor(chance(20261123, i) * 256)));
    parser.push([0xb2, 21, 87]);
    expect(count).toBeGreaterThan(100_000);
    expect(last).toBe('channel 3 · CC 21 · 87');
  });
});

describe('PortQueue', () => {
  const DIN_BYTES_PER_S = 3125;
  const unit = fc.record({ address: fc.integer({ min: -1, max: 4 }), gapMs: fc.double({ min: 0, max: 3, noNaN: true }), length: fc.constantFrom(1, 3, 6, 12) });

  it('lets three bytes through every 0.96 ms on DIN (31,250 baud, 10 bits a byte)', () => {
    const queue = new PortQueue(DIN_BYTES_PER_S);
    for (let i = 0; i < 3; i++) queue.push(Uint8Array.of(0x90, i, 1), -1);
    expect([queue.take(0) !== null, queue.take(0.95), queue.nextMs, queue.take(0.96) !== null]).toEqual([true, null, 0.96, true]);
  });
  it('keeps every kept unit in order, always delivers the last value, never exceeds the budget, and no value passes a note', () => {
    fc.assert(
      fc.property(fc.array(unit, { maxLength: 80 }), (units) => {
        const queue = new PortQueue(DIN_BYTES_PER_S);
        const out: { id: number; timeMs: number; length: number }[] = [];
        let timeMs = 0;
        const drain = (now: number) => {
          for (let bytes = queue.take(now); bytes; bytes = queue.take(now)) out.push({ id: bytes[0]!, timeMs: now, length: bytes.length });
        };
        units.forEach(({ address, gapMs, length }, id) => {
          timeMs += gapMs;
          queue.push(new Uint8Array(length).fill(id), address);
          drain(timeMs);
        });
        while (queue.nextMs !== null) drain((timeMs = Math.max(timeMs, queue.nextMs)));

        const kept = units.flatMap(({ address }, id) => (address === -1 ? [id] : []));
        expect(out.map(({ id }) => id).filter((id) => units[id]!.address === -1)).toEqual(kept);
        for (let address = 0; address <= 4; address++) {
          const mine = units.flatMap((one, id) => (one.address === address ? [id] : []));
          const sent = out.map(({ id }) => id).filter((id) => units[id]!.address === address);
          expect(sent.at(-1)).toBe(mine.at(-1));
          expect(sent).toEqual([...sent].sort((a, b) => a - b));
        }
        // A value that came after a note leaves after it, one that came before leaves before it.
        out.forEach(({ id }, i) => {
          for (const later of out.slice(i + 1)) if (units[id]!.address === -1 || units[later.id]!.address === -1) expect(later.id).toBeGreaterThan(id);
        });
        // Each unit begins no sooner than the one before it is through.
        for (let i = 1; i < out.length; i++) expect(out[i]!.timeMs - out[i - 1]!.timeMs).toBeGreaterThan((out[i - 1]!.length * 1000) / DIN_BYTES_PER_S - 1e-6);
      }),
      { numRuns: 2000 },
    );
  });
});

describe('PortQueue at Panic', () => {
  const step = fc.oneof({ weight: 4, arbitrary: fc.record({ key: fc.integer({ min: 0, max: 3 }) }) }, { weight: 1, arbitrary: fc.constant('take' as const) }, { weight: 1, arbitrary: fc.record({ value: fc.integer({ min: 0, max: 127 }) }) });
  it('begins no note of those that wait, ends each that has begun, and still says the last value', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), fc.array(step, { maxLength: 20 }), (before, after) => {
        const queue = new PortQueue(1e9);
        const down = new Set<number>();
        const sounds = new Set<number>();
        let [timeMs, value, held, begins] = [0, -1, -1, 0];
        const take = () => {
          const bytes = queue.take((timeMs += 1));
          if (!bytes) return;
          if (bytes[0] === 0xb0) held = bytes[2]!;
          else if (bytes[0] === 0x90) {
            sounds.add(bytes[1]!);
            begins++;
          } else expect(sounds.delete(bytes[1]!)).toBe(true);
        };
        const play = (steps: typeof before) => {
          for (const what of steps) {
            if (what === 'take') take();
            else if ('value' in what) queue.push(Uint8Array.of(0xb0, 7, (value = what.value)), 1);
            else if (down.delete(what.key)) queue.push(Uint8Array.of(0x80, what.key, 64), -1);
            else {
              queue.push(Uint8Array.of(0x90, what.key, 100), -1);
              down.add(what.key);
            }
          }
        };
        play(before);
        // What the book ends with Panic: here after what waits was left out, so that a note that never began has no end either.
        const begunBefore = begins;
        queue.hush();
        for (let i = 0; i < 100; i++) take();
        expect(begins).toBe(begunBefore);
        expect([...sounds].every((key) => down.has(key))).toBe(true);
        expect(held).toBe(value);
        for (const key of sounds) queue.push(Uint8Array.of(0x80, key, 64), -1);
        down.clear();
        play(after);
        for (const key of down) queue.push(Uint8Array.of(0x80, key, 64), -1);
        for (let i = 0; i < 100; i++) take();
        expect([sounds.size, held]).toEqual([0, value]);
      }),
      { numRuns: 1000 },
    );
  });
});

describe('LoopGuard', () => {
  const message = Uint8Array.of(0xb0, 7, 100);
  /** What is let in is passed on to an output that leads back to the input after `tripMs`. */
  const loop = (guard: LoopGuard, tripMs: number, fromMs: number) => {
    let rounds = 0;
    let timeMs = fromMs;
    for (let arriving = 1; arriving > 0 && rounds < 1000; ) {
      arriving = guard.received('Keyboard', message, timeMs);
      if (arriving === 0) break;
      rounds++;
      guard.sent('Weather', message, timeMs);
      timeMs += tripMs;
    }
    return { rounds, timeMs };
  };
  /** What is let in is passed on, and arrives again only because it is played again. */
  const passedOn = (guard: LoopGuard, timesMs: number[], bytes: Uint8Array) =>
    timesMs.reduce((sum, timeMs) => {
      const times = guard.received('Clock', bytes, timeMs);
      for (let i = 0; i < times; i++) guard.sent('Weather', bytes, timeMs);
      return sum + times;
    }, 0);

  it.each([0.2, 3, 40])('cuts a message that goes round in %f ms after a few rounds, naming both ports', (tripMs) => {
    const guard = new LoopGuard();
    const { rounds, timeMs } = loop(guard, tripMs, 0);
    expect(rounds).toBe(5);
    expect(guard.take(timeMs + 50)).toEqual([]);
    expect(guard.take(timeMs + 101)).toEqual([{ output: 'Weather', input: 'Keyboard' }]);
    expect(guard.take(timeMs + 102)).toEqual([]);
    // And again, whenever it is played.
    expect(loop(guard, tripMs, timeMs + 5000).rounds).toBe(5);
  });
  it.each<[string, number[], Uint8Array]>([
    ['48 clocks at 120 bpm', Array.from({ length: 48 }, (_, i) => i * 20.833), Uint8Array.of(0xf8)],
    ['clocks at 300 bpm', Array.from({ length: 200 }, (_, i) => i * 8.333), Uint8Array.of(0xf8)],
    ['equal steps of an encoder', Array.from({ length: 60 }, (_, i) => i * 6), Uint8Array.of(0xb0, 16, 1)],
    ['a key struck the same', Array.from({ length: 30 }, (_, i) => i * 90), Uint8Array.of(0x90, 60, 100)],
  ])('lets all of %s pass', (_, timesMs, bytes) => {
    const guard = new LoopGuard();
    // The last may still be held back: it is let in with the next.
    expect(passedOn(guard, timesMs, bytes)).toBe(timesMs.length);
    expect(guard.take(1e6)).toEqual([]);
  });
  it('does not mind a player who sends what was sent long ago, or something else', () => {
    const guard = new LoopGuard();
    for (let i = 0; i < 20; i++) {
      guard.sent('Weather', message, i * 500);
      expect(guard.received('Keyboard', message, i * 500 + 200)).toBe(1);
      expect(guard.received('Keyboard', Uint8Array.of(0xb0, 7, i), i * 500 + 5)).toBe(1);
    }
  });
  it('holds back what keeps coming back while it is also sent by something else', () => {
    const guard = new LoopGuard();
    const letIn = Array.from({ length: 8 }, (_, i) => {
      guard.sent('Weather', message, i * 10);
      return guard.received('Keyboard', message, i * 10 + 3);
    });
    expect(letIn).toEqual([1, 1, 1, 1, 0, 0, 0, 0]);
    expect(guard.take(100)).not.toEqual([]);
  });
});
