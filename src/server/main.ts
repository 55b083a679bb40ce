import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import { pino } from 'pino';
import { readEnvironment } from '../protocol/environment';
import { cookieOf, DEVICE_COOKIE } from '../protocol/devices';
import type { MadeEdit } from '../protocol/madeEdit';
import { isOwnHost, namesAt } from '../protocol/origin';
import { readAuthority } from '../net/certificate';
import { Doors, isSecure, type Door } from '../net/doors';
import { outliveReader } from '../net/noReader';
import type { RigDocument } from '../core/rig/document';
import { DEFAULT_RECORD_SETTINGS, recordSettingsSchema, type RecordSettings } from '../protocol/recordSettings';
import type { FromChild, ToChild } from '../protocol/supervision';
import { FRESH_HANDS, type HandsProfile } from '../core/hands/profile';
import { handsProfileSchema } from '../protocol/handsProfile';
import { keptRecipesSchema, type KeptRecipes } from '../protocol/takesSchema';
import { nightFerry, NIGHT_FERRY_ID } from './demo/nightFerry';
import { demoTakes } from './demo/takes';
import { DeviceDesk } from './deviceDesk';
import { setSecurityHeaders } from './http/headers';
import { passage } from './http/lanGate';
import { pageFiles } from './http/pageFiles';
import { HandsFiles } from './handsFiles';
import { HubLink } from './hubLink';
import { InputDesk } from './inputDesk';
import { Library } from './library';
import { rehearse } from './rehearsal';
import { RigChecks } from './rigChecks';
import { ListeningDesk } from './listeningDesk';
import { NetworkDesk } from './networkDesk';
import { RigDesk } from './rigDesk';
import { provideServices } from './services';
import { SettingsDesk } from './settingsDesk';
import { DatabaseRefusal, openDatabase } from './storage/database';
import { DeviceRepository } from './storage/deviceRepository';
import { LibraryRepository } from './storage/libraryRepository';
import { RecordingRepository } from './storage/recordingRepository';
import { RigRepository } from './storage/rigRepository';
import { TakeRepository } from './storage/takeRepository';
import { TakeDesk } from './takes/takeDesk';

/** The setting that says that the takes of the demo were made. */
const TAKES_SEEDED = 'takes of the demo';
/** A hub that takes longer to begin is not waited for by the pages. */
const PLAYS_FIRST_MS = 500;

outliveReader();
const log = pino({ name: 'web', level: process.env.PUMICE_LOG ?? 'info' });
const environment = readEnvironment(process.env);
const tell = (message: FromChild) => process.connected && process.send?.(message);

