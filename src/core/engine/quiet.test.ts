import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Engine } from './engine';
import type { Running } from './running';
import { ALL_MAPPINGS, eventOf, performer, rigOf, step } from './testPerformance';
import { playing } from './testPlay';

const MAPPINGS = [
  { shaping: { smoothing: { kind: 'oneEuro' as const, minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 } } },
  { shaping: { smoothing: { kind: 'slew' as const, perS: 3 }, deglitch: { median: 5 as const } }, message: { kind: 'controlChange' as const, channel: 2, controller: 7, range: [0, 127] as [number, number] } },
  { message: { kind: 'controlChange' as const, channel: 4, controller: 9, range: [0, 127] as [number, number] } },
];

/** Ticks as the hub does: every 4 ms where that is wanted, and when something is due. Says at which times. */
function tickAsWanted(engine: Engine, fromMs: number, untilMs: number): number[] {
  const times: number[] = [];
  for (let timeMs = fromMs; timeMs < untilMs; timeMs++) {
    const { quietUntilMs, dueMs } = engine;
    const isOver = timeMs >= quietUntilMs && quietUntilMs > (times.at(-1) ?? fromMs);
    if (!(timeMs % 4 === 0 && timeMs >= quietUntilMs) && !isOver && timeMs < dueMs) continue;
    engine.take({ kind: 'tick', timeMs });
    times.push(timeMs);
  }
  return times;
}

describe('ticks at an even rate', () => {
  it('are not wanted while samples alone move what moves: once in 25 ms it is looked whether they still come', () => {
    const { engine, move } = playing(...MAPPINGS.slice(0, 2));
    const ticks: number[] = [];
    for (let timeMs = 0; timeMs < 1000; timeMs += 10) {
      move('fog', timeMs, 0.5 + 0.4 * Math.sin(timeMs / 100));
      ticks.push(...tickAsWanted(engine, timeMs, timeMs + 10));
    }
    expect(ticks.length).toBeLessThanOrEqual(1000 / 24);
  });
  it('are wanted once the signal is silent, until all has arrived', () => {
    const { engine, move } = playing(...MAPPINGS.slice(0, 2));
    for (let timeMs = 0; timeMs <= 300; timeMs += 10) {
      move('fog', timeMs, timeMs / 300);
      tickAsWanted(engine, timeMs, timeMs + 10);
    }
    expect(tickAsWanted(engine, 310, 330).length).toBeLessThanOrEqual(1);
    // Silent: three intervals of 10 ms without a sample.
    expect(tickAsWanted(engine, 330, 430).length).toBeGreaterThanOrEqual(24);
    tickAsWanted(engine, 430, 5000);
    expect([...engine.levels]).toEqual([1, 1]);
    expect([engine.quietUntilMs, engine.pending]).toEqual([Infinity, false]);
  });
  it('are wanted all the time for what moves by itself: a motion, a gate that waits', () => {
    const { engine, move } = playing({ signal: 'bell', motion: { kind: 'ramp', onLevel: 1, offLevel: 0, upMs: 300, downMs: 300 }, message: { kind: 'controlChange', channel: 1, controller: 1, range: [0, 127] } });
    move('bell', 0, 1);
    expect(engine.quietUntilMs).toBe(-Infinity);
    expect(tickAsWanted(engine, 1, 101).length).toBe(25);
  });
  it('lead to the same place whatever moves: nothing that was left out was needed', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(0, 0.25, 0.62, 1), fc.integer({ min: 1, max: 60 })), { minLength: 1, maxLength: 40 }), (moves) => {
        const lazy = playing(...MAPPINGS);
        const eager = playing(...MAPPINGS);
        let timeMs = 0;
        for (const [value, forMs] of moves) {
          for (const { move } of [lazy, eager]) move('fog', timeMs, value);
          tickAsWanted(lazy.engine, timeMs + 1, timeMs + forMs);
          for (let t = timeMs + 1; t < timeMs + forMs; t++) eager.engine.take({ kind: 'tick', timeMs: t });
          timeMs += forMs;
        }
        tickAsWanted(lazy.engine, timeMs, timeMs + 20_000);
        eager.run(timeMs, timeMs + 20_000);
        expect([...lazy.engine.levels]).toEqual([...eager.engine.levels]);
        const last = (bytes: string[]) => [...new Map(bytes.map((message) => [message.slice(0, 5), message]))];
        expect(new Map(last(lazy.bytes()))).toEqual(new Map(last(eager.bytes())));
        expect(lazy.engine.pending).toBe(false);
      }),
      { numRuns: 300 },
    );
  });
  it('that look at everything say the same as those that know it quiet, with edits, scenes and all else between', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(ALL_MAPPINGS, { minLength: 1 }), fc.array(fc.tuple(step, fc.integer({ min: 0, max: 30 })), { maxLength: 60 }), (first, steps) => {
        const knows = performer(rigOf(first));
        const looks = performer(rigOf(first));
        const { r } = looks.engine as unknown as { r: Running };
        let timeMs = 0;
        for (const [what, afterMs] of [[{ kind: 'tick' }, 0] as const, ...steps]) {
          timeMs += afterMs;
          knows.engine.take(eventOf(what, timeMs));
          r.quietUntilMs[0] = -Infinity;
          looks.engine.take(eventOf(what, timeMs));
        }
        expect(knows.sent).toEqual(looks.sent);
      }),
      { numRuns: 1000 },
    );
  });
});
