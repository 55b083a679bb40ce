import { chromium, type CDPSession, type Page } from '@playwright/test';
import { RIG_FORMAT, RIG_VERSION, type RigDocument, type RigMapping } from '../src/core/rig/document';
import { TestClient } from '../test/helpers/client';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { bareFrames, framesOf, perSecond } from './pageFrames';
import { aimAt, figure, percentile, report } from './report';

/**
 * The Mappings screen with 200 mappings while 50 signals move at 100 Hz: frames a second and the work of its main thread
 * for each, from a browser trace, beside an empty page that only asks for frames; and how long a rig of 500 mappings takes
 * to stand on screen. And the Outputs screen with its monitor while 1,000 messages a second leave, both it and Inputs while usually much moves.
 */
const SIGNALS = 50;
const RATE_HZ = 100;
const TRACE_MS = 8000;
const SETTLE_MS = 3000;
const OPENS = 7;
const CONTROLLERS = 100;
/** Signals of which each message is another, for the monitor. */
const LOUD = 10;
/** A frame that comes after more than this was left out before. */
const LATE_FRAME_MS = 25;

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** A rig whose mappings all send to addresses of their own, one per signal in turn. */
function rigOf(name: string, mappings: number): RigDocument {
  const fader = (i: number) => ({ id: `fader-${i}`, kind: 'fader' as const, label: `Rope ${i}`, frame: { x: (i % 10) * 100, y: Math.floor(i / 10) * 100, width: 90, height: 90 }, signals: { value: `rope-${i}`, touch: `rope-${i}.touch` } });
  const ids = Array.from({ length: SIGNALS }, (_, i) => i);
  const mapping = (i: number): RigMapping => ({
    id: `m-${i}`,
    name: `Mapping ${i}`,
    on: true,
    signal: `rope-${i % SIGNALS}`,
    shaping: { smoothing: { kind: 'oneEuro', minCutoffHz: 1, beta: 2, derivativeCutoffHz: 1 }, curve: { kind: 'points', points: [[0, 0], [0.4, 0.7], [1, 1]] } },
    message: { kind: 'controlChange', channel: 1 + Math.floor(i / CONTROLLERS), controller: i % CONTROLLERS, range: [0, 127] },
    output: 'weather',
  });
  return {
    format: RIG_FORMAT,
    version: RIG_VERSION,
    meter: [4, 4],
    members: [],
    name,
    tempoBpm: 120,
    inputs: [{ id: 'deck', name: 'Deck', kind: 'surface', surface: 'deck' }],
    signals: ids.flatMap((i) => [
      { id: `rope-${i}`, name: `Rope ${i}`, input: 'deck', kind: 'continuous' as const, unit: 'unit' as const, range: [0, 1] as [number, number] },
      { id: `rope-${i}.touch`, name: `Rope ${i} touch`, input: 'deck', kind: 'gate' as const, unit: 'unit' as const, range: [0, 1] as [number, number] },
    ]),
    derived: [],
    mappings: Array.from({ length: mappings }, (_, i) => mapping(i)),
    outputs: [{ id: 'weather', name: 'Weather', kind: 'standIn', receiver: 'weather' }],
    receivers: [{ id: 'weather', name: 'Weather', about: '', bendRangeSemitones: 2 }],
    surfaces: [{ id: 'deck', name: 'Deck', width: 1000, height: 500, pages: [{ id: 'one', name: 'One', controls: ids.map(fader) }] }],
    scenes: [],
    streams: [],
    voiceMappings: [],
    scales: [],
  };
}

interface TraceEvent {
  name: string;
  ph: string;
  pid: number;
  tid: number;
  ts: number;
  /** Time on the processor, without what was waited for. */
  tdur?: number;
  args?: { name?: string };
}

