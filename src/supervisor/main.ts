import { randomBytes } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { ensureAuthority } from '../net/certificate';
import { readEnvironment, type Environment } from '../protocol/environment';
import type { Started } from '../protocol/supervision';
import { Child } from './child';
import { takeFolder } from './folderLock';

const log = pino({ name: 'supervisor', level: process.env.PUMICE_LOG ?? 'info' });

function fail(sentence: string): never {
  console.error(sentence);
  process.exit(1);
}

function environmentOrFail(): Environment {
  try {
    return readEnvironment(process.env);
  } catch (error) {
    return fail((error as Error).message);
  }
}

const environment = environmentOrFail();
const dataFolder = resolve(environment.dataFolder);
try {
  mkdirSync(dataFolder, { recursive: true });
} catch (error) {
  fail(`The folder ${dataFolder} cannot be made (${(error as Error).message}): set PUMICE_DATA to another one.`);
}

const isOurs = await takeFolder(dataFolder).catch((error: Error) => {
  // A folder that cannot be written to is refused by who writes there, with its reason.
  log.warn({ err: error, dataFolder }, 'whether another Pumice uses this folder cannot be told');
  return true;
});
if (!isOurs) fail(`Another Pumice uses the data in ${dataFolder}: use that one, or stop it first. For a second one beside it set PUMICE_DATA to another folder, and PORT to a free port.`);

if (environment.https) {
  await ensureAuthority(dataFolder, Date.now()).catch((error: Error) => fail(`The certificate for --https cannot be made in ${dataFolder} (${error.message}): set PUMICE_DATA to another folder, or start without --https.`));
}

const childEnv: NodeJS.ProcessEnv = {
  ...process.env,
  NODE_ENV: 'production',
  PORT: String(environment.port),
  PUMICE_HUB_PORT: String(environment.hubPort),
  PUMICE_OSC_PORT: String(environment.oscPort),
  PUMICE_DATA: dataFolder,
  PUMICE_LINK_TOKEN: randomBytes(24).toString('hex'),
  // Node reads all certificates of this file at every start, for 0.15 s; nothing here asks anybody who would need them.
  NODE_EXTRA_CA_CERTS: undefined,
};

const ready = new Set<string>();

function hear(from: Child, message: Started): void {
  switch (message.kind) {
    case 'ready':
      ready.add(from.name);
      return announce();
    case 'fatal':
      // Only at the first start: later the port may just not be free again yet, and the next try finds it so.
      if (!ready.has(from.name)) void stopAll().then(() => fail(message.sentence));
      return;
    default:
      return message satisfies never;
  }
}

const script = (name: string) => fileURLToPath(new URL(`./${name}.js`, import.meta.url));

const hub: Child = new Child('hub', script('hub'), childEnv, log, (message) => hear(hub, message));
const web: Child = new Child('web', script('web'), childEnv, log, (message) => hear(web, message));

let announced = false;
function announce(): void {
  if (announced || ready.size < 2) return;
  announced = true;
  const address = `http://localhost:${environment.port}`;
  console.log(`\nPumice is running.\n  Bench       ${address}\n  Wheelhouse  ${address}/play/wheelhouse\n  Stop        Ctrl+C\n`);
}

let stopped: Promise<void> | null = null;
/** Stops both; however often it is called, each call ends when both are gone. */
function stopAll(): Promise<void> {
  stopped ??= Promise.all([web.stop(), hub.stop()]).then(() => undefined);
  return stopped;
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void stopAll().then(() => process.exit(0)));

hub.start();
web.start();
