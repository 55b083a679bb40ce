import { fork } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { WebSocket } from 'ws';
import type { RigDocument } from '../src/core/rig/document';
import type { RigVoiceMapping } from '../src/core/rig/voices';
import { voiceEvent } from '../src/core/voices/event';
import { decodeFacts, FRAME, SAMPLE_HEADER } from '../src/protocol/frames';
import { LIVE_VERSION, type ToClient } from '../src/protocol/live';
import { NamesBook } from '../src/protocol/names';
import { decodeOsc } from '../src/net/osc/codec';
import { encodeVoices } from '../src/protocol/voiceFrames';
import { ClockOffset } from '../src/web/live/clockOffset';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { atRate, nowMs, sleep } from './pace';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';
import type { VoiceMoves } from './voiceMoves';

/**
 * One move of one axis of one voice through shaping to bytes, beside a loop that writes three bytes, in several processes; and 16 voices of three axes
 * each at 250 Hz from a page's send to bytes that are back here, while pages are loaded and the database is written, beside a bare `ws`
 * echo of the same frames in the same run. All sixteen leave as MIDI; of the first the pitch leaves as OSC too, to this process, and that
 * is timed. What leaves is counted in a run of its own, by a monitor, which this process could not read and be on time as well.
 */
const PROCESSES = 5;
const VOICES = 16;
const RATE_HZ = 250;
const LIVE_MS = 8000;
/** The voice that is timed is the only one that begins at this pitch. */
const TIMED_PITCH = 40;

/** Put into one file by `bin/bench.mjs`, as the hub is. */
const VOICE_MOVES = 'node_modules/.cache/bench/voiceMoves.js';

const figures: Figure[] = [];

/** The middle of several processes: the compiler is not as lucky in each. */
async function movesOf(): Promise<VoiceMoves[]> {
  const runs: VoiceMoves[] = [];
  for (let i = 0; i < PROCESSES; i++) {
    const child = fork(VOICE_MOVES);
    runs.push(await new Promise((resolve) => child.once('message', (moves) => resolve(moves as VoiceMoves))));
  }
  return runs;
}

const moves = await movesOf();
const middle = (of: (moves: VoiceMoves) => number) => percentile(moves.map(of), 0.5);
['pitch with pull', 'pressure with One Euro and S', 'slide, plain'].forEach((words, axis) => {
  figures.push(figure(`one move: ${words}`, middle(({ ns }) => ns[axis]! / 1000), 'us', middle(({ floorNs }) => floorNs / 1000), aimAt(0.3), 'lower'));
  figures.push(figure(`one move: ${words}, allocated`, middle(({ bytes }) => bytes[axis]!), 'bytes', null, aimAt(0), 'lower'));
});

function open(url: string): Promise<WebSocket> {
  const socket = new WebSocket(url, { perMessageDeflate: false });
  socket.binaryType = 'arraybuffer';
  return new Promise((resolve, reject) => socket.once('open', () => resolve(socket)).once('error', reject));
}

/** Moves of all voices at an even rate; each frame is one voice with its three axes. */
async function play(send: (frame: ArrayBuffer, voice: number, pitch: number) => void, stream: number, toHub: (pageMs: number) => number): Promise<number> {
  let sent = 0;
  for (let voice = 0; voice < VOICES; voice++) send(encodeVoices(0, toHub(nowMs()), [{ ...voiceEvent('on'), stream, voice, pitch: TIMED_PITCH + 2 * voice - 0.25, strike: 0.7, pressure: 0.4, slide: 0.5 }]), voice, NaN);
  await atRate(RATE_HZ, LIVE_MS, (i) => {
    for (let voice = 0; voice < VOICES; voice++) {
      // Every move is another bend than the one before.
      const sway = ((i + voice) % 200) / 100;
      const pitch = TIMED_PITCH + 2 * voice + (sway < 1 ? sway : 2 - sway) + (i % 2) * 0.02;
      send(encodeVoices(i, toHub(nowMs()), [{ ...voiceEvent('move'), stream, voice, pitch, pressure: 0.4 + 0.3 * Math.sin(i / 40), slide: 0.5 + 0.3 * Math.cos(i / 50) }]), voice, pitch);
      sent++;
    }
  });
  await sleep(500);
  return sent;
}

const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);
const rig = await (await fetch(`${pumice.url}/api/rig`)).json() as { id: string; document: { voiceMappings: { id: string }[]; receivers: { id: string }[] } };
const edit = (body: object) => fetch(`${pumice.url}/api/rigs/${rig.id}/edits`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ edit: body }) });
// Sixteen voices need sixteen channels: a run of them.
await edit({ kind: 'setVoiceMapping', voiceMapping: 'hull-ribs', set: { layout: { kind: 'run', first: 1, last: 16, steal: 'oldest' } } });
const udp = createSocket('udp4');
await new Promise<void>((resolve) => udp.bind(0, '127.0.0.1', resolve));
const document = rig.document as unknown as RigDocument;
const ribs = document.voiceMappings.find(({ id }) => id === 'hull-ribs')!;
await edit({ kind: 'change', changes: [{ list: 'outputs', id: 'here', to: { id: 'here', name: 'Here', kind: 'osc', host: '127.0.0.1', port: udp.address().port, receiver: document.receivers[0]!.id } }] });
const timed: RigVoiceMapping = { id: 'timed', name: 'Timed', on: true, stream: ribs.stream, output: 'here', layout: { kind: 'osc', address: '/timed', voices: 1, steal: 'oldest' }, keys: { low: TIMED_PITCH, high: TIMED_PITCH }, pitch: { transpose: 0, bends: true }, strike: ribs.strike };
await edit({ kind: 'change', changes: [{ list: 'voiceMappings', id: 'timed', to: timed }] });
await waitFor('the run', async () => JSON.stringify(((await (await fetch(`${pumice.url}/api/rig`)).json()) as object)).includes('"timed"'));