/** Frames a second and ms of main-thread tasks a frame of a page, from a trace of it. */
async function trace(page: Page): Promise<{ framesPerS: number; workMs: number }> {
  const session: CDPSession = await page.context().newCDPSession(page);
  const events: TraceEvent[] = [];
  session.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as TraceEvent[])));
  // As text: what a bundler does to functions would not hold in the page.
  await page.evaluate(`window.frames_ ??= ((function count() { window.frames_++; requestAnimationFrame(count); })(), 0)`);
  const framesNow = () => page.evaluate<number>('window.frames_');
  await session.send('Tracing.start', { transferMode: 'ReportEvents', traceConfig: { includedCategories: ['toplevel', 'disabled-by-default-devtools.timeline', 'devtools.timeline', '__metadata'] } } as never);
  const before = await framesNow();
  const sinceMs = performance.now();
  await sleep(TRACE_MS);
  const frames = (await framesNow()) - before;
  const lastedMs = performance.now() - sinceMs;
  const complete = new Promise((resolve) => session.once('Tracing.tracingComplete', resolve));
  await session.send('Tracing.end');
  await complete;
  await session.detach();
  // The main thread with the most frames is that of the page.
  const mains = new Set(events.filter(({ name, args }) => name === 'thread_name' && args?.name === 'CrRendererMain').map(({ pid, tid }) => `${pid} ${tid}`));
  const work = new Map<string, number>();
  for (const { name, ph, pid, tid, tdur } of events) {
    const thread = `${pid} ${tid}`;
    // Tasks are nested in others under other names; these are the outermost.
    if (ph === 'X' && mains.has(thread) && name === 'RunTask') work.set(thread, (work.get(thread) ?? 0) + (tdur ?? 0) / 1000);
  }
  return { framesPerS: (frames / lastedMs) * 1000, workMs: Math.max(0, ...work.values()) / Math.max(1, frames) };
}

/** The share of a core that the main thread of a page takes, in %. */
async function shareOf(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const workedS = async () => (await session.send('Performance.getMetrics')).metrics.find(({ name }) => name === 'TaskDuration')!.value;
  const [before, sinceMs] = [await workedS(), performance.now()];
  await sleep(TRACE_MS);
  const share = (100_000 * ((await workedS()) - before)) / (performance.now() - sinceMs);
  await session.detach();
  return share;
}

/** Moves the first signals of the rig 100 times a second each, on a line of its own, until what is given back is called. */
async function moves(signals: number, valueAt: (step: number, signal: number) => number): Promise<() => void> {
  const sender = await TestClient.open(pumice.hubPort, 'deck');
  let step = 0;
  const sinceMs = performance.now();
  const moving = setInterval(() => {
    const due = ((performance.now() - sinceMs) / 1000) * RATE_HZ;
    for (; step < due; step++) for (let i = 0; i < signals; i++) sender.move(`rope-${i}`, valueAt(step, i));
  }, 4);
  return () => {
    clearInterval(moving);
    // This process may have been held up for so long that the hub took it for gone: what was measured then is a page at rest.
    if (sender.closedWith !== null) throw new Error(`The line of what moves was closed (${sender.closedWith}) while it was measured; measure again on a computer that does less.`);
    sender.close();
  };
}

const swings = (step: number, signal: number) => 0.5 + 0.5 * Math.sin(step / 15 + signal);
const leaps = (step: number, signal: number) => ((step * 37 + signal) % 128) / 127;

const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
const take = async (rig: RigDocument) => (await pumice.post('/api/rigs', rig)).answer.id as unknown as string;
const open = (id: string) => pumice.post(`/api/rigs/${id}/open`, {});
const [small, large] = [await take(rigOf('Two hundred', 200)), await take(rigOf('Five hundred', 500))];
await open(small);

