import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { Movement, MovementFinder, PATH_POINTS } from '../src/core/gesture/movement';
import { STREAM_FIRST } from '../src/core/ensemble/kinds/stream';
import { HandsInput } from '../src/core/hands/handsInput';
import { handSources } from '../src/core/hands/handSources';
import { RIG_FORMAT, RIG_VERSION, type RigDocument } from '../src/core/rig/document';
import { HANDS_STAND_INS, STAND_IN_ASPECT } from '../src/core/standIn/gulls';
import { encodeSamples, FRAME } from '../src/protocol/frames';
import { CLIP } from '../test/helpers/hands/clip';
import { judge } from '../test/helpers/hands/judge';
import { drawCamera, lookAt } from '../test/helpers/hands/look';
import { TestClient } from '../test/helpers/client';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { nearestPlace, onGrid, openEar, watchWrites } from './grid';
import { openByteTrip } from './byteTrip';
import { atRate, nowMs, sleep } from './pace';
import { bareFrames, framesOf, perSecond } from './pageFrames';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';

/**
 * Hands: what is found of a clip of known joints, by both models; frames a second of the page while a camera is looked at, beside a
 * page that only counts frames; the way from a result to its byte, beside a bare `ws` echo of as large a frame; when notes of a hand leave, beside a bare
 * grid; what the sums cost.
 */
const WATCH_MS = 20_000;
const RESULTS = 1500;
const RESULTS_PER_S = 30;
const TEMPO_BPM = 120;
const EVERY_BEATS = 0.25;
const STEP_MS = (EVERY_BEATS * 60_000) / TEMPO_BPM;
const TRIP = 't'.charCodeAt(0);

const figures: Figure[] = [];

async function clip(): Promise<void> {
  for (const model of ['fast', 'exact'] as const) {
    const looked = await lookAt(CLIP, { model, hands: 2 });
    const { found, tipP95, closureVaries, stillMoves, kept, gates } = judge(looked);
    const count = (key: string) => Object.values(gates).reduce((sum, part) => sum + (part[key] ?? 0), 0);
    const aim = (at: number) => (model === 'fast' ? aimAt(at) : null);
    figures.push(figure(`${model}: hands found`, 100 * found, '%', null, aim(98), 'higher'));
    figures.push(figure(`${model}: index tip from where it is, p95`, tipP95, 'palms', null, aim(0.13), 'lower'));
    figures.push(figure(`${model}: closure over twice the distance`, 100 * closureVaries, '%', null, aim(5), 'lower'));
    figures.push(figure(`${model}: a still hand moves its signals`, 100 * stillMoves, '%', null, aim(1), 'lower'));
    figures.push(figure(`${model}: hands that cross keep their names`, 100 * kept, '% of pictures', null, aim(100), 'higher'));
    figures.push(figure(`${model}: fists and pinches found, of 4`, count('left fist') + count('left pinch'), '', null, aim(4), 'higher'));
    figures.push(figure(`${model}: looking at a picture, p50`, percentile(looked.map(({ lookMs }) => lookMs), 0.5), 'ms', null, null, 'lower'));
  }
}

async function page(pumice: Pumice): Promise<void> {
  const camera = join(mkdtempSync(join(tmpdir(), 'pumice-bench-')), 'camera.mjpeg');
  writeFileSync(camera, await drawCamera(CLIP.filter(({ part }) => part === 'fists' || part === 'circle')));
  const browser = await chromium.launch({ executablePath: process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--use-fake-ui-for-media-stream', '--use-fake-device-for-media-stream', `--use-file-for-fake-video-capture=${camera}`] });
  const bare = await bareFrames(browser, WATCH_MS);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, permissions: ['camera'] });
  const own = await context.newPage();
  await own.goto(`${pumice.url}/hands`);
  await own.getByRole('button', { name: 'Start', exact: true }).click();
  await own.getByText('a second').first().waitFor({ timeout: 120_000 });
  const gaps = await framesOf(own, WATCH_MS);
  figures.push(figure('frames a second of the page while it looks', perSecond(gaps), '/s', perSecond(bare), aimAt(59), 'higher'));
  figures.push(figure('between frames while it looks, p99', percentile(gaps, 0.99), 'ms', percentile(bare, 0.99), null, 'lower'));
  await browser.close();
}

const sources = handSources([]);
const rig: RigDocument = {
  format: RIG_FORMAT,
  version: RIG_VERSION,
  meter: [4, 4],
  members: [{ id: 'cries', name: 'Cries', on: true, level: 1, octave: 0, begins: 'now', swing: 0.5, feelMs: 0, part: { ...STREAM_FIRST, everyBeats: EVERY_BEATS, pitch: 'left-palm-y', while: 'left-there' } }],
  name: 'Hands bench',
  tempoBpm: TEMPO_BPM,
  inputs: [{ id: 'hands', name: 'Hands', kind: 'hands', device: { report: 'bench', slot: 1 } }],
  signals: sources.map(({ key, name, kind, unit, range }) => ({ id: key.replaceAll(' ', '-'), name, kind, unit, range, input: 'hands', source: key })),
  streams: [],
  derived: [],
  outputs: [],
  receivers: [{ id: 'here', name: 'Here', about: '', bendRangeSemitones: 2 }],
  mappings: [],
  voiceMappings: [{ id: 'cries-out', name: 'Cries', on: true, stream: 'cries', output: 'ear', layout: { kind: 'osc', address: '/cries', voices: 16, steal: 'oldest' }, pitch: { transpose: 0, bends: false }, strike: { shaping: {}, range: [0, 127] } }],
  scales: [],
  surfaces: [],
  scenes: [],
};

