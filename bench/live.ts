import { fork } from 'node:child_process';
import { WebSocket } from 'ws';
import { decodeFacts, decodeValues, encodeSamples, FRAME } from '../src/protocol/frames';
import { LIVE_VERSION, type ToClient } from '../src/protocol/live';
import { NamesBook } from '../src/protocol/names';
import { ClockOffset } from '../src/web/live/clockOffset';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { atRate, nowMs, sleep } from './pace';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';

/**
 * Finger to byte on loopback: 10 pages x 120 Hz move faders; one of them is watched closely. Measured from the page's
 * send to the message leaving the hub, and on to the arrival in a second page, against the round trip of a bare `ws`
 * echo in turns of the same run; idle, and while pages are loaded and the database is written.
 */
const PAGES = 10;
const RATE_HZ = 120;
const TURN_MS = 4000;
const TURNS = 3;

const PINGS = 30;
const PING_MS = 10;

const FADERS = ['wheelhouse.fog', 'wheelhouse.rust', 'wheelhouse.spray', 'wheelhouse.lamp', 'chart-table.tide', 'chart-table.depth'];

interface Page {
  socket: WebSocket;
  numberOf(signal: string): number;
  offset: ClockOffset;
}

function open(url: string): Promise<WebSocket> {
  const socket = new WebSocket(url, { perMessageDeflate: false });
  socket.binaryType = 'arraybuffer';
  return new Promise((resolve, reject) => socket.once('open', () => resolve(socket)).once('error', reject));
}

async function openPage(hubPort: number, surface: string, onFrame: (view: DataView) => void): Promise<Page> {
  const socket = await open(`ws://127.0.0.1:${hubPort}/live`);
  const names = new NamesBook();
  const offset = new ClockOffset();
  socket.on('message', (data, isBinary) => {
    if (isBinary) return onFrame(new DataView(data as ArrayBuffer));
    const message = JSON.parse(new TextDecoder().decode(data as ArrayBuffer)) as ToClient;
    if ('names' in message) names.learn(message.names);
    if (message.kind === 'pong') offset.add(message.pageTimeMs, nowMs(), message.hubTimeMs);
  });
  socket.send(JSON.stringify({ kind: 'hello', version: LIVE_VERSION, surface }));
  await waitFor('names', () => names.signals.size > 0);
  for (let i = 0; i < PINGS; i++) {
    socket.send(JSON.stringify({ kind: 'ping', pageTimeMs: nowMs() }));
    await sleep(PING_MS);
  }
  return { socket, numberOf: (signal) => names.signals.numberOf(signal)!, offset };
}

interface Times {
  toByte: number[];
  toPage: number[];
}

/** The hub under PAGES moving pages; the first page's finger is timed. */
async function measureHub(pumice: Pumice): Promise<Times> {
  const times: Times = { toByte: [], toPage: [] };
  const sentAt = new Map<number, number>();
  const onTheWay = new Map<number, number>();
  const key = (value: number) => Math.fround(value);
  const watcher = await openPage(pumice.hubPort, 'wheelhouse', (view) => {
    if (view.getUint8(0) !== FRAME.values) return;
    const frame = decodeValues(view)!;
    const value = key(frame.values[0]!);
    const sent = onTheWay.get(value);
    if (sent !== undefined) times.toPage.push(nowMs() - sent);
    onTheWay.delete(value);
  });
  watcher.socket.send(JSON.stringify({ kind: 'watchList', what: 'signals', add: [watcher.numberOf('wheelhouse.fog')], remove: [] }));
  let entered = 0;
  const monitor = await openPage(pumice.hubPort, 'wheelhouse', (view) => {
    if (view.getUint8(0) !== FRAME.facts) return;
    for (const fact of decodeFacts(view)!.facts) {
      // A message belongs to the sample of Fog that entered just before it.
      if (fact.direction === 'in') {
        if (fact.signal === monitor.numberOf('wheelhouse.fog')) entered = sentAt.get(key(fact.value)) ?? 0;
      } else if (fact.bytes[0] === 0xb2 && fact.bytes[1] === 21 && entered > 0) {
        times.toByte.push(fact.hubTimeMs - monitor.offset.toHub(entered));
        entered = 0;
      }
    }
  });
  monitor.socket.send(JSON.stringify({ kind: 'watch', watch: { monitor: true } }));
  const pages = await Promise.all(
    Array.from({ length: PAGES }, (_, i) => openPage(pumice.hubPort, FADERS[i % FADERS.length]!.split('.')[0]!, () => undefined)),
  );
  await sleep(200);

  // The timed finger moves 50 times a second, below the 60 pictures a second that a watcher gets, so that no picture
  // waits for its turn and what is measured is the path.
  const timed = atRate(50, TURN_MS, (i) => {
    const value = key(((i * 37) % 997) / 997);
    const sent = nowMs();
    sentAt.set(value, sent);
    onTheWay.set(value, sent);
    pages[0]!.socket.send(encodeSamples(i, 0, [{ signal: pages[0]!.numberOf('wheelhouse.fog'), value }]));
  });
  const others = atRate(RATE_HZ, TURN_MS, (i) => {
    for (let p = 1; p < PAGES; p++) {
      const signal = FADERS[p % FADERS.length]!;
      if (signal === 'wheelhouse.fog') continue;
      pages[p]!.socket.send(encodeSamples(i, 0, [{ signal: pages[p]!.numberOf(signal), value: ((i + p) % 120) / 120 }]));
    }
  });
  await Promise.all([timed, others]);
  await sleep(300);
  for (const { socket } of [...pages, watcher, monitor]) socket.close();
  return times;
}

