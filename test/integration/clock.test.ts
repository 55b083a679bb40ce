import { pathToFileURL } from 'node:url';
import { afterEach, describe, expect, it } from 'vitest';
import { Clock } from '../../src/hub/clock';
import { hubTimeMs } from '../../src/hub/time';
import { randomFrom } from '../../src/core/standIn/noise';
import { waitFor } from '../helpers/pumice';

const PERIOD_MS = 4;
/** Whoever sleeps until then and is not woken for what is due sooner has lost it. */
const AN_HOUR_MS = 3_600_000;
let clock: Clock;
afterEach(() => clock.stop());

function clockThat(onTick: () => void): void {
  clock = new Clock(PERIOD_MS, onTick, pathToFileURL('dist/clockWorker.js'));
}

describe('the clock beside its built thread', () => {
  it('brings a tick for the last of many wishes, in whatever moment of its sleep each was said', async () => {
    const random = randomFrom(7);
    let tickedMs = -Infinity;
    let answer = { evenly: false, dueMs: Infinity };
    const wish = (evenly: boolean, dueMs: number) => {
      answer = { evenly, dueMs };
      clock.run(evenly, dueMs);
    };
    clockThat(() => {
      tickedMs = hubTimeMs();
      if (answer.dueMs <= tickedMs) wish(answer.evenly, Infinity);
    });
    for (let round = 0; round < 300; round++) {
      // Some with a turn of the loop between, most within the microseconds in which the thread falls asleep.
      for (let change = 0; change < 200; change++) {
        wish(random() < 0.1, random() < 0.1 ? Infinity : hubTimeMs() + (random() < 0.5 ? AN_HOUR_MS : random() * 12));
        if (random() < 0.1) await turn();
      }
      const dueMs = hubTimeMs() + random() * 8;
      // Without the grid, which would bring what was lost.
      wish(false, dueMs);
      await waitFor(`the tick of round ${round}`, () => tickedMs >= dueMs);
    }
  });

  it('ticks once for each of several wishes, and not because the answer to a tick was a later one, or none', async () => {
    let wishes = 20;
    let ticks = 0;
    let dueMs = hubTimeMs();
    clockThat(() => {
      ticks++;
      if (dueMs <= hubTimeMs()) dueMs = --wishes > 0 ? hubTimeMs() + 3 * PERIOD_MS : Infinity;
      clock.run(false, dueMs);
    });
    clock.run(false, dueMs);
    await waitFor('all of them', () => wishes === 0);
    // One or two more where this thread was held up just before it answered.
    expect(ticks).toBeLessThan(25);
  });

  it('keeps to its grid while that is wanted, and after a wish until it was answered', async () => {
    const timesMs: number[] = [];
    clockThat(() => void timesMs.push(hubTimeMs()));
    clock.run(true, Infinity);
    await waitFor('ten ticks', () => timesMs.length >= 10);
    // Late ones can be skipped, none comes before its point of the grid.
    expect(timesMs.at(-1)! - timesMs[0]!).toBeGreaterThan((timesMs.length - 2) * PERIOD_MS);
    clock.run(false, Infinity);
    clock.run(false, hubTimeMs());
    const asked = timesMs.length;
    await waitFor('more than the one', () => timesMs.length > asked + 2);
  });
});

const turn = () => new Promise((resolve) => setImmediate(resolve));