/** Gives the bare grid of the same seconds. */
async function resultsToBytes(pumice: Pumice): Promise<number[]> {
  const ear = await openEar(STEP_MS);
  const trip = await openByteTrip(pumice, { ...rig, outputs: [{ id: 'ear', name: 'Ear', kind: 'osc', receiver: 'here', host: '127.0.0.1', port: ear.port }] }, 'left-palm-y');
  const line = await TestClient.open(pumice.hubPort);
  const { sources: numbers } = await line.bring('hands', { kind: 'hands', report: 'bench', name: 'Hands' }, sources);
  const numberOf = new Map(sources.map(({ key }, i) => [key, numbers[i]!]));
  const [bytes, echoes]: [number[], number[]] = [[], []];
  let [saidMs, echoMs] = [NaN, NaN];
  trip.onByte = (packet) => {
    if (packet[1] !== TRIP) return;
    if (!Number.isNaN(saidMs)) bytes.push(nowMs() - saidMs);
    saidMs = NaN;
  };
  trip.onEcho = () => void echoes.push(nowMs() - echoMs);
  const { at } = HANDS_STAND_INS.find(({ id }) => id === 'circle')!;
  const input = new HandsInput({ whenLost: 'hold', steady: true, poses: [] }, (values) => {
    const said = values.map(({ key, value }) => ({ signal: numberOf.get(key)!, value }));
    saidMs = nowMs();
    line.sayAll(said);
    setTimeout(() => {
      echoMs = nowMs();
      trip.echo(encodeSamples(0, 0, said, FRAME.sources));
    }, 500 / RESULTS_PER_S);
  });
  const hears = ear.listen((RESULTS / RESULTS_PER_S) * 1000);
  let result = 0;
  await atRate(RESULTS_PER_S, (RESULTS / RESULTS_PER_S) * 1000, () => {
    const timeMs = (result++ * 1000) / RESULTS_PER_S;
    input.push({ timeMs, aspect: STAND_IN_ASPECT, hands: at(timeMs) });
  });
  await sleep(300);
  for (const share of [0.5, 0.99]) figures.push(figure(`from a result to its byte, p${share * 100}`, percentile(bytes, share), 'ms', percentile(echoes, share), share === 0.99 ? aimAtRatio(2) : null, 'lower'));
  line.close();
  trip.close();
  const { bare } = await hears;
  ear.close();
  return bare;
}

/** How far from their places on the grid the notes of a hand are written. */
function notesOnGrid(notes: readonly number[], grid: readonly number[]): void {
  const [ours, bare] = [onGrid(notes.slice(4), STEP_MS, nearestPlace(STEP_MS)), onGrid(grid, STEP_MS, nearestPlace(STEP_MS))];
  for (const share of [0.5, 0.99]) figures.push(figure(`notes of a hand, as they are written: off their grid, p${share * 100}`, percentile(ours.offMs, share), 'ms', percentile(bare.offMs, share), share === 0.99 ? aimAtRatio(1.5) : null, 'lower'));
  figures.push(figure('notes of a hand that are not there', ours.missing, `of ${notes.length}`, null, aimAt(0), 'lower'));
}

/** What the sums cost: a picture of two hands, and a number of a movement that is looked for. */
function sums(): void {
  const input = new HandsInput({ whenLost: 'hold', steady: true, poses: [] }, () => undefined);
  const hands = HANDS_STAND_INS.find(({ id }) => id === 'fists')!.at(500);
  const pictures = 20_000;
  let beganMs = nowMs();
  for (let i = 0; i < pictures; i++) input.push({ timeMs: i * 33, aspect: STAND_IN_ASPECT, hands });
  figures.push(figure('the sums of a picture of two hands', (1000 * (nowMs() - beganMs)) / pictures, 'µs', null, null, 'lower'));
  const circle = (i: number) => [Math.sin((2 * Math.PI * i) / PATH_POINTS), Math.cos((2 * Math.PI * i) / PATH_POINTS)];
  const finder = new MovementFinder(new Movement(Array.from({ length: 3 }, () => ({ durationMs: 1000, path: Array.from({ length: PATH_POINTS }, (_, i) => circle(i)).flat() })), 2));
  const numbers = 20_000;
  beganMs = nowMs();
  for (let i = 0; i < numbers; i++) finder.push(circle(i / 3), i * 10);
  figures.push(figure('a number of a movement that is looked for, at 100 Hz', (1000 * (nowMs() - beganMs)) / numbers, 'µs', null, null, 'lower'));
}

sums();
await clip();
const writes = watchWrites();
const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);
await page(pumice);
const grid = await resultsToBytes(pumice);
await pumice.stop();
notesOnGrid(writes.read()['/cries']!, grid);
report('hands', figures);
process.exit(0);
