import { fork } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { chromium, type Browser, type CDPSession } from '@playwright/test';
import { WebSocket } from 'ws';
import { RIG_FORMAT, RIG_VERSION, type RigDocument, type RigMapping, type RigSignal } from '../src/core/rig/document';
import { voiceRig } from '../src/core/engine/voices/testVoices';
import { decodeOsc } from '../src/net/osc/codec';
import { encodeSamples } from '../src/protocol/frames';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { TestClient } from '../test/helpers/client';
import type { FingersWork } from './fingers';
import { atRate, nowMs, sleep } from './pace';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';

/**
 * The play page: how much script it loads and when it can first be touched on a slow network; ten surfaces under ten
 * fingers each, whether anything is lost and how long a finger takes to its byte beside a bare echo under the same
 * traffic; how soon a movement is said, and drawn with a hundred controls, beside a page with one box; and how soon a page shows what was
 * designed in another.
 */
const SURFACES = 10;
const FINGERS = 10;
const RATE_HZ = 120;
const PLAY_MS = 60_000;
const LOADS = 7;
const MOVES = 300;
const DESIGNS = 30;
const FINGERS_APART = 100;
/** No whole number of frames, so that moves fall anywhere between two. */
const MOVES_APART_MS = 23;

/**
 * What Chromium's tools call Fast 4G: 9 Mbit/s down and 1.5 up, nine tenths of which are used, and 60 ms times 2.75 for
 * each request (their source, from memory). The emulation does not slow the live line, which is a web socket.
 */
const FAST_4G = { offline: false, downloadThroughput: (9e6 / 8) * 0.9, uploadThroughput: (1.5e6 / 8) * 0.9, latency: 60 * 2.75 };

const surfaceId = (s: number) => `deck-${s}`;

/** One field over all of a tablet, of five rows. */
const FIELD: RigDocument['surfaces'][number] = {
  id: 'field',
  name: 'Field',
  width: 1180,
  height: 820,
  pages: [{ id: 'one', name: 'One', controls: [{ id: 'ribs', kind: 'pitchField', label: 'Ribs', frame: { x: 0, y: 0, width: 1180, height: 820 }, signals: {}, stream: 'ribs', rows: 5, low: 36, span: 24, interval: 5, guides: { root: 0, mode: 'major' }, strikeFrom: 'fixed', pressureFrom: 'travel', across: false }] }],
};

/** Ten surfaces of ten faders, each on a controller of its own, one of them as OSC to this process; and one of a hundred. */
function rigOf(oscPort: number): RigDocument {
  const surfaces = [...Array.from({ length: SURFACES }, (_, s) => ({ id: surfaceId(s), count: FINGERS })), { id: 'crowd', count: 100 }];
  const signals = surfaces.flatMap(({ id, count }) =>
    Array.from({ length: count }, (_, f): RigSignal[] => [
      { id: `${id}.${f}`, name: `Rope ${f}`, input: id, kind: 'continuous', unit: 'unit', range: [0, 1] },
      { id: `${id}.${f}.touch`, name: `Rope ${f} touch`, input: id, kind: 'gate', unit: 'unit', range: [0, 1] },
    ]).flat(),
  );
  const mappings = Array.from({ length: SURFACES * FINGERS }, (_, i): RigMapping => {
    const [s, f] = [Math.floor(i / FINGERS), i % FINGERS];
    const base = { id: `m-${i}`, name: `Mapping ${i}`, on: true, signal: `${surfaceId(s)}.${f}`, shaping: {} };
    return i === 0
      ? { ...base, output: 'here', message: { kind: 'osc', address: '/finger', arguments: [{ type: 'f', value: 'value' }], range: [0, 1] } }
      : { ...base, output: 'weather', message: { kind: 'controlChange', channel: 1 + s, controller: 20 + f, range: [0, 127] } };
  });
  return {
    format: RIG_FORMAT,
    version: RIG_VERSION,
    meter: [4, 4],
    members: [],
    name: 'Ten decks',
    tempoBpm: 120,
    inputs: [...surfaces.map(({ id }) => ({ id, name: id, kind: 'surface' as const, surface: id })), { id: 'field', name: 'Field', kind: 'surface', surface: 'field' }],
    signals,
    derived: [],
    mappings,
    outputs: [
      { id: 'weather', name: 'Weather', kind: 'standIn', receiver: 'weather' },
      { id: 'here', name: 'Here', kind: 'osc', host: '127.0.0.1', port: oscPort, receiver: 'weather' },
    ],
    receivers: [{ id: 'weather', name: 'Weather', about: '', bendRangeSemitones: 2 }],
    surfaces: [FIELD, ...surfaces.map(({ id, count }) => ({
      id,
      name: id,
      width: 1180,
      height: 820,
      pages: [{ id: 'one', name: 'One', controls: Array.from({ length: count }, (_, f) => ({ id: `rope-${f}`, kind: 'fader' as const, label: `Rope ${f}`, frame: { x: (f % 20) * 58, y: Math.floor(f / 20) * 160, width: 54, height: 150 }, signals: { value: `${id}.${f}`, touch: `${id}.${f}.touch` } })) }],
    }))],
    scenes: [],
    streams: [{ id: 'ribs', name: 'Ribs', input: 'field' }],
    voiceMappings: [{ ...voiceRig({}).voiceMappings[0]!, stream: 'ribs' }],
    scales: [],
  };
}

