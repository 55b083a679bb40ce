// npm run bench [NAME]: measures, prints a table and writes bench/results/NAME.json. Nothing here passes or fails.
import { ensureBuilt } from './setup/build.mjs';
import { ensureInstalled } from './setup/install.mjs';
import { ROOT, run } from './setup/run.mjs';

const BENCHES = ['engine', 'live', 'inputs', 'desk', 'play', 'edits', 'clock', 'outputs', 'voices', 'listening', 'listenPage', 'hands', 'ensemble', 'takes', 'takesKilled', 'reconnect'];

process.chdir(ROOT);
await ensureInstalled();
await ensureBuilt();
const wanted = process.argv.slice(2);
for (const name of wanted.length > 0 ? wanted : BENCHES) {
  const code = await run(process.execPath, ['--import', 'tsx', '--expose-gc', `bench/${name}.ts`]);
  if (code !== 0) process.exit(code);
}
