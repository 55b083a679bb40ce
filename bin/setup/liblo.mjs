import { existsSync } from 'node:fs';
import { run } from './run.mjs';

/**
 * Debian's liblo-tools (oscsend, oscdump) speak OSC independently of this project. They are installed where that is
 * possible; without them the tests that use them are left out, and say so.
 */
export async function ensureOscTools() {
  if (existsSync('/usr/bin/oscsend') || process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) return;
  console.log('Installing liblo-tools, an independent OSC sender and listener.');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], { env });
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'liblo-tools'], { env });
}
