import fc from 'fast-check';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { WebSocket } from 'ws';
import { Watcher } from '../../src/hub/watcher';
import { LiveStore } from '../../src/web/live/store';

// The clock of the fake timers.
vi.mock('../../src/hub/time', () => ({ hubTimeMs: () => Date.now() }));
beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const FOG = 4;

/** A hub that keeps one value, and pages that move it and are told of it, each over a line that is as slow as one likes both ways. */
function world(clients: number) {
  let value = 0;
  const at = Array.from({ length: clients }, () => {
    const toClient: ArrayBuffer[] = [];
    const toHub: { sequence: number; value: number }[] = [];
    const watcher = new Watcher({ bufferedAmount: 0, send: (frame: ArrayBuffer) => void toClient.push(frame) } as unknown as WebSocket, { dueMs: Infinity, signalValue: () => value, soundingVoices: () => [], mappingLevel: () => NaN }, 10);
    const store = new LiveStore(() => undefined, () => 0);
    store.hear({ kind: 'names', names: { signals: [[FOG, 'fog']], mappings: [], streams: [], outputs: [] } });
    watcher.watchSignals([FOG]);
    const client = { toPage: toClient, toHub, watcher, store, shown: NaN, sequence: 0 };
    store.signals.listen('fog', (told) => (client.shown = told));
    return client;
  });
  const moved = (by: Watcher | null) => at.forEach(({ watcher }) => watcher !== by && watcher.signalChanged(FOG));
  return {
    pages: at,
    value: () => value,
    moves(p: number, to: number): void {
      const client = at[p]!;
      client.shown = to;
      client.store.said.set('fog', client.sequence);
      client.toHub.push({ sequence: client.sequence++, value: to });
    },
    hubHears(p: number): void {
      const said = at[p]!.toHub.shift();
      if (!said) return;
      at[p]!.watcher.heardUpTo = said.sequence + 1;
      value = said.value;
      moved(at[p]!.watcher);
    },
    pageHears(p: number): void {
      const frame = at[p]!.toPage.shift();
      if (frame) at[p]!.store.hearFrame(new DataView(frame));
    },
    scene(to: number): void {
      value = to;
      moved(null);
    },
  };
}

it('pages that move one thing, and a scene that does, end at what holds, however late each hears of the other', () => {
  const page = fc.nat(2);
  const step = fc.oneof(
    fc.record({ does: fc.constant('moves' as const), page }),
    fc.record({ does: fc.constant('hubHears' as const), page }),
    fc.record({ does: fc.constant('pageHears' as const), page }),
    fc.record({ does: fc.constant('scene' as const), page }),
    fc.record({ does: fc.constant('waits' as const), page }),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const here = world(3);
      steps.forEach(({ does, page: p }, i) => {
        if (does === 'waits') vi.advanceTimersByTime(1 + 7 * p);
        else if (does === 'moves') here.moves(p, (i + 1) / 64);
        else if (does === 'scene') here.scene((i + 1) / 64);
        else here[does](p);
      });
      // Everything that is on its way arrives.
      for (let round = 0; round < 3; round++) {
        for (const p of [0, 1, 2]) while (here.pages[p]!.toHub.length > 0) here.hubHears(p);
        vi.advanceTimersByTime(200);
        for (const p of [0, 1, 2]) while (here.pages[p]!.toPage.length > 0) here.pageHears(p);
      }
      expect(here.pages.map(({ shown }) => shown)).toEqual(Array(3).fill(here.value()));
    }),
    { numRuns: 1000 },
  );
});
