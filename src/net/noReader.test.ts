import { spawn } from 'node:child_process';
import { expect, it } from 'vitest';

/** Prints what it did not expect, as a server does; told to print something, it says a moment later whether it went round meanwhile. */
const PROGRAM = `
import { outliveReader } from './src/net/noReader.ts';
outliveReader();
let unexpected = 0;
process.on('uncaughtException', (error) => (unexpected++, console.error(error)));
process.stdin.once('data', () => {
  console.error('nobody reads this');
  setTimeout(() => process.exit(unexpected === 0 ? 7 : 1), 50);
});
console.log('ready');
`;

it('a process that prints what nobody reads any more does not go round in complaining of it', async () => {
  const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', PROGRAM], { stdio: ['pipe', 'pipe', 'pipe'] });
  await new Promise((resolve) => child.stdout.once('data', resolve));
  child.stderr.destroy();
  child.stdout.destroy();
  const code = new Promise((resolve) => child.once('exit', resolve));
  child.stdin.end('now');
  expect(await code).toBe(7);
});
