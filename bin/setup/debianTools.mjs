import { existsSync } from 'node:fs';
import { run } from './run.mjs';

/** Programs that speak or read the protocols independently of this project, for tests: where each is, and its package. */
const TOOLS = [
  { path: '/usr/bin/oscsend', name: 'liblo-tools', what: 'an independent OSC sender and listener' },
  { path: '/usr/bin/tshark', name: 'tshark', what: 'an independent reader of network MIDI' },
  { path: '/usr/bin/aubiopitch', name: 'aubio-tools', what: 'an independent tracker of pitch' },
  { path: '/usr/lib/python3/dist-packages/mido', name: 'python3-mido', what: 'an independent reader of MIDI files' },
];

/** They are installed where that is possible; without them the tests that use them are left out, and say so. */
export async function ensureDebianTools() {
  const missing = TOOLS.filter(({ path }) => !existsSync(path));
  if (missing.length === 0 || process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) return;
  console.log(`Installing ${missing.map(({ name, what }) => `${name}, ${what}`).join('; ')}.`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], { env });
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing.map(({ name }) => name)], { env });
}
