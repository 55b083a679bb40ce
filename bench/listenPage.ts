import { chromium, type Browser, type Page } from '@playwright/test';
import { HOP, HOP_MS, SAMPLE_RATE_HZ } from '../src/core/listening/audio';
import { LISTENER_SETTINGS } from '../src/core/listening/listener';
import { MicrophoneInput } from '../src/core/listening/microphoneInput';
import { microphoneSources, soundKey } from '../src/core/listening/microphoneSources';
import { collectSound } from '../src/core/listening/teach';
import { RIG_FORMAT, RIG_VERSION, type RigDocument } from '../src/core/rig/document';
import { HEARD_STAND_INS } from '../src/core/standIn/foghorn';
import { MouthDrummer } from '../src/core/standIn/mouthDrummer';
import { seededNoise } from '../src/core/standIn/noise';
import { encodeSamples, FRAME } from '../src/protocol/frames';
import { TestClient } from '../test/helpers/client';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { openByteTrip } from './byteTrip';
import { atRate, nowMs, sleep } from './pace';
import { bareFrames, framesOf, perSecond } from './pageFrames';
import { aimAt, aimAtRatio, figure, percentile, report, type Figure } from './report';

/**
 * The listening page in a browser: frames a second while a stand-in sings, beside a page that only counts frames; whether listening on
 * keeps memory, there and in the sums alone over an hour of audio; and the way of a mouth sound from the block that made it known to
 * its byte, beside a bare `ws` echo of as large a frame at the same moments.
 */
const WATCH_MS = 30_000;
const SOAK_MS = 120_000;
const HOUR_HOPS = (3600 * SAMPLE_RATE_HZ) / HOP;
const STRIKES = 150;
const EVERY_MS = 200;

const figures: Figure[] = [];
const gc = globalThis.gc!;

/** A drummer that strikes one sound at an even rate, a hop at a time. */
function drumming(): (block: Float32Array) => void {
  const drummer = new MouthDrummer(SAMPLE_RATE_HZ, 7);
  const noise = seededNoise(7);
  const every = Math.round((EVERY_MS * SAMPLE_RATE_HZ) / 1000);
  let n = 0;
  return (block) => {
    for (let i = 0; i < block.length; i++) {
      if (++n % every === 0) drummer.strike('k', 0.4 + 0.5 * ((n / every) % 2));
      block[i] = drummer.sample() + 0.0005 * noise();
    }
  };
}

function taught() {
  const fill = drumming();
  const samples = new Float32Array(3 * SAMPLE_RATE_HZ);
  for (let at = 0; at + HOP <= samples.length; at += HOP) fill(samples.subarray(at, at + HOP));
  return { name: 'k', examples: collectSound(samples) };
}

const rig: RigDocument = {
  format: RIG_FORMAT,
  version: RIG_VERSION,
  meter: [4, 4],
  members: [],
  name: 'Listening bench',
  tempoBpm: 120,
  inputs: [{ id: 'mouth', name: 'Mouth', kind: 'microphone', device: { report: 'bench', slot: 1 } }],
  signals: [{ id: 'mouth.k', name: 'Sound k', input: 'mouth', kind: 'gate', unit: 'unit', range: [0, 1], source: soundKey('k') }],
  streams: [],
  derived: [],
  outputs: [],
  receivers: [{ id: 'here', name: 'Here', about: '', bendRangeSemitones: 2 }],
  mappings: [],
  voiceMappings: [],
  scales: [],
  surfaces: [],
  scenes: [],
};

