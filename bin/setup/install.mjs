import { run } from './run.mjs';
import { hashOf, unlessStamped } from './stamp.mjs';

/** The npm that runs us, as Node starts it: by its name alone Windows finds none that a program may start. */
const { npm_execpath: runner = '' } = process.env;
const NPM = runner.endsWith('npm-cli.js') ? [process.execPath, runner] : ['npm'];

/** Installs the packages of package-lock.json where they are not there yet. */
export async function ensureInstalled() {
  await unlessStamped('node_modules/.pumice-installed', hashOf(['package-lock.json']), async () => {
    console.log('Installing packages; the database driver is compiled, which takes two to three minutes the first time.');
    // npm test may run with NODE_ENV=production or CI set; the tools of the build are needed all the same.
    // What is compiled is compiled on all cores.
    const env = { JOBS: 'max', ...process.env };
    const [command, ...first] = NPM;
    const code = await run(command, [...first, 'ci', '--include=dev', '--no-audit', '--no-fund'], { env });
    if (code !== 0) throw new Error('The packages could not be installed; npm says why above.');
  });
}
