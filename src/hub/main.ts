import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { pino } from 'pino';
import { outliveReader } from '../net/noReader';
import { WebSocketServer } from 'ws';
import { readAuthority } from '../net/certificate';
import { Doors, isSecure, type Door } from '../net/doors';
import { hashToken } from '../net/token';
import { CLOSED_NOT_JOINED, cookieOf, DEVICE_COOKIE, type DeviceLeave } from '../protocol/devices';
import { readEnvironment } from '../protocol/environment';
import { defaultInputSettings } from '../protocol/inputSettings';
import { LIMITS } from '../protocol/limits';
import type { MadeEdit } from '../protocol/madeEdit';
import { isOwnHost, isOwnOrigin, namesAt } from '../protocol/origin';
import { openSoundingFile } from './outputs/soundingFile';
import { LentPorts } from './outputs/lentPorts';
import { opener } from './outputs/open';
import { OutputTests } from './outputs/tests';
import { SoundingBook } from './outputs/soundingBook';
import type { FromChild, ToChild } from '../protocol/supervision';
import { Clock } from './clock';
import { giveCompilerRoom } from './compilerRoom';
import { Inputs } from './inputs';
import type { Outputs } from './outputs/outputs';
import { Player } from './player';
import { comeFirst } from './priority';
import { NetworkMidi } from './network/networkMidi';
import { NativePorts } from './ports/nativePorts';
import { RecordControl, recordWorld } from './recordControl';
import { Recorder } from './recorder';
import { Rounds } from './rounds';
import { Session } from './session';
import { WebLink } from './webLink';

/** Ticks of the engine: 250 a second. */
const TICK_MS = 4;
const ACTIVITY_MS = 500;
/** What is recorded is handed over so often: all that a crash can cost. */
const RECORD_MS = 500;
/** A page that is silent for between one and two of these is gone. */
const ALIVE_MS = 1000;
const LAST_FRAME_MS = 40;
/** So often what the ensemble does is shown. */
const ENSEMBLE_MS = 50;

giveCompilerRoom();
// Before any thread is started: each has the priority of the one that starts it.
comeFirst();
outliveReader();
const log = pino({ name: 'hub', level: process.env.PUMICE_LOG ?? 'info' });
const environment = readEnvironment(process.env);
const linkToken = process.env.PUMICE_LINK_TOKEN;
const tell = (message: FromChild) => process.connected && process.send?.(message);

const soundingFile = openSoundingFile(environment.dataFolder);
if (soundingFile.problem) log.warn(soundingFile.problem);
const clock: Clock = new Clock(TICK_MS, () => player.tick());
const ports: NativePorts = new NativePorts(log, () => {
  inputs.portsChanged();
  showOutputs();
});
const lent = new LentPorts(showOutputs);
const network: NetworkMidi = new NetworkMidi(log, environment.lanAddresses, {
  peerOpened: (id, name, address) => inputs.network.opened(id, name, address),
  peerClosed: (id) => inputs.network.gone(id),
  message: (id, bytes, timeMs) => inputs.network.heard(id, bytes, timeMs),
  changed: showOutputs,
});
const player: Player = new Player(
  new SoundingBook(soundingFile.store),
  { pending: (pending, dueMs) => clock.run(pending, dueMs), introduced: showIntroduction, recalled: onRecall, outputs: showOutputs },
  opener(ports, lent, network),
);
const recorder: Recorder = new Recorder(
  () => player.rigId,
  (record) => links.forEach((link) => link.take(record)),
  showRecording,
);
const recordControl: RecordControl = new RecordControl(recorder, recordWorld(() => player.song.now, showRecording));
player.door.journal = {
  hear(event, engine) {
    // First what may begin a take, so that the event is in it.
    recordControl.hear(event, engine);
    recorder.hear(event, engine);
  },
};
player.door.onTransport = (kind) => recordControl.transport(kind);
player.onTake = { wants: (play, untilMs) => links.forEach((link) => link.wantTake(play, untilMs)), changed: showPlaying, punch: (isIn) => recordControl.punch(isIn) };
const outputTests = new OutputTests(player.outputs);
const outputs: Outputs = { ports, lent, network, tests: outputTests };
const sessions = new Set<Session>();
const links = new Set<WebLink>();
const inputs: Inputs = new Inputs(player, log, ports, {
  found: (found) => {
    for (const link of links) link.tell(found);
  },
  scene: (scene) => void player.recall(scene),
  record: (does) => void recordControl.does(does === 'toggle' ? (recordControl.state.take === null && recordControl.state.counting === null ? 'begin' : 'end') : does),
  introduction: showIntroduction,
  heldBack: () => [...sessions].flatMap(({ heldBack }) => heldBack),
});

