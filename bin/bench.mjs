// npm run bench [NAME]: measures, prints a table and writes bench/results/NAME.json. Nothing here passes or fails.
import { ensureBuilt } from './setup/build.mjs';
import { ensureInstalled } from './setup/install.mjs';
import { intoOneFileEach } from './setup/oneFile.mjs';
import { ROOT, run } from './setup/run.mjs';

const BENCHES = ['engine', 'live', 'inputs', 'desk', 'play', 'edits', 'clock', 'outputs', 'voices', 'listening', 'listenPage', 'hands', 'ensemble', 'takes', 'takesKilled', 'reconnect'];

/** What times the engine alone is put into one file as the hub is, for the compiler makes something else of many (docs/decisions/0037). */
const IN_ONE_FILE = { engine: 'bench/engine.ts', voiceMoves: 'bench/voiceMoves.ts' };
const ONE_FILES = 'node_modules/.cache/bench';

process.chdir(ROOT);
await ensureInstalled();
await ensureBuilt();
await intoOneFileEach(IN_ONE_FILE, ONE_FILES);
const wanted = process.argv.slice(2);
for (const name of wanted.length > 0 ? wanted : BENCHES) {
  const what = name in IN_ONE_FILE ? [`${ONE_FILES}/${name}.js`] : ['--import', 'tsx', '--expose-gc', `bench/${name}.ts`];
  const code = await run(process.execPath, what);
  if (code !== 0) process.exit(code);
}
