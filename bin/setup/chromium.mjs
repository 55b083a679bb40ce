import { existsSync } from 'node:fs';
import { run } from './run.mjs';

const CHROMIUM = '/usr/bin/chromium';

/** Makes sure that there is a Chromium for the browser tests. Throws one sentence that says what to install where it cannot. */
export async function ensureChromium() {
  const own = process.env.PUMICE_CHROMIUM;
  if (existsSync(own ?? CHROMIUM)) return;
  if (own) throw new Error(`PUMICE_CHROMIUM says ${own}, where nothing is: name a Chromium that is there.`);
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (!mayInstall) {
    throw new Error('The browser tests need Chromium: install it (on Debian: apt-get install chromium), or set PUMICE_CHROMIUM to where it is.');
  }
  console.log('Installing Debian’s Chromium for the browser tests.');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], { env });
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], { env });
  if (!existsSync(CHROMIUM)) throw new Error('Chromium could not be installed; apt-get says why above.');
}
