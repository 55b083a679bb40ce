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
const unknown = process.argv.slice(2).filter((word) => word !== '--https');
if (unknown.length > 0) {
  console.error(`"${unknown[0]}" is nothing that npm run demo knows; it takes --https (npm run demo -- --https).`);
  process.exit(1);
}
if (process.argv.includes('--https')) process.env.PUMICE_HTTPS = '1';
await import('../dist/supervisor.js');