async function strikesToBytes(pumice: Pumice): Promise<void> {
  const trip = await openByteTrip(pumice, rig, 'mouth.k');
  const page = await TestClient.open(pumice.hubPort);
  const sources = microphoneSources([], ['k']);
  const { sources: numbers } = await page.bring('microphone', { kind: 'microphone', report: 'bench', name: 'Mouth' }, sources);
  const number = numbers[sources.findIndex(({ key }) => key === soundKey('k'))]!;
  let blockMs = NaN;
  const [bytes, echoes]: [number[], number[]] = [[], []];
  let struckMs = NaN;
  let echoMs = NaN;
  trip.onByte = () => {
    if (!Number.isNaN(struckMs)) bytes.push(nowMs() - struckMs);
    struckMs = NaN;
  };
  trip.onEcho = () => void echoes.push(nowMs() - echoMs);
  const input = new MicrophoneInput(
    { ...LISTENER_SETTINGS, sounds: [taught()] },
    {
      values: (list) => {
        const gate = list.find(({ key }) => key === soundKey('k'));
        if (!gate) return;
        if (gate.value > 0) struckMs = blockMs;
        page.say(number, gate.value);
      },
      voice: () => undefined,
      strikes: () => undefined,
    },
  );
  const fill = drumming();
  const block = new Float32Array(HOP);
  let hop = 0;
  await atRate(1000 / HOP_MS, STRIKES * EVERY_MS, () => {
    fill(block);
    blockMs = nowMs();
    input.push(block);
    // Half way between two strikes the echo has the line to itself.
    if (++hop % Math.round(EVERY_MS / HOP_MS) === Math.round(EVERY_MS / HOP_MS / 2)) {
      echoMs = nowMs();
      trip.echo(encodeSamples(0, 0, [{ signal: 0, value: 1 }], FRAME.sources));
    }
  });
  await sleep(300);
  for (const share of [0.5, 0.95]) {
    const [ours, floor] = [percentile(bytes, share), percentile(echoes, share)];
    figures.push(figure(`a mouth sound: from its block to its byte, p${share * 100}`, ours, 'ms', floor, null, 'lower'));
    figures.push(figure(`a mouth sound: beyond the echo, p${share * 100}`, ours - floor, 'ms', null, aimAt(HOP_MS), 'lower'));
  }
  figures.push(figure('mouth sounds that came as bytes', bytes.length, `of ${STRIKES}`, null, null, 'higher'));
  page.close();
  trip.close();
}

/** What the page and its workers hold after everything that can go has gone, in MB. */
async function heldMb(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send('HeapProfiler.collectGarbage');
  const { usedSize } = (await session.send('Runtime.getHeapUsage')) as { usedSize: number };
  await session.detach();
  return usedSize / 1e6;
}

async function listening(pumice: Pumice, browser: Browser): Promise<void> {
  const bareGaps = await bareFrames(browser, WATCH_MS);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${pumice.url}/listen`);
  await page.getByRole('combobox', { name: 'Microphone' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'Foghorn, a singer' }).click();
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  await page.getByText('Hz').first().waitFor();
  await sleep(3000);
  const gaps = await framesOf(page, WATCH_MS);
  figures.push(figure('frames a second while it listens', perSecond(gaps), '/s', perSecond(bareGaps), aimAt(59), 'higher'));
  figures.push(figure('between frames while it listens, p99', percentile(gaps, 0.99), 'ms', percentile(bareGaps, 0.99), aimAtRatio(2), 'lower'));
  await page.evaluate('window.gaps = null');
  const before = await heldMb(page);
  await sleep(SOAK_MS);
  figures.push(figure(`the page: held more after ${SOAK_MS / 1000} s`, (await heldMb(page)) - before, 'MB', before, aimAt(1), 'lower'));
  await page.close();
}

/** An hour of singing through the sums alone: what they hold after the hour beside after its first minute. */
function anHour(): void {
  // Half a minute that comes again and again: to sing it anew would take longer than to hear it.
  const singer = HEARD_STAND_INS[0]!.make();
  const song = Array.from({ length: HOUR_HOPS / 120 }, () => {
    const block = new Float32Array(HOP);
    singer.fill(block);
    return block;
  });
  const input = new MicrophoneInput({ ...LISTENER_SETTINGS, sounds: [taught()] }, { values: () => undefined, voice: () => undefined, strikes: () => undefined });
  const held = () => {
    gc();
    return process.memoryUsage().heapUsed / 1e6;
  };
  let first = 0;
  for (let hop = 0; hop < HOUR_HOPS; hop++) {
    input.push(song[hop % song.length]!);
    if (hop === Math.round(HOUR_HOPS / 60)) first = held();
  }
  figures.push(figure('an hour of audio: held more than after a minute', held() - first, 'MB', first, aimAt(1), 'lower'));
}

const pumice = await Pumice.fresh();
await pumice.run();
await waitFor('the hub', async () => (await pumice.health()).ok);
const browser = await chromium.launch({ executablePath: process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium' });
await listening(pumice, browser);
await browser.close();
await strikesToBytes(pumice);
await pumice.stop();
anHour();
report('listenPage', figures);
process.exit(0);