const fingers = (work: Omit<FingersWork, 'fingers' | 'rateHz' | 'forMs'>): Promise<number> => {
  const child = fork('bench/fingers.ts', { execArgv: ['--import', 'tsx'] });
  child.send({ ...work, fingers: FINGERS, rateHz: RATE_HZ, forMs: PLAY_MS } satisfies FingersWork);
  return new Promise((resolve) =>
    child.once('message', (sent) => {
      child.disconnect();
      resolve(sent as number);
    }),
  );
};

/** The round trip of one finger through a bare echo while ninety-nine others play it. */
async function measureEcho(port: number): Promise<number[]> {
  const url = `ws://127.0.0.1:${port}`;
  const times: number[] = [];
  const socket = new WebSocket(url, { perMessageDeflate: false });
  await new Promise((resolve) => socket.once('open', resolve));
  socket.binaryType = 'arraybuffer';
  socket.on('message', (data) => times.push(nowMs() - new DataView(data as ArrayBuffer).getFloat64(8, true)));
  const others = fingers({ url, surfaces: Array.from({ length: SURFACES }, (_, s) => surfaceId(s)), echo: true });
  await sleep(1500);
  await atRate(RATE_HZ, PLAY_MS - 3000, (i) => socket.send(encodeSamples(i, nowMs(), [{ signal: 1, value: 0.5 }])));
  await others;
  socket.close();
  return times;
}

/** Ten surfaces under ten fingers: what was sent, what arrived and left, and how long one finger took to its byte. */
async function measurePlaying(pumice: Pumice, arrivals: (listener: (value: number) => void) => void): Promise<{ sent: number; entered: number; left: number; toByteMs: number[] }> {
  const bench = await TestClient.open(pumice.hubPort);
  bench.watch({ activity: true });
  const page = await TestClient.open(pumice.hubPort, surfaceId(0));
  await sleep(1200);
  bench.messages.length = 0;
  const toByteMs: number[] = [];
  const sentAt = new Map<number, number>();
  arrivals((value) => {
    const at = sentAt.get(value);
    if (at !== undefined) toByteMs.push(nowMs() - at);
    sentAt.delete(value);
  });
  const others = fingers({ url: `ws://127.0.0.1:${pumice.hubPort}/live`, surfaces: Array.from({ length: SURFACES - 1 }, (_, s) => surfaceId(s + 1)), echo: false });
  let sent = 0;
  await sleep(1500);
  await atRate(RATE_HZ, PLAY_MS - 3000, (i) => {
    const value = Math.fround(((i * 37) % 9973) / 9973);
    sentAt.set(value, nowMs());
    page.move(`${surfaceId(0)}.0`, value);
    for (let f = 1; f < FINGERS; f++) page.move(`${surfaceId(0)}.${f}`, (i % 128) / 127);
    sent += FINGERS;
  });
  sent += await others;
  await sleep(1500);
  const activities = bench.messages.flatMap((message) => (message.kind === 'activity' ? [message.activity] : []));
  const sum = (key: 'in' | 'out') => activities.reduce((total, activity) => total + activity[key], 0);
  bench.close();
  page.close();
  return { sent, entered: sum('in'), left: sum('out'), toByteMs };
}

