import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, type Browser, type Page } from '@playwright/test';
import type { SeenHand } from '../../../src/core/hands/landmarks';
import { bundled } from '../bundled';
import type { ClipPicture } from './clip';

const HERE = fileURLToPath(new URL('./', import.meta.url));
const ROOT = join(HERE, '../../..');
const GENERIC_HAND = join(ROOT, 'node_modules/@webxr-input-profiles/assets/dist/profiles/generic-hand');
const MODEL = join(ROOT, 'node_modules/@mediapipe/hands');
/** Nothing answers there: what is asked for is given by the test. */
const ORIGIN = 'http://localhost:1';
const TYPES: Readonly<Record<string, string>> = { js: 'text/javascript', wasm: 'application/wasm' };

/** What was found in a picture beside what is there. */
export interface Looked {
  part: string;
  /** By hand that was drawn: its 21 points, x and y 0 to 1 from the left and the top. */
  truth: { side: 'left' | 'right'; points: number[] }[];
  found: SeenHand[];
  lookMs: number;
}

/** A page in which hands are drawn. */
export async function openStage(browser: Browser): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  const worker = await bundled(join(HERE, 'finder.worker.ts'));
  await page.route(`${ORIGIN}/**`, (route) => {
    const file = new URL(route.request().url()).pathname.slice(1);
    if (file === '') return route.fulfill({ contentType: 'text/html', body: '<!doctype html><title>Hands</title>' });
    if (file === 'worker.js') return route.fulfill({ contentType: 'text/javascript', body: worker });
    const body = readFileSync(join(MODEL, file.replace(/^model\//, '')));
    return route.fulfill({ contentType: TYPES[file.split('.').pop()!] ?? 'application/octet-stream', headers: { 'x-pumice-bytes': String(body.length) }, body });
  });
  await page.goto(`${ORIGIN}/`);
  await page.addScriptTag({ content: await bundled(join(HERE, 'stage.ts')) });
  const bytes = (side: string) => [...readFileSync(join(GENERIC_HAND, `${side}.glb`))];
  await page.evaluate(([left, right]) => window.makeHandStage(left!, right!), [bytes('left'), bytes('right')]);
  return page;
}

/** Hands are drawn without a graphics processor. */
export const launchForHands = () => chromium.launch({ executablePath: process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'] });

/** Draws each picture of a clip and looks for hands in it, as a page does. */
export async function lookAt(clip: readonly ClipPicture[], settings: { model: 'fast' | 'exact'; hands: 1 | 2 }): Promise<Looked[]> {
  const browser = await launchForHands();
  try {
    const page = await openStage(browser);
    const looked = await page.evaluate(({ pictures, settings: how, origin }) => window.lookAtHands(pictures, how, origin), { pictures: clip.map(({ hands }) => hands), settings, origin: ORIGIN });
    return looked.map(({ points, hands, lookMs }, i) => ({
      part: clip[i]!.part,
      truth: clip[i]!.hands.map(({ side }, h) => ({ side, points: points[h]! })),
      found: hands.map(({ side, picture, world }) => ({ side, picture: Float64Array.from(picture), world: Float64Array.from(world) })),
      lookMs,
    }));
  } finally {
    await browser.close();
  }
}

/** Draws a clip as what Chromium takes for a camera: JPEG pictures one after another, each so many times for slow machines. */
export async function drawCamera(clip: readonly ClipPicture[], times = 6): Promise<Buffer> {
  const browser = await launchForHands();
  try {
    const page = await openStage(browser);
    const pictures: Buffer[] = [];
    for (const { hands } of clip) {
      const url = await page.evaluate((shown) => (window.handStage.draw(shown), window.handStage.canvas.toDataURL('image/jpeg', 0.9)), hands);
      const picture = Buffer.from(url.slice(url.indexOf(',') + 1), 'base64');
      for (let i = 0; i < times; i++) pictures.push(picture);
    }
    return Buffer.concat(pictures);
  } finally {
    await browser.close();
  }
}
