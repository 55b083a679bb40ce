import { run } from './run.mjs';
import { hashOf, unlessStamped } from './stamp.mjs';

/** Installs the packages of package-lock.json where they are not there yet. */
export async function ensureInstalled() {
  await unlessStamped('node_modules/.pumice-installed', hashOf(['package-lock.json']), async () => {
    console.log('Installing packages; the database driver is compiled, which takes two to three minutes the first time.');
    // npm test may run with NODE_ENV=production or CI set; the tools of the build are needed all the same.
    // What is compiled is compiled on all cores.
    const env = { JOBS: 'max', ...process.env };
    const code = await run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund'], { env });
    if (code !== 0) throw new Error('The packages could not be installed; npm says why above.');
  });
}
