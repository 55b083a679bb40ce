import { execFileSync, spawn } from 'node:child_process';
import { cpSync, existsSync, readFileSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT, run } from './run.mjs';
import { hashOf, unlessStamped } from './stamp.mjs';

/** Holds a program of our own with a MIDI package that speaks to JACK: the tests of native ports run it instead of `dist`. */
const STAMP = 'node_modules/.cache/native-ports/.built';
const NATIVE_PORTS = join(ROOT, dirname(STAMP));
const PACKAGE = '@julusian/midi';
const NEEDED = ['jackd2', 'libjack-jackd2-dev', 'python3-rtmidi'];

/**
 * JACK's server carries MIDI between processes without any device, and Debian's python3-rtmidi is an independent other end. The
 * MIDI package is built against it from its own sources where that is possible; without it the tests of native ports are left
 * out, and say so.
 */
export async function ensureNativePorts() {
  if (process.platform !== 'linux' || !existsSync(join(ROOT, 'node_modules', PACKAGE))) return leftOut('they need Linux and the optional MIDI package');
  try {
    await installPackages();
    await mustStart();
    await unlessStamped(STAMP, hashOf(['package-lock.json', 'bin/setup/nativePorts.mjs']), build);
    rmSync(join(NATIVE_PORTS, 'dist'), { recursive: true, force: true });
    cpSync(join(ROOT, 'dist'), join(NATIVE_PORTS, 'dist'), { recursive: true });
  } catch (error) {
    rmSync(NATIVE_PORTS, { recursive: true, force: true });
    leftOut(error.message.split('\n')[0]);
  }
}

/** A server that does not start on this machine would only fail the tests. */
async function mustStart() {
  const env = { ...process.env, JACK_DEFAULT_SERVER: 'pumice-look', JACK_NO_AUDIO_RESERVATION: '1', JACK_NO_START_SERVER: '1' };
  const server = spawn('jackd', ['-r', '--name', 'pumice-look', '-S', '-d', 'dummy', '-r', '48000', '-p', '64'], { env, stdio: 'ignore' });
  const ended = new Promise((resolve) => server.once('exit', resolve).once('error', resolve));
  let answers = false;
  for (let tries = 0; tries < 50 && !answers && server.exitCode === null; tries++) {
    answers = (await run('jack_lsp', [], { env, quiet: true })) === 0;
    if (!answers) await new Promise((resolve) => setTimeout(resolve, 100));
  }
  server.kill('SIGTERM');
  const patience = setTimeout(() => server.kill('SIGKILL'), 5000);
  await ended;
  clearTimeout(patience);
  if (!answers) throw new Error('JACK does not start here');
}

function leftOut(why) {
  console.log(`The tests of native MIDI ports are left out: ${why}.`);
}

async function installPackages() {
  if (existsSync('/usr/bin/jackd') && existsSync('/usr/include/jack/jack.h') && hasPeer()) return;
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) throw new Error(`install ${NEEDED.join(', ')} to run them`);
  console.log('Installing JACK and python3-rtmidi, the independent other end of MIDI ports.');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], { env });
  if ((await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...NEEDED], { env })) !== 0 || !hasPeer()) throw new Error(`${NEEDED.join(', ')} could not be installed`);
}

function hasPeer() {
  try {
    execFileSync('/usr/bin/python3', ['-c', 'import rtmidi'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
}

async function build() {
  console.log('Building the MIDI package against JACK, for the tests of native ports.');
  const folder = join(NATIVE_PORTS, 'node_modules', PACKAGE);
  rmSync(NATIVE_PORTS, { recursive: true, force: true });
  cpSync(join(ROOT, 'node_modules', PACKAGE), folder, { recursive: true, filter: (path) => !path.includes('prebuilds') });
  const recipe = join(folder, 'binding.gyp');
  writeFileSync(recipe, readFileSync(recipe, 'utf8').replace('__LINUX_ALSA__', '__UNIX_JACK__').replace('-lasound', '-ljack'));
  const npm = dirname(dirname(realpathSync(execFileSync('which', ['npm'], { encoding: 'utf8' }).trim())));
  const gyp = join(npm, 'node_modules/node-gyp/bin/node-gyp.js');
  if ((await run(process.execPath, [gyp, 'rebuild', '--silent'], { cwd: folder, env: { ...process.env, ...nodeHeaders() }, quiet: true })) !== 0) throw new Error('the MIDI package could not be built against JACK');
}

/** Where npm was told that the headers of Node lie, node-gyp looks too; else it fetches them. */
function nodeHeaders() {
  const told = execFileSync('npm', ['config', 'get', 'nodedir'], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }).trim();
  const folder = [told, '/usr', '/usr/local'].find((place) => existsSync(join(place, 'include/node/node_api.h')));
  return folder ? { npm_config_nodedir: folder } : {};
}
