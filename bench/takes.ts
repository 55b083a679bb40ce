import { fork } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { chromium } from '@playwright/test';
import { WebSocket } from 'ws';
import { compile } from '../src/core/engine/plan';
import { LogWriter } from '../src/core/takes/log';
import type { RigDocument } from '../src/core/rig/document';
import { decodeOsc } from '../src/net/osc/codec';
import { voiceEvent } from '../src/core/voices/event';
import { nightFerry, NIGHT_FERRY_ID } from '../src/server/demo/nightFerry';
import { startOf } from '../src/server/takes/takeFiles';
import { TestClient } from '../test/helpers/client';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { recordingOf, takesOf } from '../test/helpers/takes';
import type { TakeDetail } from '../src/protocol/takes';
import { atRate, nowMs, sleep } from './pace';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';

/**
 * What recording costs a playing finger, beside the same finger unrecorded; and a take of an hour with two million events: its
 * room on the disk, how soon it is rendered again (in a worker of the web process) and what a finger feels of that, beside a bare
 * `ws` echo; how soon it is on the screen, how it scrolls, how soon it is searched and exported.
 */
const HOUR_MS = 3_600_000;
const EVENTS = 2_000_000;
const TICK_MS = 4;
const FINGER_HZ = 125;
const FINGER_MS = 10_000;
const ROUNDS = 8;
const PIECE_BYTES = 64 * 1024;

const figures: Figure[] = [];

/** An hour of the ferry: fingers, wind, voices that bend, and the ticks between, as the hub logs them. */
function hour(): { pieces: string[]; events: number; bytes: number } {
  const plan = compile(nightFerry());
  const writer = new LogWriter();
  const pieces: string[] = [];
  let events = 0;
  let bytes = 0;
  const flush = () => {
    const piece = writer.take();
    if (!piece) return;
    events += piece.events;
    bytes += piece.bytes.length;
    pieces.push(Buffer.from(piece.bytes).toString('base64'));
  };
  writer.write({ kind: 'start', timeMs: 0 }, plan);
  const signals = ['wheelhouse.fog', 'wheelhouse.swell', 'wheelhouse.wind.x', 'wheelhouse.wind.y'].map((id) => plan.signalIndex.get(id)!);
  const ribs = plan.streamIndex.get('hull.ribs')!;
  const ticks = HOUR_MS / TICK_MS;
  const perTick = (EVENTS - ticks) / ticks;
  let owed = 0;
  let voice = 0;
  for (let tick = 1; tick <= ticks; tick++) {
    const timeMs = tick * TICK_MS;
    for (owed += perTick; owed >= 1; owed--) {
      const n = events + Math.floor(owed);
      if (tick % 3 === 0) {
        const phase = tick % 600;
        if (phase === 0) {
          if (voice > 0) writer.write({ ...voiceEvent('off'), timeMs, stream: ribs, voice, release: 0.5 }, plan);
          writer.write({ ...voiceEvent('on'), timeMs, stream: ribs, voice: ++voice, pitch: 40 + (voice % 24), strike: 0.6, pressure: 0.3, slide: 0.5 }, plan);
        } else if (voice > 0) writer.write({ ...voiceEvent('move'), timeMs, stream: ribs, voice, pitch: 40 + (voice % 24) + 0.3 * Math.sin(tick / 12), pressure: 0.5 + 0.4 * Math.sin(tick / 90) }, plan);
      } else writer.write({ kind: 'sample', timeMs, signal: signals[n % signals.length]!, value: Math.fround(0.5 + 0.45 * Math.sin(tick / (70 + 13 * (n % signals.length)))) }, plan);
    }
    writer.write({ kind: 'tick', timeMs }, plan);
    if (writer.length > PIECE_BYTES) flush();
  }
  flush();
  return { pieces, events, bytes };
}

const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);