/** The echo under the same traffic. */
async function measureEcho(port: number): Promise<number[]> {
  const roundTrips: number[] = [];
  const sockets = await Promise.all(Array.from({ length: PAGES }, () => open(`ws://127.0.0.1:${port}`)));
  sockets[0]!.on('message', (data) => {
    roundTrips.push(nowMs() - new DataView(data as ArrayBuffer).getFloat64(8, true));
  });
  const timed = atRate(50, TURN_MS, (i) => sockets[0]!.send(encodeSamples(i, nowMs(), [{ signal: 1, value: 0.5 }])));
  const others = atRate(RATE_HZ, TURN_MS, (i) => {
    for (let p = 1; p < PAGES; p++) sockets[p]!.send(encodeSamples(i, 0, [{ signal: 1, value: 0.5 }]));
  });
  await Promise.all([timed, others]);
  await sleep(100);
  for (const socket of sockets) socket.close();
  return roundTrips;
}

/** Starts the load; the function given back ends it and says how much it did. */
function load(pumice: Pumice): () => Promise<{ pages: number; edits: number }> {
  const child = fork('bench/load.ts', [pumice.url], { execArgv: ['--import', 'tsx'] });
  return async () => {
    child.send('how much');
    const done = await new Promise<{ pages: number; edits: number }>((resolve) => child.once('message', (message) => resolve(message as never)));
    child.disconnect();
    return done;
  };
}

async function measure(name: string, pumice: Pumice, echoPort: number, loaded: boolean): Promise<Figure[]> {
  const echo: number[] = [];
  const hub: Times = { toByte: [], toPage: [] };
  let note = '';
  for (let turn = 0; turn < TURNS; turn++) {
    const stop = loaded ? load(pumice) : null;
    echo.push(...(await measureEcho(echoPort)));
    const times = await measureHub(pumice);
    hub.toByte.push(...times.toByte);
    hub.toPage.push(...times.toPage);
    if (stop) {
      const { pages, edits } = await stop();
      note = ` (${pages} pages, ${edits} edits a turn)`;
    }
  }
  console.log(`${name}${note}: ${echo.length} echoes, ${hub.toByte.length} messages, ${hub.toPage.length} arrivals`);
  return [0.5, 0.99].flatMap((share) => {
    const floor = percentile(echo, share);
    const label = `p${share * 100}`;
    const aim = share === 0.99 ? aimAtRatio(2) : null;
    return [
      figure(`${name}: finger to byte, ${label}`, percentile(hub.toByte, share), 'ms', floor, aim, 'lower'),
      figure(`${name}: finger to second page, ${label}`, percentile(hub.toPage, share), 'ms', floor, aim, 'lower'),
    ];
  });
}

const pumice = await Pumice.fresh();
if ((await pumice.start()) !== null) throw new Error(pumice.output);
await waitFor('the hub', async () => (await pumice.health()).ok);
const echoProcess = fork('bench/echo.ts', { execArgv: ['--import', 'tsx'] });
const echoPort = await new Promise<number>((resolve) => echoProcess.once('message', (port) => resolve(port as number)));

/** How long pages are without a hub that was killed. */
async function measureRestarts(): Promise<Figure[]> {
  const times: number[] = [];
  for (let i = 0; i < 5; i++) {
    const { hub } = await pumice.health();
    const killedMs = nowMs();
    process.kill(hub.pid, 'SIGKILL');
    await waitFor('the new hub', async () => {
      const page = await openPage(pumice.hubPort, 'wheelhouse', () => undefined);
      const ready = page.numberOf('wheelhouse.fog') >= 0;
      page.socket.close();
      return ready;
    }, 25_000, 10);
    times.push(nowMs() - killedMs - PINGS * PING_MS);
    await waitFor('health', async () => (await pumice.health()).ok);
  }
  return [figure('hub killed: until a page has it again, worst of 5', Math.max(...times), 'ms', null, aimAt(1000), 'lower')];
}

const restarts = await measureRestarts();
const figures = [...(await measure('idle', pumice, echoPort, false)), ...(await measure('loaded', pumice, echoPort, true))];
echoProcess.disconnect();
await pumice.stop();
report('live', [...figures, ...restarts]);
process.exit(0);