/** Script that is loaded, kB over the wire; ms until a finger that lies there is heard later, and until one is answered; cold, at Fast 4G. */
async function measureLoad(browser: Browser, url: string, takes: string, ready: string): Promise<{ scriptKb: number; takesMs: number; readyMs: number }> {
  const context = await browser.newContext({ viewport: { width: 1180, height: 820 }, hasTouch: true });
  const page = await context.newPage();
  const session: CDPSession = await context.newCDPSession(page);
  await session.send('Network.enable');
  await session.send('Network.setCacheDisabled', { cacheDisabled: true });
  await session.send('Network.emulateNetworkConditions', FAST_4G);
  const scripts = new Set<string>();
  let bytes = 0;
  session.on('Network.responseReceived', ({ requestId, type }) => type === 'Script' && scripts.add(requestId));
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => (bytes += scripts.has(requestId) ? encodedDataLength : 0));
  const began = nowMs();
  await page.goto(url, { waitUntil: 'commit' });
  // Looked for on every frame: waiting for a selector looks seldom after a while.
  const until = async (selector: string): Promise<number> => {
    await page.waitForFunction((it) => document.querySelector(it) !== null, selector, { polling: 'raf' });
    return nowMs() - began;
  };
  const takesMs = await until(takes);
  const readyMs = await until(ready);
  await page.waitForLoadState('networkidle');
  await context.close();
  return { scriptKb: bytes / 1000, takesMs, readyMs };
}

/**
 * From the event of a moved finger to the end of the frame that shows it, ms, and whether what it moves had been put in
 * its new place before that frame. `box` says what to look at: of several fingers one each.
 */
async function measureDrawing(browser: Browser, url: string, at: { x: number; y: number }, box: string, fingers = 1): Promise<{ toFrameMs: number[]; late: number }> {
  const page = await (await browser.newContext({ viewport: { width: 1180, height: 820 }, hasTouch: true })).newPage();
  await page.goto(url);
  await page.waitForSelector(box, { state: 'attached' });
  await sleep(1500);
  await page.evaluate(`
    window.times = []; window.late = 0;
    const moved = [...document.querySelectorAll(${JSON.stringify(box)})].slice(0, ${fingers});
    const before = moved.map(() => '');
    let waits = false;
    addEventListener('pointermove', ({ timeStamp }) => {
      if (waits) return;
      waits = true;
      requestAnimationFrame(() => {
        waits = false;
        moved.forEach(({ style: { cssText } }, i) => {
          if (cssText === before[i]) window.late++;
          before[i] = cssText;
        });
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => window.times.push(performance.now() - timeStamp);
        port2.postMessage(null);
      });
    });
  `);
  const session = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove', y: number) => session.send('Input.dispatchTouchEvent', { type, touchPoints: Array.from({ length: fingers }, (_, id) => ({ id, x: at.x + id * FINGERS_APART, y })) });
  await touch('touchStart', at.y);
  for (let i = 0; i < MOVES; i++) {
    await touch('touchMove', at.y - 1 - (i % 90));
    await sleep(20);
  }
  const toFrameMs = await page.evaluate<number[]>('window.times');
  const late = await page.evaluate<number>('window.late');
  await page.context().close();
  return { toFrameMs, late };
}