// A finger whose every move leaves as OSC to this process.
const udp = createSocket('udp4');
await new Promise<void>((resolve) => udp.bind(0, '127.0.0.1', resolve));
const { document: rig } = (await (await fetch(`${pumice.url}/api/rig`)).json()) as { document: RigDocument };
await pumice.give({ kind: 'change', changes: [{ list: 'outputs', id: 'here', to: { id: 'here', name: 'Here', kind: 'osc', host: '127.0.0.1', port: udp.address().port, receiver: rig.receivers[0]!.id } }] });
await pumice.edit('fog', { output: 'here', message: { kind: 'osc', address: '/fog', arguments: [{ type: 'f', value: 'value' }], range: [0, 1] } });
let page = await TestClient.open(pumice.hubPort, 'wheelhouse');
const echo = fork('bench/echo.ts', [], { execArgv: ['--import', 'tsx'] });
const echoPort = await new Promise<number>((resolve) => echo.once('message', (port) => resolve(port as number)));
const bare = new WebSocket(`ws://127.0.0.1:${echoPort}`, { perMessageDeflate: false });
await new Promise((resolve) => bare.once('open', resolve));

/** From a move to its datagram, and from a frame to its echo, at the same moments. */
async function fingers(forMs = FINGER_MS): Promise<{ finger: number[]; echo: number[] }> {
  const sent = new Map<string, number>();
  const echoed = new Map<number, number>();
  const result = { finger: [] as number[], echo: [] as number[] };
  const heard = (packet: Buffer) => {
    for (const { arguments: [value] } of decodeOsc(packet)) {
      const key = (value as number).toFixed(5);
      const atMs = sent.get(key);
      if (atMs !== undefined) result.finger.push(nowMs() - atMs);
      sent.delete(key);
    }
  };
  const back = (data: Buffer) => {
    const i = data.readUInt32LE(0);
    const atMs = echoed.get(i);
    if (atMs !== undefined) result.echo.push(nowMs() - atMs);
  };
  udp.on('message', heard);
  bare.on('message', back);
  await atRate(FINGER_HZ, forMs, (i) => {
    const value = ((i * 7919) % 99_991) / 99_991;
    sent.set(Math.fround(value).toFixed(5), nowMs());
    page.move('wheelhouse.fog', value);
    const frame = Buffer.alloc(24);
    frame.writeUInt32LE(i, 0);
    echoed.set(i, nowMs());
    bare.send(frame);
  });
  await sleep(300);
  udp.off('message', heard);
  bare.off('message', back);
  return result;
}

await fingers(2000);
const [plainRuns, recordedRuns]: [number[], number[]] = [[], []];
// In turn, so that a disturbed machine disturbs both.
for (let round = 0; round < ROUNDS; round++) {
  plainRuns.push(...(await fingers(FINGER_MS / 2)).finger);
  page.tell({ kind: 'record', does: 'begin' });
  await waitFor('the lamp', () => recordingOf(page)?.take);
  recordedRuns.push(...(await fingers(FINGER_MS / 2)).finger);
  page.tell({ kind: 'record', does: 'end' });
  await waitFor('the lamp to be out', () => recordingOf(page)?.take === null);
  await sleep(1500);
}
figures.push(figure('finger to byte while recorded, p50', percentile(recordedRuns, 0.5), 'ms', percentile(plainRuns, 0.5), null, 'lower'));
figures.push(figure('finger to byte while recorded, p99 (floor: unrecorded)', percentile(recordedRuns, 0.99), 'ms', percentile(plainRuns, 0.99), aimAtRatio(1.05), 'lower'));

