import { join } from 'node:path';
import { ROOT } from './run.mjs';

/** Packages that cannot be in one file with the rest: they load binaries or files of their own, are data that is read quicker as such, or are needed by few or by nobody. */
const BESIDE = ['@julusian/midi', 'next', 'selfsigned', 'sqlite3', 'moment-timezone', 'pg-hstore', 'bufferutil', 'utf-8-validate'];

/** Whether a module is for pages or servers is of no matter to what is in one file. */
const SAID = { logLevel: 'warn', checks: { moduleLevelDirective: false } };

/**
 * Puts what a program is made of into one file each, with its packages (docs/decisions/0035, 0037).
 * @param programs by the name of the file that comes out: where it begins
 */
export async function intoOneFileEach(programs, folder) {
  const { build } = await import('rolldown');
  await build(
    Object.entries(programs).map(([name, input]) => ({
      cwd: ROOT,
      input,
      platform: 'node',
      external: BESIDE.map((name) => new RegExp(`^${name}(?:/|$)`)),
      resolve: { alias: { '@rushstack/ts-command-line': join(ROOT, 'bin/setup/noCommandLine.cjs') } },
      transform: { target: 'node20' },
      output: { file: join(folder, `${name}.js`), format: 'esm', sourcemap: true, codeSplitting: false },
      ...SAID,
    })),
  );
}

/** The same for a worker of the old kind in a browser, made small. */
export async function intoOneScript(input, file) {
  const { build } = await import('rolldown');
  await build({ cwd: ROOT, input, platform: 'browser', transform: { target: 'es2022' }, output: { file, format: 'iife', minify: true, codeSplitting: false }, ...SAID });
}
