import { existsSync } from 'node:fs';
import { run } from './run.mjs';

const CHROMIUM = '/usr/bin/chromium';
/** The same without windows, which most browser tests are quicker with (`playwright.config.ts`). */
const SHELL = '/usr/bin/chromium-headless-shell';

/** Makes sure that there is a Chromium for the browser tests. Throws one sentence that says what to install where it cannot. */
export async function ensureChromium() {
  const own = process.env.PUMICE_CHROMIUM;
  if (own) {
    if (!existsSync(own)) throw new Error(`PUMICE_CHROMIUM says ${own}, where nothing is: name a Chromium that is there.`);
    return;
  }
  if (existsSync(CHROMIUM) && existsSync(SHELL)) return;
  if (process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
    console.log('Installing Debian’s Chromium for the browser tests.');
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    // What is merely quicker is not waited for where there is no network.
    const patience = existsSync(CHROMIUM) ? ['-o', 'Acquire::http::Timeout=10', '-o', 'Acquire::Retries=0'] : [];
    const install = (name) => run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...patience, name], { env });
    await run('apt-get', ['update', '-qq', ...patience], { env });
    if (!existsSync(CHROMIUM)) await install('chromium');
    // Where it cannot be had, all tests use the whole one.
    await install('chromium-headless-shell');
  }
  if (!existsSync(CHROMIUM)) {
    throw new Error('The browser tests need Chromium: install it (on Debian: apt-get install chromium), or set PUMICE_CHROMIUM to where it is.');
  }
}