const { pieces, events, bytes } = hour();
// While it was made this process answered nobody.
page = await TestClient.open(pumice.hubPort, 'wheelhouse');
const start = startOf({ id: NIGHT_FERRY_ID, document: nightFerry() }, Date.now());
const file = JSON.stringify({ format: 'pumice-take', version: 1, name: 'An hour', lengthMs: HOUR_MS, events, marks: [{ atMs: 1_000_000, name: 'Somewhere' }], start, pieces, versions: [] });
figures.push(figure('an hour: log before it is compressed', bytes / events, 'bytes an event', null, null, 'lower'));
const takenMs = nowMs();
const taken = (await (await fetch(`${pumice.url}/api/takes?name=hour.json`, { method: 'POST', body: file })).json()) as { take: { id: string; bytes: number } };
figures.push(figure('an hour: taken in', (nowMs() - takenMs) / 1000, 's', null, null, 'lower'));
figures.push(figure('an hour: on the disk', taken.take.bytes / events, 'bytes an event', null, aimAt(8), 'lower'));
const { id } = taken.take;
const detailOf = async () => (await (await fetch(`${pumice.url}/api/takes/${id}`)).json()) as TakeDetail;
const renderedMs = nowMs();
await detailOf();
const during = fingers(FINGER_MS);
const first = await waitFor('it to be rendered', async () => {
  await sleep(100);
  const detail = await detailOf();
  return detail.versions.length > 0 ? detail : null;
}, 120_000);
const tookMs = nowMs() - renderedMs;
figures.push(figure('an hour: rendered', HOUR_MS / tookMs, 'x real time', null, aimAt(200), 'higher'));
const { finger, echo: beside } = await during;
figures.push(figure('finger to byte meanwhile, p99 (floor: bare echo)', percentile(finger, 0.99), 'ms', percentile(beside, 0.99), aimAtRatio(2), 'lower'));
figures.push(figure('an hour: messages', first.versions[0]!.messages, 'messages', null, null, 'higher'));
const exportMs = nowMs();
const midi = await (await fetch(`${pumice.url}/api/takes/${id}/versions/${first.versions[0]!.id}/file?as=midi`)).arrayBuffer();
figures.push(figure('an hour: as a MIDI file', (nowMs() - exportMs) / 1000, 's', null, aimAt(5), 'lower'));
figures.push(figure('an hour: size of the MIDI file', midi.byteLength / 1e6, 'MB', null, null, 'lower'));
figures.push(figure('memory of the web process afterwards', (await pumice.health() as unknown as { web: { memoryMb: number } }).web.memoryMb, 'MB', null, null, 'lower'));

const browser = await chromium.launch({ executablePath: process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox'] });
const screen = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
// The loader of this file names functions, which the page does not know of.
await screen.addInitScript('globalThis.__name = (named) => named');
const short = (await takesOf(pumice)).find(({ name }) => name === 'Foghorn')!;
await screen.goto(`${pumice.url}/takes#${short.id}`);
await screen.getByRole('region', { name: 'Foghorn', exact: true }).getByRole('listitem').first().waitFor();
const openMs = nowMs();
await screen.getByRole('button', { name: /^An hour/ }).click();
await screen.getByRole('region', { name: 'An hour', exact: true }).getByRole('listitem').first().waitFor();
figures.push(figure('an hour: open, from the click to its picture', (nowMs() - openMs) / 1000, 's', null, aimAt(2), 'lower'));
/** Frames a second while the picture is scrolled by the wheel, beside a page that only counts them. */
const framesOf = (scroll: boolean) =>
  screen.evaluate(async (scrolls) => {
    const body = document.querySelector<HTMLElement>('[aria-label="Picture of the take"]')!;
    if (scrolls) for (let i = 0; i < 6; i++) body.dispatchEvent(new WheelEvent('wheel', { deltaY: -240, ctrlKey: true, clientX: 800, bubbles: true, cancelable: true }));
    let frames = 0;
    const startMs = performance.now();
    await new Promise<void>((resolve) => {
      const frame = () => {
        frames++;
        if (scrolls) body.dispatchEvent(new WheelEvent('wheel', { deltaX: frames % 400 < 200 ? 14 : -14, bubbles: true, cancelable: true }));
        if (performance.now() - startMs > 5000) resolve();
        else requestAnimationFrame(frame);
      };
      requestAnimationFrame(frame);
    });
    return (1000 * frames) / (performance.now() - startMs);
  }, scroll);
await sleep(8000);
const idle = await framesOf(false);
figures.push(figure('an hour: frames while it is seen whole and scrolled closer (floor: standing still)', await framesOf(true), 'frames/s', idle, aimAt(50), 'higher'));
const searchMs = await screen.evaluate(async () => {
  const field = document.querySelector<HTMLInputElement>('input[aria-label="Search takes"]')!;
  const startMs = performance.now();
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(field, 'somewhere');
  field.dispatchEvent(new Event('input', { bubbles: true }));
  while ([...document.querySelectorAll('li button strong')].length > 1) await new Promise(requestAnimationFrame);
  return performance.now() - startMs;
});
figures.push(figure('searched by a mark', searchMs, 'ms', null, aimAt(200), 'lower'));
await browser.close();
page.close();
bare.close();
echo.disconnect();
udp.close();
await pumice.stop();
report('takes', figures);
process.exit(0);
