// npm run demo: installs what is missing, builds what changed, and starts Pumice with the demo rig.
import { ensureBuilt } from './setup/build.mjs';
import { ensureInstalled } from './setup/install.mjs';
import { ROOT } from './setup/run.mjs';

process.chdir(ROOT);
try {
  await ensureInstalled();
  await ensureBuilt();
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
process.env.PUMICE_LOG ??= 'warn';
await import('../dist/supervisor.js');