/** From a finger's move to the page having said it, ms, and to the `pointermove` that browsers keep for the next frame. */
async function measureSaying(browser: Browser, url: string, at: { x: number; y: number }): Promise<{ saidMs: number[]; moveMs: number[] }> {
  const page = await (await browser.newContext({ viewport: { width: 1180, height: 820 }, hasTouch: true })).newPage();
  await page.addInitScript(`
    window.said = []; window.moves = [];
    let movedMs = null;
    const { send } = WebSocket.prototype;
    WebSocket.prototype.send = function (data) {
      send.call(this, data);
      if (typeof data !== 'string' && movedMs !== null) window.said.push(performance.now() - movedMs);
      movedMs = null;
    };
    for (const kind of ['pointerrawupdate', 'pointermove']) addEventListener(kind, ({ timeStamp }) => (movedMs = timeStamp), true);
    addEventListener('pointermove', ({ timeStamp }) => window.moves.push(performance.now() - timeStamp), true);
  `);
  await page.goto(url);
  await page.waitForSelector('[data-line="open"]');
  const session = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove', y: number) => session.send('Input.dispatchTouchEvent', { type, touchPoints: [{ id: 1, x: at.x, y }] });
  await touch('touchStart', at.y);
  for (let i = 0; i < MOVES; i++) {
    void touch('touchMove', at.y - 1 - (i % 90));
    await sleep(MOVES_APART_MS);
  }
  const saidMs = await page.evaluate<number[]>('window.said');
  const moveMs = await page.evaluate<number[]>('window.moves');
  await page.context().close();
  return { saidMs, moveMs };
}

/** From an edit of a surface to the page that plays it showing it, ms. */
async function measureDesigned(browser: Browser, pumice: Pumice, rig: string): Promise<number[]> {
  const page = await (await browser.newContext()).newPage();
  await page.goto(`${pumice.url}/play/deck-0`);
  await page.waitForSelector('[data-line="open"]');
  const { document } = (await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: RigDocument };
  const deck = document.surfaces.find(({ id }) => id === 'deck-0');
  const [one] = deck!.pages;
  const times: number[] = [];
  for (let i = 0; i < DESIGNS; i++) {
    const to = { ...deck!, pages: [{ ...one!, controls: one!.controls.map((control) => ({ ...control, label: `Rope ${i}` })) }] };
    const began = nowMs();
    await pumice.post(`/api/rigs/${rig}/edits`, { edit: { kind: 'change', changes: [{ list: 'surfaces', id: deck!.id, to }] } });
    await page.waitForSelector(`[data-control="rope-0"][aria-label="Rope ${i}"]`);
    times.push(nowMs() - began);
  }
  await page.context().close();
  return times;
}

const udp = createSocket('udp4');
await new Promise<void>((resolve) => udp.bind(0, '127.0.0.1', resolve));
let heard: (value: number) => void = () => undefined;
udp.on('message', (packet) => {
  const [value] = decodeOsc(packet)[0]?.arguments ?? [];
  if (typeof value === 'number') heard(Math.fround(value));
});

const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);
const { answer } = await pumice.post('/api/rigs', rigOf(udp.address().port));
const { id: rigId } = answer as unknown as { id: string };
await pumice.post(`/api/rigs/${rigId}/open`, {});
const echoProcess = fork('bench/echo.ts', { execArgv: ['--import', 'tsx'] });
const echoPort = await new Promise<number>((resolve) => echoProcess.once('message', (port) => resolve(port as number)));
/** The least that a page can be: one box that follows the finger. */
const plain = createServer((_request, response) =>
  response.writeHead(200, { 'content-type': 'text/html' }).end('<!doctype html><div id="box" style="width:50px;height:50px;background:#888;touch-action:none"></div><script>addEventListener("pointermove",(e)=>{document.getElementById("box").style.transform="translateY("+e.clientY+"px)"});document.body.style.touchAction="none"</script>'),
);
await new Promise<void>((resolve) => plain.listen(0, '127.0.0.1', resolve));
const plainUrl = `http://127.0.0.1:${(plain.address() as AddressInfo).port}`;

