import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { afterAll, afterEach, expect, it } from 'vitest';
import { Child } from './child';

const folder = mkdtempSync(join(tmpdir(), 'pumice-child-'));
let child: Child | null = null;
afterEach(() => child?.stop());
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A process that comes up and has this for each question, and for the time after that; resolves when it came up for the second time. */
function untilItIsBack(askMs: number, answer: string, rounds: string): Promise<void> {
  const script = join(folder, 'process.cjs');
  writeFileSync(script, `process.on('message', ({ kind }) => { if (kind === 'stop') process.exit(); ${answer} }); process.send({ kind: 'ready' }); ${rounds}`);
  return new Promise((resolve) => {
    let starts = 0;
    child = new Child('test', script, process.env, pino({ level: 'silent' }), ({ kind }) => kind === 'ready' && ++starts === 2 && resolve(), askMs);
    child.start();
  });
}

it('ends a process that hangs, and starts it again', () => untilItIsBack(10, '', 'for (;;);'));

it('leaves one alone that answers, for more questions than it may leave unanswered', async () => {
  const wasAsked = join(folder, 'asked');
  await untilItIsBack(100, `process.send({ kind }); this.asked = (this.asked ?? 0) + 1; if (this.asked === 65) { require('node:fs').writeFileSync(${JSON.stringify(wasAsked)}, ''); process.exit(1); }`, '');
  expect(existsSync(wasAsked)).toBe(true);
});
