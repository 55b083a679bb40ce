import { EventEmitter } from 'node:events';
import { PassThrough } from 'node:stream';
import { pino } from 'pino';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { frameOf } from './frames';
import { NativePorts } from './nativePorts';

const clock = vi.hoisted(() => ({ nowMs: 0 }));
vi.mock('../time', () => ({ hubTimeMs: () => clock.nowMs }));

/** The process of the ports, as far as the hub sees it. */
class FakeProcess extends EventEmitter {
  readonly stdio = [null, null, null, new PassThrough(), new PassThrough()];
  killed = false;
  kill(): void {
    this.killed = true;
  }
}
const started: FakeProcess[] = [];
vi.mock('node:child_process', () => ({ fork: () => (started.push(new FakeProcess()), started.at(-1)) }));

beforeEach(() => void vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'setTimeout', 'clearTimeout'] }));
afterEach(() => void vi.useRealTimers());

/** Time passes as it usually does; the ports say that they are there, or nothing. */
async function pass(ms: number, alive: boolean): Promise<void> {
  for (let i = 0; i < ms; i += 100) {
    clock.nowMs += 100;
    if (alive) started.at(-1)!.stdio[4]!.write(frameOf({ kind: 'alive' }));
    await new Promise((resolve) => setImmediate(resolve));
    vi.advanceTimersByTime(100);
  }
}

it('a process of the ports that says nothing is started again; a hub that was held up does not take it for one', async () => {
  const ports = new NativePorts(pino({ level: 'silent' }), () => undefined);
  ports.start();
  await pass(6000, true);
  // The hub stands still for a minute, and what the ports said meanwhile is still to be read.
  clock.nowMs += 60_000;
  vi.advanceTimersByTime(500);
  await pass(3000, true);
  expect(started.map(({ killed }) => killed)).toEqual([false]);
  await pass(5000, false);
  expect(started[0]!.killed).toBe(true);
  const closed = ports.close();
  started[0]!.emit('exit', null, 'SIGKILL');
  await closed;
});