const options = { noServer: true, perMessageDeflate: false } as const;
const clientServer = new WebSocketServer({ ...options, maxPayload: LIMITS.liveFrameBytes });
const linkServer = new WebSocketServer({ ...options, maxPayload: LIMITS.linkFrameBytes });

/** The joined devices, by the hash of their token. */
let leaves = new Map<string, DeviceLeave>();

const doors = new Doors(environment.hubPort, environment.https ? readAuthority(environment.dataFolder) : null, environment.lanAddresses, {
  // Pages ask here whether the hub is back before they open a socket.
  request: ({ url }, response) => void (url === '/here' ? response.writeHead(204, { connection: 'close' }).end() : response.writeHead(426, { 'content-type': 'text/plain' }).end('This is the live line of Pumice; open the pages at its other port.\n')),
  upgrade: enter,
  shut: (address, reason) => log.warn({ address, reason }, 'the live line cannot be reached from there'),
});

function enter(request: IncomingMessage, socket: Duplex, head: Buffer, door: Door): void {
  socket.on('error', () => socket.destroy());
  const { headers, url } = request;
  const names = namesAt(door);
  if (!isOwnHost(headers.host, environment.hubPort, names) || !isOwnOrigin(headers.origin, environment.port, names)) return refuse(socket, 403);
  if (url === '/link') {
    if (door.lan || !linkToken || headers['x-pumice-link'] !== linkToken) return refuse(socket, 403);
    linkServer.handleUpgrade(request, socket, head, (webSocket) => {
      const link = new WebLink(webSocket, player, recorder, log, { loaded: onLoad, settings: (settings) => void inputs.set(settings), recordings: (recordings) => inputs.replays.setRecordings(recordings), network: (settings) => void network.set(settings), devices: setDevices, recordSettings: (settings) => recordControl.set(settings) });
      links.add(link);
      recorder.sendWaiting();
      webSocket.on('close', () => links.delete(link));
    });
  } else if (url === '/live') {
    // A token that went in the clear is nobody's: with TLS there is a secure way, and the cookie is marked for it.
    const inTheClear = environment.https && !isSecure(request);
    const token = door.lan && !inTheClear ? cookieOf(headers.cookie, DEVICE_COOKIE) : null;
    const device = token === null ? null : (leaves.get(hashToken(token)) ?? null);
    // A page cannot see why it was refused, but it can see why it was closed.
    if (door.lan && !device) return clientServer.handleUpgrade(request, socket, head, (webSocket) => webSocket.close(CLOSED_NOT_JOINED, 'join first'));
    if (isFull(device)) return refuse(socket, 503);
    clientServer.handleUpgrade(request, socket, head, (webSocket) => {
      (request.socket as import('node:net').Socket).setNoDelay(true);
      const session = new Session(webSocket, player, inputs, outputs, recordControl, log, tellSurfaces, device);
      sessions.add(session);
      // An oversized or broken frame ends in an error event; the close that follows does the tidying.
      webSocket.on('error', (error) => log.warn({ code: (error as NodeJS.ErrnoException).code }, `live line: ${error.message}`));
      webSocket.on('close', () => {
        sessions.delete(session);
        session.close();
        tellSurfaces();
      });
    });
  } else refuse(socket, 404);
}

/** Whether there is no room for one more: devices leave some for the host, and none takes that of the others. */
function isFull(device: DeviceLeave | null): boolean {
  if (!device) return sessions.size >= LIMITS.sessions;
  const ofDevices = [...sessions].filter((session) => session.device);
  return ofDevices.length >= LIMITS.sessions - LIMITS.sessionsOfHost || ofDevices.filter((session) => session.device!.id === device.id).length >= LIMITS.sessionsPerDevice;
}

/** Who may come in from now on; whoever is in and may not any more is out. */
function setDevices(lan: boolean, devices: readonly DeviceLeave[]): void {
  leaves = new Map(devices.map((device) => [device.tokenHash, device]));
  for (const session of sessions) {
    if (!session.device) continue;
    const device = leaves.get(session.device.tokenHash);
    if (device) session.give(device);
    else session.expel();
  }
  void doors.setLan(lan);
}

function refuse(socket: Duplex, status: number): void {
  socket.end(`HTTP/1.1 ${status} Refused\r\nConnection: close\r\n\r\n`);
}

function onLoad(made?: MadeEdit): void {
  inputs.rigChanged();
  for (const session of sessions) session.rigChanged(made);
  // A page that is told a second later takes what was just switched on for silenced by a scene.
  if (player.shown.switched()) for (const session of sessions) session.showMappingStates();
}

