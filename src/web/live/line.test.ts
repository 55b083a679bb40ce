import { describe, expect, it } from 'vitest';
import { CLOSED_NOT_JOINED } from '../../protocol/devices';
import { Line } from './line';
import type { LineSocket } from './lineSocket';

/** When a system says the beginning of a connection again that nobody answers, and when it gives up: after a second, doubled each time (RFC 6298). */
const SAID_AGAIN_S = [1, 3, 7, 15, 31, 63];
const TRIED_FOR_S = 127;

/** A browser and a hub in memory, with a clock that is turned by hand. */
function world() {
  let nowMs = 0;
  const timers: { atMs: number; work: () => void }[] = [];
  const sockets: (LineSocket & { closed: boolean; sent: number })[] = [];
  let awake = () => {};
  const hub = { isThere: true, answersPings: true, answersAfterMs: 1, asked: 0, swallows: false, welcomes: true, codeOfClose: 0 };
  const line: Line = new Line(
    {
      nowMs: () => nowMs,
      after(ms, work) {
        const timer = { atMs: nowMs + ms, work };
        timers.push(timer);
        return () => void (timers.includes(timer) && timers.splice(timers.indexOf(timer), 1));
      },
      ask(_, givenUp) {
        hub.asked++;
        if (hub.isThere) return Promise.resolve(true);
        return new Promise((resolve) => {
          if (!hub.swallows) return void timers.push({ atMs: nowMs + 5, work: () => resolve(false) });
          for (const afterS of SAID_AGAIN_S) timers.push({ atMs: nowMs + afterS * 1000, work: () => hub.isThere && !givenUp.aborted && resolve(true) });
          timers.push({ atMs: nowMs + TRIED_FOR_S * 1000, work: () => resolve(false) });
        });
      },
      onAwake(listener) {
        awake = listener;
        return () => (awake = () => {});
      },
      open() {
        const socket = { readyState: 0, binaryType: '', onopen: null, onmessage: null, onclose: null, closed: false, sent: 0, send: () => void socket.sent++, close: () => void (socket.closed = true) } as unknown as (typeof sockets)[number];
        sockets.push(socket);
        timers.push({
          atMs: nowMs + 2,
          work: () => {
            if (socket.closed) return;
            if (!hub.isThere || hub.codeOfClose) return socket.onclose?.({ code: hub.codeOfClose || 1006 });
            (socket as { readyState: number }).readyState = 1;
            socket.onopen?.();
            if (hub.welcomes) {
              socket.onmessage?.({ data: 'welcome' });
              line.welcomed();
            }
          },
        });
        return socket;
      },
    },
    { opened: () => undefined, message: () => undefined, changed: () => undefined, ping: () => void (hub.answersPings && hub.isThere && timers.push({ atMs: nowMs + hub.answersAfterMs, work: () => sockets.at(-1)!.onmessage?.({ data: 'pong' }) })) },
  );
  return {
    line,
    hub,
    sockets,
    wake: () => awake(),
    /** Lets time pass, with all that falls due in it. */
    async pass(ms: number) {
      const untilMs = nowMs + ms;
      for (;;) {
        await Promise.resolve();
        await Promise.resolve();
        const due = timers.filter(({ atMs }) => atMs <= untilMs).sort((a, b) => a.atMs - b.atMs)[0];
        if (!due) break;
        timers.splice(timers.indexOf(due), 1);
        nowMs = Math.max(nowMs, due.atMs);
        due.work();
      }
      nowMs = untilMs;
    },
    /** The machine sleeps: time passes and nothing happens. */
    sleep: (ms: number) => void (nowMs += ms),
    /** The program dies: its sockets close. */
    die() {
      hub.isThere = false;
      sockets.at(-1)!.onclose?.({ code: 1006 });
    },
  };
}

async function opened() {
  const made = world();
  made.line.start();
  await made.pass(10);
  expect(made.line.status).toBe('open');
  return made;
}

describe('the line', () => {
  it.each([3, 20, 60, 600])('is back within a second of the return after %i s, and has opened no socket meanwhile', async (awayS) => {
    const { line, hub, sockets, die, pass } = await opened();
    die();
    expect([line.status, line.waitsFor]).toEqual(['lost', 'answer']);
    await pass(awayS * 1000);
    expect(sockets).toHaveLength(1);
    expect(hub.asked).toBeGreaterThanOrEqual(2 * awayS);
    hub.isThere = true;
    await pass(1000);
    expect([line.status, line.waitsFor, sockets.length]).toEqual(['open', null, 2]);
  });
  it('is back within 8.5 s of the return of a network that swallowed everything, however long it did; where each question is said again ever later that could be a minute', async () => {
    for (const awayS of [3, 6, 12, 20, 32, 40, 50, 66, 80, 100, 112, 125, 140, 200, 300, 600]) {
      const { line, hub, die, pass } = await opened();
      hub.swallows = true;
      die();
      await pass(awayS * 1000);
      expect([line.status, line.waitsFor]).toEqual(['lost', 'answer']);
      hub.isThere = true;
      await pass(awayS <= 3 ? 2000 : 8500);
      expect([awayS, line.status]).toEqual([awayS, 'open']);
      expect(hub.asked).toBeLessThanOrEqual(8 + awayS / 10);
    }
  });
  it('that is silent is given up, by its pings', async () => {
    const { line, hub, pass } = await opened();
    hub.answersPings = false;
    await pass(1000);
    expect(line.status).toBe('open');
    hub.isThere = false;
    await pass(2000);
    expect(line.status).toBe('lost');
  });
  it('that still holds after a sleep stays; one that does not is given up within a second', async () => {
    const holds = await opened();
    holds.sleep(600_000);
    holds.wake();
    await holds.pass(3000);
    expect([holds.line.status, holds.sockets.length]).toEqual(['open', 1]);
    const broken = await opened();
    broken.hub.answersPings = false;
    broken.sleep(600_000);
    broken.wake();
    await broken.pass(700);
    expect(broken.sockets).toHaveLength(2);
    broken.hub.answersPings = true;
    await broken.pass(100);
    expect(broken.line.status).toBe('open');
  });
  it('is not given up because the page itself was held up', async () => {
    const { line, sleep, pass, sockets } = await opened();
    await pass(500);
    sleep(5000);
    await pass(3000);
    expect([line.status, sockets.length]).toEqual(['open', 1]);
  });
  it('is not given up while an answer waits behind what held the page up', async () => {
    const { line, hub, sleep, pass, sockets } = await opened();
    // The next ping is at 502; its answer comes when the tick after it was due.
    hub.answersAfterMs = 501;
    await pass(495);
    sleep(1420);
    await pass(3000);
    expect([line.status, sockets.length]).toEqual(['open', 1]);
  });
  it('opens sockets ever more seldom where somebody answers and none opens', async () => {
    const { line, hub, sockets, pass, die } = await opened();
    die();
    hub.isThere = true;
    hub.codeOfClose = 1006;
    await pass(30_000);
    expect(sockets.length).toBeLessThan(16);
    hub.codeOfClose = 0;
    await pass(4500);
    expect(line.status).toBe('open');
  });
  it('that was dropped by the host tries no more', async () => {
    const { line, sockets, hub, pass, wake } = await opened();
    sockets[0]!.onclose!({ code: CLOSED_NOT_JOINED });
    wake();
    await pass(10_000);
    expect([line.status, sockets.length, hub.asked]).toEqual(['dropped', 1, 0]);
  });
});