const load = fork('bench/load.ts', [pumice.url], { execArgv: ['--import', 'tsx'] });
const echo = fork('bench/echo.ts', [], { execArgv: ['--import', 'tsx'] });
const echoPort = await new Promise<number>((resolve) => echo.once('message', (port) => resolve(port as number)));
await sleep(2000);

const names = new NamesBook();
const offset = new ClockOffset();
const page = await open(`ws://127.0.0.1:${pumice.hubPort}/live`);
page.on('message', (data, isBinary) => {
  if (isBinary) return;
  const message = JSON.parse(new TextDecoder().decode(data as ArrayBuffer)) as ToClient;
  if ('names' in message) names.learn(message.names);
  if (message.kind === 'pong') offset.add(message.pageTimeMs, nowMs(), message.hubTimeMs);
});
page.send(JSON.stringify({ kind: 'hello', version: LIVE_VERSION, surface: 'hull' }));
await waitFor('the stream', () => names.streams.numberOf('hull.ribs') !== undefined);
for (let i = 0; i < 30; i++) {
  page.send(JSON.stringify({ kind: 'ping', pageTimeMs: nowMs() }));
  await sleep(10);
}
let bends = 0;
/** Messages of any kind that the monitor itself left out, while this process was held up. */
let leftOut = 0;
const monitor = await open(`ws://127.0.0.1:${pumice.hubPort}/live`);
monitor.on('message', (data, isBinary) => {
  if (!isBinary || new DataView(data as ArrayBuffer).getUint8(0) !== FRAME.facts) return;
  const { facts, dropped } = decodeFacts(new DataView(data as ArrayBuffer))!;
  leftOut += dropped;
  for (const fact of facts) {
    if (fact.direction !== 'out' || fact.who !== 'voice' || (fact.bytes[0]! & 0xf0) !== 0xe0) continue;
    bends++;
  }
});
monitor.send(JSON.stringify({ kind: 'hello', version: LIVE_VERSION }));
monitor.send(JSON.stringify({ kind: 'watch', watch: { monitor: true } }));
await sleep(500);

const ribsNumber = names.streams.numberOf('hull.ribs')!;
const toHub = (pageMs: number) => offset.toHub(pageMs);
const sent = await play((frame) => page.send(frame), ribsNumber, toHub);
monitor.close();
await sleep(1000);

// Of the voice that is timed: each pitch is looked for among those that are on their way.
const waiting: { pitch: number; atMs: number }[] = [];
const delays: number[] = [];
udp.on('message', (packet) => {
  const [message] = decodeOsc(packet);
  if (message?.address !== '/timed/pitch') return;
  const place = waiting.findIndex(({ pitch }) => Math.fround(pitch) === Math.fround(message.arguments[1] as number));
  if (place >= 0) delays.push(nowMs() - waiting.splice(0, place + 1).at(-1)!.atMs);
});
for (let voice = 0; voice < VOICES; voice++) page.send(encodeVoices(0, toHub(nowMs()), [{ ...voiceEvent('off'), stream: ribsNumber, voice }]));
await play(
  (frame, voice, pitch) => {
    if (voice === 0 && !Number.isNaN(pitch)) waiting.push({ pitch, atMs: nowMs() });
    page.send(frame);
  },
  ribsNumber,
  toHub,
);

const there = await open(`ws://127.0.0.1:${echoPort}`);
const echoes: number[] = [];
const on: number[] = [];
there.on('message', (data) => {
  const frame = new DataView(data as ArrayBuffer);
  // As above, the first voice is timed.
  if (frame.getUint16(SAMPLE_HEADER + 2, true) === 0 && frame.getUint8(SAMPLE_HEADER + 4) === 1) echoes.push(nowMs() - on.shift()!);
});
await play(
  (frame, voice, pitch) => {
    if (voice === 0 && !Number.isNaN(pitch)) on.push(nowMs());
    there.send(frame);
  },
  0,
  (pageMs) => pageMs,
);

figures.push(figure('16 voices x 3 axes x 250 Hz under page load: finger to byte, p50', percentile(delays, 0.5), 'ms', percentile(echoes, 0.5), null, 'lower'));
figures.push(figure('16 voices x 3 axes x 250 Hz under page load: finger to byte, p99', percentile(delays, 0.99), 'ms', percentile(echoes, 0.99), aimAtRatio(2), 'lower'));
figures.push(figure('16 voices x 3 axes x 250 Hz under page load: moves whose bend did not leave, beyond what the monitor left out', Math.max(0, sent + VOICES - bends - leftOut), '', null, aimAt(0), 'lower'));
for (const socket of [page, there]) socket.close();
udp.close();
load.kill();
echo.kill();
await pumice.stop();
report('voices', figures);
process.exit(0);