function showIntroduction(): void {
  for (const session of sessions) session.showIntroduction();
}

function onRecall(scene: string): void {
  // A take that a scene begins or ends does so between two events, never in the middle of one; and then it is known how all of it stands.
  setImmediate(() => {
    recordControl.recalled(scene);
    for (const link of links) link.sayStanding();
  });
  for (const session of sessions) {
    session.showPage();
    session.showMappingStates();
  }
}

/** How outputs are, to whoever watches them; soon, for what changes together is said once. */
let outputsSoon = false;
function showOutputs(): void {
  if (outputsSoon) return;
  outputsSoon = true;
  setImmediate(() => {
    outputsSoon = false;
    for (const session of sessions) session.showOutputs();
  });
}

function showRecording(): void {
  for (const session of sessions) session.showRecording();
}

function showPlaying(): void {
  for (const session of sessions) session.showPlaying();
}

function tellSurfaces(): void {
  const playing: Record<string, number> = {};
  for (const { surface } of sessions) if (surface) playing[surface] = (playing[surface] ?? 0) + 1;
  const devices = [...new Set([...sessions].flatMap(({ device }) => (device ? [device.id] : [])))];
  for (const session of sessions) if (session.watcher.activity) session.send({ kind: 'surfaces', playing, devices });
}

setInterval(() => {
  inputs.sayLoops();
  for (const link of links) link.sayStanding();
  const { p50Ms, p99Ms } = player.outputs.delay.take();
  const activity = { in: player.incoming.samples, out: player.outputs.messagesOut, delayP50Ms: p50Ms, delayP99Ms: p99Ms };
  player.incoming.samples = player.outputs.messagesOut = 0;
  for (const session of sessions) if (session.watcher.activity) session.send({ kind: 'activity', activity });
  for (const session of sessions) session.showOutputs();
  if (recorder.state.take !== null || recorder.state.waiting > 0) showRecording();
  if (![...sessions].some(({ watcher }) => watcher.inputs)) return;
  const { state } = inputs;
  for (const session of sessions) if (session.watcher.inputs) session.send({ kind: 'inputs', inputs: state });
}, ACTIVITY_MS);

setInterval(() => recorder.flush(), RECORD_MS);

setInterval(() => {
  const transport = player.song.news();
  if (transport) {
    for (const link of links) link.sayStanding();
    for (const session of sessions) session.showTransport(transport);
  }
  if (![...sessions].some(({ watcher }) => watcher.ensemble)) return;
  const members = player.shown.members(false);
  for (const session of sessions) if (session.watcher.ensemble) session.showMembers(members);
}, ENSEMBLE_MS);

const rounds = new Rounds(ALIVE_MS);
setInterval(() => {
  const inTime = rounds.begin();
  for (const session of sessions) {
    if (inTime) session.checkAlive();
    session.showDelays();
    session.showMappingStates();
  }
}, ALIVE_MS);

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  inputs.close();
  outputTests.endAll();
  player.stop();
  recorder.end();
  const portsClosed = Promise.all([ports.close(), network.close()]);
  // Whoever watches still sees the ends of the notes.
  await new Promise((resolve) => setTimeout(resolve, LAST_FRAME_MS));
  for (const socket of [...clientServer.clients, ...linkServer.clients]) socket.close(1001, 'Pumice is stopping');
  await Promise.all([clock.stop(), portsClosed]);
  doors.close();
  soundingFile.close();
  log.info('stopped');
  process.exit(0);
}

process.on('message', (message: ToChild) => {
  if (message.kind === 'alive') tell({ kind: 'alive' });
  else void stop();
});
// The supervisor died: nobody would restart or stop us any more.
process.on('disconnect', () => void stop());
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => undefined);

function fail(sentence: string): never {
  tell({ kind: 'fatal', sentence });
  log.error(sentence);
  process.exit(1);
}

await inputs.set(defaultInputSettings(environment.oscPort));
const [oscPort] = inputs.osc.portStates;
// The port that was asked for by name must be free; others, set on the Inputs screen, say there that they are not.
if (oscPort?.problem) fail(`${oscPort.problem.replace(/:.*/, '')}: set PUMICE_OSC_PORT to a free one and start again.`);
ports.start();
await doors.openOwn().catch((error: NodeJS.ErrnoException) =>
  fail(
    error.code === 'EADDRINUSE'
      ? `Port ${environment.hubPort} is in use by another program: set PUMICE_HUB_PORT to a free one and start again.`
      : `The hub cannot listen on port ${environment.hubPort}: ${error.message}`,
  ),
);
log.info({ port: environment.hubPort }, 'hub is listening');
tell({ kind: 'ready' });