const browser = await chromium.launch({ executablePath: process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium' });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

// The floor: a page that asks for frames and does nothing with them.
await page.goto('about:blank');
const empty = await trace(page);

let stop = await moves(SIGNALS, swings);
await page.goto(`${pumice.url}/mappings`);
await page.getByRole('list', { name: '200 mappings' }).waitFor();
await sleep(SETTLE_MS);
const busy = await trace(page);
stop();
stop = await moves(SIGNALS, swings);
await page.getByRole('button', { name: 'Shape Mapping 3', exact: true }).click();
await sleep(SETTLE_MS);
const shaping = await trace(page);
stop();
await page.getByRole('button', { name: 'Close the shaping panel' }).click();

// The monitor: ten signals that send a hundred messages a second each.
const monitored = rigOf('Ten', LOUD);
await open(await take({ ...monitored, mappings: monitored.mappings.map((mapping) => ({ ...mapping, shaping: {} })) }));
await page.goto(`${pumice.url}/outputs`);
await page.getByRole('region', { name: 'List of messages' }).waitFor();
stop = await moves(LOUD, leaps);
await sleep(SETTLE_MS);
const monitorFrames = await framesOf(page, TRACE_MS);
stop();
const bare = await bareFrames(browser, TRACE_MS);
// Usual playing: one signal, a hundred numbers and a hundred messages a second; nothing counts frames now.
await page.reload();
await page.getByRole('region', { name: 'List of messages' }).waitFor();
stop = await moves(1, leaps);
await sleep(SETTLE_MS);
const monitorShare = await shareOf(page);
stop();

// All signals of an input, some of them in view.
await page.goto(`${pumice.url}/inputs`);
await page.getByRole('button', { name: 'Show the signals of Deck' }).click();
stop = await moves(SIGNALS, swings);
await sleep(SETTLE_MS);
const inputsShare = await shareOf(page);
stop();
await page.goto('about:blank');
const emptyShare = await shareOf(page);
const late = (gaps: readonly number[]) => gaps.filter((gap) => gap > LATE_FRAME_MS).length;

await open(large);
await page.goto(`${pumice.url}/mappings`);
await page.getByRole('list', { name: '500 mappings' }).waitFor();

const opens: number[] = [];
for (let i = 0; i < OPENS; i++) {
  await open(small);
  await page.getByRole('list', { name: '200 mappings' }).waitFor();
  await sleep(500);
  const sinceMs = performance.now();
  const shown = page.getByRole('list', { name: '500 mappings' }).waitFor();
  await open(large);
  await shown;
  opens.push(performance.now() - sinceMs);
}
const loads: number[] = [];
for (let i = 0; i < OPENS; i++) {
  const sinceMs = performance.now();
  await page.goto(`${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'Shape Mapping 0', exact: true }).waitFor();
  loads.push(performance.now() - sinceMs);
}
await page.goto('about:blank');
await browser.close();

await pumice.stop();

report('desk', [
  figure('frames a second, 200 mappings, 50 signals at 100 Hz', busy.framesPerS, '/s', empty.framesPerS, aimAt(50), 'higher'),
  figure('main-thread work a frame, the same', busy.workMs, 'ms', empty.workMs, aimAt(4), 'lower'),
  figure('frames a second with a shaping open', shaping.framesPerS, '/s', empty.framesPerS, aimAt(50), 'higher'),
  figure('main-thread work a frame with a shaping open', shaping.workMs, 'ms', empty.workMs, aimAt(4), 'lower'),
  figure('frames a second of the Outputs screen while 1,000 messages a second leave', perSecond(monitorFrames), '/s', perSecond(bare), null, 'higher'),
  figure('frames of it that were left out, in 8 s', late(monitorFrames), 'frames', late(bare), aimAt(0), 'lower'),
  figure('main thread of the Outputs screen while 100 numbers enter and 100 messages leave a second', monitorShare, '% of a core', emptyShare, aimAt(30), 'lower'),
  figure('main thread of the Inputs screen with 50 signals at 100 Hz', inputsShare, '% of a core', emptyShare, aimAt(20), 'lower'),
  figure('a rig of 500 mappings opens in a window that is there, p50', percentile(opens, 0.5), 'ms', null, aimAt(1000), 'lower'),
  figure('the same, the slowest', percentile(opens, 1), 'ms', null, aimAt(1000), 'lower'),
  figure('the Mappings screen of 500 mappings from its address, p50', percentile(loads, 0.5), 'ms', null, aimAt(1000), 'lower'),
]);
process.exit(0);