const figures: Figure[] = [];
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium' });
const loads: number[] = [];
const taking: number[] = [];
const plainLoads: number[] = [];
let scriptKb = 0;
for (let i = 0; i < LOADS; i++) {
  const load = await measureLoad(browser, `${pumice.url}/play/deck-0`, '[data-control]', '[data-line="open"]');
  loads.push(load.readyMs);
  taking.push(load.takesMs);
  scriptKb = Math.max(scriptKb, load.scriptKb);
  plainLoads.push((await measureLoad(browser, plainUrl, '#box', '#box')).readyMs);
}
figures.push(figure('play page: script, compressed', scriptKb, 'kB', null, aimAt(200), 'lower'));
figures.push(figure('play page: until it takes a finger, to be heard when its scripts are there, at Fast 4G, p50', percentile(taking, 0.5), 'ms', percentile(plainLoads, 0.5), null, 'lower'));
figures.push(figure('play page: to the first touch at Fast 4G, p50', percentile(loads, 0.5), 'ms', percentile(plainLoads, 0.5), aimAtRatio(2.5), 'lower'));
figures.push(figure('play page: to the first touch at Fast 4G, slowest', Math.max(...loads), 'ms', Math.max(...plainLoads), aimAtRatio(2.5), 'lower'));

const crowd = await measureDrawing(browser, `${pumice.url}/play/crowd`, { x: 27, y: 110 }, '[data-control="rope-0"] .water');
const field = await measureDrawing(browser, `${pumice.url}/play/field`, { x: 60, y: 400 }, '[data-control="ribs"] [class*="glow"]:not([class*="glows"])', FINGERS);
const one = await measureDrawing(browser, plainUrl, { x: 27, y: 110 }, '#box');
for (const share of [0.5, 0.99]) figures.push(figure(`100 controls: event to the end of its frame, p${share * 100}`, percentile(crowd.toFrameMs, share), 'ms', percentile(one.toFrameMs, share), share === 0.99 ? aimAtRatio(1.6) : null, 'lower'));
figures.push(figure('100 controls: moves not in the next frame', crowd.late, 'moves', one.late, aimAt(0), 'lower'));
for (const share of [0.5, 0.99]) figures.push(figure(`a pitch field under ${FINGERS} fingers: event to the end of its frame, p${share * 100}`, percentile(field.toFrameMs, share), 'ms', percentile(one.toFrameMs, share), null, 'lower'));
figures.push(figure(`a pitch field under ${FINGERS} fingers: moves not in the next frame`, field.late, 'moves', one.late, aimAt(0), 'lower'));
const { saidMs, moveMs } = await measureSaying(browser, `${pumice.url}/play/deck-0`, { x: 27, y: 110 });
for (const share of [0.5, 0.99]) figures.push(figure(`a finger: from its move to the page having said it, beside the browser's own event of the next frame, p${share * 100}`, percentile(saidMs, share), 'ms', percentile(moveMs, share), null, 'lower'));
const designed = await measureDesigned(browser, pumice, rigId);
for (const share of [0.5, 0.99]) figures.push(figure(`designed in one page, shown in another, p${share * 100}`, percentile(designed, share), 'ms', null, aimAt(1000), 'lower'));
await browser.close();

const echo = await measureEcho(echoPort);
const playing = await measurePlaying(pumice, (listener) => (heard = listener));
figures.push(figure('10 surfaces x 10 fingers x 120 Hz: samples sent', playing.sent, 'samples', null, null, 'higher'));
figures.push(figure('10 surfaces x 10 fingers x 120 Hz: not taken in', playing.sent - playing.entered, 'samples', null, aimAt(0), 'lower'));
for (const share of [0.5, 0.99]) figures.push(figure(`10 surfaces x 10 fingers x 120 Hz: finger to byte, p${share * 100}`, percentile(playing.toByteMs, share), 'ms', percentile(echo, share), share === 0.99 ? aimAtRatio(2) : null, 'lower'));
console.log(`${echo.length} echoes, ${playing.toByteMs.length} bytes of the timed finger, ${playing.left} messages left`);

echoProcess.disconnect();
plain.close();
udp.close();
await pumice.stop();
report('play', figures);
process.exit(0);
