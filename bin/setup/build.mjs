import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { hintPlayPage } from './compileHints.mjs';
import { compressPages } from './compress.mjs';
import { intoOneFileEach, intoOneScript } from './oneFile.mjs';
import { ROOT, run } from './run.mjs';
import { hashOf, unlessStamped } from './stamp.mjs';

const SOURCES = ['app', 'src', 'public', 'next.config.mjs', 'tsconfig.json', 'package-lock.json', 'bin/setup/build.mjs', 'bin/setup/oneFile.mjs', 'bin/setup/noCommandLine.cjs', 'bin/setup/compileHints.mjs', 'bin/setup/compress.mjs'];

/** Each becomes one file in dist/, so that a process that died is back in a fraction of a second. */
const PROCESSES = {
  supervisor: 'src/supervisor/main.ts',
  web: 'src/server/main.ts',
  hub: 'src/hub/main.ts',
  clockWorker: 'src/hub/clockWorker.ts',
  ports: 'src/hub/ports/main.ts',
  portThread: 'src/hub/ports/portThread.ts',
  rigCheckWorker: 'src/server/rigCheckWorker.ts',
  renderTake: 'src/server/takes/renderWorker.ts',
};

/** Builds the pages and the processes where their sources changed. */
export async function ensureBuilt() {
  await unlessStamped('dist/.built', hashOf(SOURCES), async () => {
    console.log('Building; this takes about half a minute.');
    rmSync(join(ROOT, 'dist'), { recursive: true, force: true });
    await buildProcesses();
    const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' };
    const code = await run(process.execPath, ['node_modules/next/dist/bin/next', 'build'], { env, modest: true });
    if (code !== 0) throw new Error('The pages could not be built; the lines above say why.');
    hintPlayPage();
    await compressPages();
  });
}

async function buildProcesses() {
  await intoOneFileEach(PROCESSES, 'dist');
  // What finds hands needs a worker of the old kind, which may load scripts while it runs; the pages' own bundler makes none.
  await intoOneScript('src/web/hands/tracker.worker.ts', 'dist/handsTracker.js');
}
