import { expect, it } from 'vitest';
import { testRig } from '../core/engine/testRig';
import { checkRig } from '../protocol/rig';
import { RigChecks, type Answered, type Asked, type CheckWorker } from './rigChecks';

/** Worker threads in memory that answer when they are told to. */
function made() {
  const workers: { asked: Asked[]; answer: (asked: Asked) => void; die: () => void }[] = [];
  const checks = new RigChecks(() => {
    const asked: Asked[] = [];
    const listeners: Record<string, (answered: Answered) => void> = {};
    workers.push({ asked, answer: ({ number, candidate }) => listeners.message!({ number, checked: checkRig(candidate) }), die: () => listeners.exit!({} as Answered) });
    return { postMessage: (one: Asked) => void asked.push(one), on: (event: string, listener: (answered: Answered) => void) => (listeners[event] = listener), unref: () => undefined } as unknown as CheckWorker;
  });
  return { checks, workers };
}
const large = (signal = 'fog') => testRig(Array.from({ length: 3000 }, (_, i) => ({ message: { kind: 'controlChange' as const, channel: 1 + (i % 16), controller: i % 120, range: [0, 127] as [number, number] }, ...(i === 2999 ? { signal } : {}) })));

it('looks at small rigs, and at those that are far too large, without a worker', async () => {
  const { checks, workers } = made();
  expect(await checks.check(testRig([{}]))).toMatchObject({ ok: true });
  expect(await checks.check(7)).toMatchObject({ ok: false });
  expect(await checks.check({ ...testRig([]), mappings: Array.from({ length: 300_000 }, () => ({})) })).toMatchObject({ ok: false, problems: [{ code: 'too-large', field: 'mappings' }] });
  expect(workers).toEqual([]);
});

it('has large ones looked at by one worker, each with its own answer', async () => {
  const { checks, workers } = made();
  const [good, bad] = [checks.check(large()), checks.check(large('gone'))];
  expect(workers).toHaveLength(1);
  for (const asked of workers[0]!.asked.toReversed()) workers[0]!.answer(asked);
  expect(await good).toMatchObject({ ok: true });
  expect(await bad).toMatchObject({ ok: false, problems: [{ field: 'mappings[2999].signal' }] });
});

it('a worker that dies breaks off what it had, and the next rig gets another', async () => {
  const { checks, workers } = made();
  const lost = checks.check(large());
  workers[0]!.die();
  await expect(lost).rejects.toThrow('broken off');
  const again = checks.check(large());
  workers[1]!.answer(workers[1]!.asked[0]!);
  expect(await again).toMatchObject({ ok: true });
});
