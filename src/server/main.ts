import { createServer } from 'node:http';
import next from 'next';
import { pino } from 'pino';
import { readEnvironment } from '../protocol/environment';
import { isOwnHost } from '../protocol/origin';
import type { RigDocument } from '../core/rig/document';
import type { RigEdit } from '../core/rig/edit';
import type { FromChild, ToChild } from '../protocol/supervision';
import { nightFerry, NIGHT_FERRY_ID } from './demo/nightFerry';
import { setSecurityHeaders } from './http/headers';
import { HubLink } from './hubLink';
import { InputDesk } from './inputDesk';
import { Library } from './library';
import { RigDesk } from './rigDesk';
import { provideServices } from './services';
import { DatabaseRefusal, openDatabase } from './storage/database';
import { LibraryRepository } from './storage/libraryRepository';
import { RecordingRepository } from './storage/recordingRepository';
import { RigRepository } from './storage/rigRepository';

const log = pino({ name: 'web', level: process.env.PUMICE_LOG ?? 'info' });
const environment = readEnvironment(process.env);
const tell = (message: FromChild) => process.connected && process.send?.(message);

/** Until everything stands there is nothing to put away; replaced below. */
let stop = async (): Promise<void> => process.exit(0);
process.on('message', (message: ToChild) => {
  if (message.kind === 'stop') void stop();
});
// The supervisor died: nobody would restart or stop us any more.
process.on('disconnect', () => void stop());
process.on('SIGTERM', () => void stop());
// Ctrl+C reaches the whole group; the supervisor stops us in its order.
process.on('SIGINT', () => undefined);

function fail(sentence: string): never {
  tell({ kind: 'fatal', sentence });
  log.error(sentence);
  process.exit(1);
}

const database = await openDatabase(environment.dataFolder).catch((error: unknown) => {
  if (error instanceof DatabaseRefusal) return fail(error.message);
  throw error;
});

const repository = new RigRepository(database);
const desk = new RigDesk(repository, (edit) => (edit ? editInHub(edit) : loadIntoHub()), Date.now);
const inputs = new InputDesk(repository, new RecordingRepository(), environment.oscPort, () => link.send({ kind: 'settings', settings: inputs.settings }), Date.now);
const link = new HubLink(`ws://127.0.0.1:${environment.hubPort}/link`, process.env.PUMICE_LINK_TOKEN ?? '', log, {
  connected: () => {
    link.send({ kind: 'settings', settings: inputs.settings });
    loadIntoHub();
  },
  found: (found) => void desk.takeUp(found).catch((error: unknown) => log.warn({ err: error }, 'what arrived was not taken up')),
  value: (signal, value) => desk.remember(signal, value),
  inputOf: (signal) => desk.current.document.signals.find(({ id }) => id === signal)?.input ?? '?',
});

function loadIntoHub(): void {
  const { id, document, revision, stage } = desk.current;
  link.send({ kind: 'load', id, rig: document, revision, stage, values: desk.lastValues });
  void sendRecordings(document);
}

function editInHub(edit: RigEdit): void {
  link.send({ kind: 'edit', edit, revision: desk.current.revision });
  void sendRecordings(desk.current.document);
}

/** The recordings that inputs of the rig play, sent again only where they are others. */
let sentRecordings = '';
async function sendRecordings(document: RigDocument): Promise<void> {
  const ids = [...new Set(document.inputs.flatMap((input) => (input.kind === 'recording' ? [input.recording] : [])))].sort();
  const wanted = `${link.hubPid} ${ids.join(' ')}`;
  if (wanted === sentRecordings) return;
  sentRecordings = wanted;
  link.send({ kind: 'recordings', recordings: await inputs.find(ids) });
}

await desk.open({ id: NIGHT_FERRY_ID, document: nightFerry() });
await inputs.open();
const library = new Library(new LibraryRepository(), Date.now);
provideServices({ environment, log, desk, inputs, library, link });

// Next would add an upgrade listener of its own to the server it is given; this one is never used.
const app = next({ dev: false, dir: process.cwd(), httpServer: createServer() });
await app.prepare();
const answer = app.getRequestHandler();

const server = createServer((request, response) => {
  if (!isOwnHost(request.headers.host, environment.port)) {
    response.writeHead(403, { 'content-type': 'text/plain' }).end('Pumice answers to this computer only.\n');
    return;
  }
  setSecurityHeaders(request, response, environment.hubPort);
  void answer(request, response);
});

let stopping = false;
stop = async () => {
  if (stopping) return;
  stopping = true;
  link.stop();
  server.close();
  server.closeAllConnections();
  await desk.flush();
  await database.close();
  log.info('stopped');
  process.exit(0);
};

server.on('error', (error: NodeJS.ErrnoException) =>
  fail(
    error.code === 'EADDRINUSE'
      ? `Port ${environment.port} is in use by another program: set PORT to a free one and start again.`
      : `Pumice cannot listen on port ${environment.port}: ${error.message}`,
  ),
);
server.listen(environment.port, '127.0.0.1', () => {
  log.info({ port: environment.port }, 'web is listening');
  tell({ kind: 'ready' });
  link.connect();
});
