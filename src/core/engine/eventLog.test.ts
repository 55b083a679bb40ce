import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { EngineEvent } from './event';
import { fromLog, toLog, type LoggedEvent } from './eventLog';
import { ALL_MAPPINGS, eventOf, performer, rigOf, step } from './testPerformance';

describe('the log of events', () => {
  it('replayed from JSON gives the same bytes at the same times, with edits, scenes and all else between', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(ALL_MAPPINGS, { minLength: 1 }), fc.array(fc.tuple(step, fc.integer({ min: 0, max: 30 })), { maxLength: 60 }), (first, steps) => {
        const performed = performer(rigOf(first));
        const log: string[] = [];
        const take = (event: EngineEvent) => {
          const logged = toLog(event, performed.engine.plan);
          if (logged) log.push(JSON.stringify(logged));
          performed.engine.take(event);
        };
        take({ kind: 'start', timeMs: 0 });
        let timeMs = 0;
        for (const [what, afterMs] of steps) {
          timeMs += afterMs;
          take(eventOf(what, timeMs));
        }
        take({ kind: 'release', timeMs: timeMs + 100 });

        const replayed = performer(rigOf(first));
        for (const line of log) {
          const event = fromLog(JSON.parse(line) as LoggedEvent, replayed.engine.plan);
          if (event) replayed.engine.take(event);
        }
        expect(replayed.sent).toEqual(performed.sent);
      }),
      { numRuns: 2000 },
    );
  });
  it('leaves out what names something that is not there', () => {
    const { engine } = performer(rigOf([0]));
    expect(toLog({ kind: 'sample', signal: 99, timeMs: 1, value: 1 }, engine.plan)).toBeNull();
    expect(fromLog({ kind: 'sample', signal: 'anchor', timeMs: 1, value: 1 }, engine.plan)).toBeNull();
    expect(fromLog({ kind: 'show', mapping: 'm3', timeMs: 1, level: 1 }, engine.plan)).toBeNull();
  });
});