/** Until everything stands there is nothing to put away; replaced below. */
let stop = async (): Promise<void> => process.exit(0);
process.on('message', (message: ToChild) => {
  if (message.kind === 'alive') tell({ kind: 'alive' });
  else void stop();
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
const { check } = new RigChecks();
const desk = new RigDesk(repository, (made) => (made ? editInHub(made) : loadIntoHub()), Date.now, (error) => log.warn({ err: error }, 'values, or the Stage, could not be written down; they are kept here and it is tried again'), check);
const inputs = new InputDesk(repository, new RecordingRepository(), environment.oscPort, () => link.send({ kind: 'settings', settings: inputs.settings }), Date.now);
const listening = new ListeningDesk(repository);
const networkMidi = new NetworkDesk(repository, environment.midiPort, () => link.send({ kind: 'network', settings: networkMidi.settings }));
const recording: SettingsDesk<RecordSettings> = new SettingsDesk(repository, 'record', recordSettingsSchema, DEFAULT_RECORD_SETTINGS, () => link.send({ kind: 'recordSettings', settings: recording.settings }));
const hands = new SettingsDesk<HandsProfile>(repository, 'hands', handsProfileSchema, FRESH_HANDS);
const recipes = new SettingsDesk<KeptRecipes>(repository, 'recipes', keptRecipesSchema, { recipes: [] });
const link = new HubLink(`ws://127.0.0.1:${environment.hubPort}/link`, process.env.PUMICE_LINK_TOKEN ?? '', log, {
  connected: (recorded) => {
    link.send({ kind: 'settings', settings: inputs.settings });
    link.send({ kind: 'network', settings: networkMidi.settings });
    link.send({ kind: 'recordSettings', settings: recording.settings });
    loadIntoHub();
    tellDevices();
    void takes.hubIsThere(recorded).catch((error: unknown) => log.warn({ err: error }, 'takes could not be looked at'));
  },
  take: (record) => takes.take(record),
  takeWants: (play, untilMs) => takes.player.more(play, untilMs),
  wantsAll: loadIntoHub,
  found: (rig, found) => void desk.takeUp(rig, found).catch((error: unknown) => log.warn({ err: error }, 'what arrived was not taken up')),
  // What was still on its way when another rig was opened is no value of that one, though its signals may be called the same.
  value: (signal, value) => void ((link.plays?.rig ?? desk.current.id) === desk.current.id && desk.remember(signal, value)),
  inputOf: (signal) => desk.current.document.signals.find(({ id }) => id === signal)?.input ?? '?',
});

const takes: TakeDesk = new TakeDesk(new TakeRepository(database), environment.dataFolder, (message) => link.send(message), log);

const devices: DeviceDesk = new DeviceDesk(
  repository,
  new DeviceRepository(),
  async () => {
    tellDevices();
    // The hub lets a device in before it is told that it has joined.
    await Promise.all([doors.setLan(devices.lan), link.obeyed()]);
  },
  Date.now,
);

/** From here the hub lets the same devices in as we do. */
function tellDevices(): void {
  link.send({ kind: 'devices', lan: devices.lan, devices: devices.leaves });
}

function loadIntoHub(): void {
  const { id, document, revision, stage } = desk.current;
  link.send({ kind: 'load', id, rig: document, revision, stage, values: desk.lastValues, ...link.asItStood(id) });
  void sendRecordings(document);
}

function editInHub(made: MadeEdit): void {
  const { edit } = made;
  const brought = edit.kind === 'change' ? edit.changes.flatMap(({ list, id }) => (list === 'signals' ? [id] : [])) : [];
  const { lastValues } = desk;
  const values = Object.fromEntries(brought.flatMap((id) => (lastValues[id] === undefined ? [] : [[id, lastValues[id]]])));
  link.send({ kind: 'edit', made, values });
  void sendRecordings(desk.current.document);
}

/** The two takes of the demo, once: whoever deletes them is rid of them. */
async function seedTakes(): Promise<void> {
  if ((await repository.setting(TAKES_SEEDED)) !== null) return;
  await repository.saveSetting(TAKES_SEEDED, 'yes');
  const document = nightFerry();
  void takes.seed(demoTakes(document, Date.now())).catch((error: unknown) => log.warn({ err: error }, 'the takes of the demo were not made'));
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
await seedTakes();
await inputs.open();
await networkMidi.open();
await recording.open();
await recipes.open();
await hands.open();
await devices.open();
const library = new Library(new LibraryRepository(), Date.now, check);
const authority = environment.https ? readAuthority(environment.dataFolder) : null;
const doorProblems = new Map<string, string>();
provideServices({
  environment,
  log,
  desk,
  inputs,
  networkMidi,
  listening,
  library,
  takes,
  recording,
  recipes,
  hands,
  handsFiles: new HandsFiles(import.meta.url),
  checkRig: check,
  devices,
  link,
  certificate: authority?.cert ?? null,
  network: () => ({ addresses: doors.addresses, problems: devices.lan ? [...doorProblems].filter(([address]) => !doors.addresses.includes(address)).map(([, sentence]) => sentence) : [] }),
});

const files = pageFiles(join(process.cwd(), '.next/static'));

const doors = new Doors(environment.port, authority, environment.lanAddresses, {
  request: receive,
  shut: (address, reason) => {
    const sentence = `Pumice cannot be reached at ${address}:${environment.port}: ${reason}`;
    doorProblems.set(address, sentence);
    log.warn(sentence);
  },
});

function receive(request: IncomingMessage, response: ServerResponse, door: Door): void {
  const secure = isSecure(request);
  if (!isOwnHost(request.headers.host, environment.port, namesAt(door))) return plainly(response, 403, 'Pumice answers to this computer only.');
  // What pages and route handlers may rely on is said here, whatever the request said.
  request.headers['x-forwarded-proto'] = secure ? 'https' : 'http';
  request.headers['x-pumice-address'] = request.socket.remoteAddress ?? '';
  setSecurityHeaders(request, response, environment.hubPort, secure);
  if (door.lan) {
    const device = devices.find(cookieOf(request.headers.cookie, DEVICE_COOKIE));
    const [path, query] = request.url!.split('?', 2);
    const passed = passage(request.method!, path!, device, authority !== null && !secure);
    if (passed.kind === 'go') {
      response.writeHead(302, { location: path === '/' && query ? `${passed.to}?${query}` : passed.to }).end();
      return;
    }
    if (passed.kind === 'refuse') {
      const problem = { code: 'forbidden', field: '', message: passed.sentence };
      response.writeHead(passed.status, { 'content-type': 'application/json' }).end(JSON.stringify({ problem }));
      return;
    }
  }
  files(request, response, () => void pages.then((answer) => answer(request, response)));
}

/** What draws the pages and answers their requests; its code alone takes a while to be read. */
async function preparePages(): Promise<(request: IncomingMessage, response: ServerResponse) => Promise<void>> {
  const { default: next } = await import('next');
  // Next would add an upgrade listener of its own to the server it is given; this one is never used.
  const app = next({ dev: false, dir: process.cwd(), httpServer: createServer() });
  // It would announce on the console what nobody who starts Pumice asked for.
  const say = console.log;
  console.log = () => undefined;
  await app.prepare();
  console.log = say;
  return app.getRequestHandler();
}

function plainly(response: ServerResponse, status: number, sentence: string): void {
  response.writeHead(status, { 'content-type': 'text/plain' }).end(`${sentence}\n`);
}

let stopping = false;
stop = async () => {
  if (stopping) return;
  stopping = true;
  link.stop();
  doors.close();
  await desk.flush();
  await database.close();
  log.info('stopped');
  process.exit(0);
};

const opened = doors.openOwn().catch((error: NodeJS.ErrnoException) =>
  fail(
    error.code === 'EADDRINUSE'
      ? `Port ${environment.port} is in use by another program: set PORT to a free one and start again.`
      : `Pumice cannot listen on port ${environment.port}: ${error.message}`,
  ),
);
/** Asked for before they are there, they are waited for. They come last: what is played needs the hub and its rig alone. */
const pages = opened.then(async () => {
  link.connect();
  await link.playsWithin(PLAYS_FIRST_MS);
  return preparePages();
});
await opened;
await doors.setLan(devices.lan);
await pages;
log.info({ port: environment.port, lan: doors.addresses }, 'web is listening');
tell({ kind: 'ready' });
if (!authority) void rehearse(`http://127.0.0.1:${environment.port}`, desk.current.document);
