import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import type { BrowserContext, Page } from '@playwright/test';
import { faultsOf } from '../helpers/axe';
import { expect, openBench, test } from '../helpers/journey';
import { kill, waitFor, type Pumice } from '../helpers/pumice';
import { CLIP, SHORT_CLIP } from '../helpers/hands/clip';
import { judge } from '../helpers/hands/judge';
import { drawCamera, lookAt } from '../helpers/hands/look';

/**
 * What the browser takes for a camera: a rendered hand that is open for three seconds and a fist for three, at 30 pictures a second. So
 * long a machine sees both that looks at a picture for two seconds.
 */
const CAMERA = resolve('test-results/hands-camera.mjpeg');
const TIMES = 90;
const FISTS = CLIP.filter(({ part }) => part === 'fists');
const closure = ({ hands }: (typeof CLIP)[number]) => hands[0]!.bends[0];
const SHOWN = [FISTS.find((picture) => closure(picture) === 0)!, FISTS.find((picture) => closure(picture) === 1)!];

async function camera(): Promise<string> {
  if (existsSync(CAMERA)) return CAMERA;
  mkdirSync('test-results', { recursive: true });
  const drawn = await drawCamera(SHOWN, TIMES);
  // Two workers may draw it at once: whole, or not at all.
  writeFileSync(`${CAMERA}.${process.pid}`, drawn);
  renameSync(`${CAMERA}.${process.pid}`, CAMERA);
  return CAMERA;
}

test.use({
  permissions: ['camera'],
  launchOptions: async ({ launchOptions }, use) => use({ ...launchOptions, args: [...(launchOptions.args ?? []), '--use-fake-ui-for-media-stream', '--use-fake-device-for-media-stream', `--use-file-for-fake-video-capture=${await camera()}`] }),
});

const seen = (page: Page) => page.getByRole('region', { name: 'What is seen' });

async function start(page: Page, pumice: Pumice, from: string): Promise<void> {
  await page.goto(`${pumice.url}/hands`);
  await page.getByRole('combobox', { name: 'Camera' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: from }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
}

const notes = (sent: readonly string[], kind: string, output = 'bell-and-rigging') => sent.filter((line) => new RegExp(`^${output} ${kind}. `).test(line)).length;

/** A note of the left fist, on a channel of its own. */
async function mapFist(pumice: Pumice, input: string): Promise<void> {
  const { document } = await pumice.playing();
  const signal = document.signals.find((one) => one.input === input && one.source === 'left fist')!.id;
  const mapping = { id: 'left-fist', name: 'Left fist', on: true, signal, shaping: {}, message: { kind: 'note', channel: 16, note: 40, velocity: 100 }, output: 'bell-and-rigging' };
  await pumice.give({ kind: 'change', changes: [{ list: 'mappings', id: mapping.id, to: mapping }] });
}

test('hands before a camera: the picture stays here, fists become bytes, and all of it ends with the page', async ({ pumice, monitor, page, context }) => {
  test.slow();
  await page.goto(`${pumice.url}/hands`);
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(seen(page)).toContainText('a second', { timeout: 240_000 });
  const input = await waitFor('its input', async () => (await pumice.playing()).document.inputs.find(({ kind, id }) => kind === 'hands' && id !== 'gulls')?.id);
  await mapFist(pumice, input);
  const fists = () => monitor.sent.filter((line) => /^bell-and-rigging 9F 28 /.test(line)).length;
  const ends = () => monitor.sent.filter((line) => /^bell-and-rigging (8F 28|9F 28 00)/.test(line)).length;
  await waitFor('a fist', () => fists() > 0, 240_000);
  await waitFor('its end', () => ends() > 0, 240_000);
  await expect(seen(page)).toContainText(/Left hand\s*(open|fist|pinch|palm|there)/);

  const other = await context.newPage();
  await other.goto(`${pumice.url}/hands`);
  await other.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(other.getByText('Another window of this browser looks already')).toBeVisible();
  await other.close();

  // The hub is gone and is back: it goes on, and nothing hangs.
  const before = fists();
  await kill((await pumice.health()).hub.pid);
  await waitFor('the next fist', () => fists() > before, 240_000);
  await page.close();
  await waitFor('every fist to end', () => ends() >= fists());
});

test('a stand-in plays the demo: notes at a tempo with the height of a hand, gone when the hand is gone; the page is accessible', async ({ pumice, monitor, page }) => {
  await start(page, pumice, 'A hand that is moved on screen');
  const cries = () => notes(monitor.sent, '9');
  await waitFor('cries', () => cries() >= 3);
  const { document } = await pumice.playing();
  expect(document.inputs.filter(({ kind }) => kind === 'hands')).toHaveLength(1);
  await page.getByRole('application').focus();
  await page.keyboard.press('ArrowUp');
  await expect(seen(page)).toContainText('open, palm');
  await page.getByRole('slider', { name: 'Closed' }).fill('1');
  await expect(seen(page)).toContainText('fist');
  await page.getByRole('checkbox', { name: 'There' }).uncheck();
  await expect(seen(page)).toContainText('not there');
  await waitFor('the last cry to end', () => notes(monitor.sent, '8') === cries());
  const had = cries();
  await page.getByRole('checkbox', { name: 'There' }).check();
  await waitFor('more cries', () => cries() > had);
  expect(await faultsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Stop' }).click();
  await waitFor('silence', () => notes(monitor.sent, '8') === cries());
});

test('a shape of the hand is taught by showing it, is a gate of the rig, is kept, and another window knows of it', async ({ pumice, page, context }) => {
  const other = await context.newPage();
  await other.goto(`${pumice.url}/hands`);
  await expect(other.getByRole('switch', { name: 'As in a mirror' })).toBeChecked();
  await start(page, pumice, 'A hand that is moved on screen');
  await page.getByRole('slider', { name: 'Closed' }).fill('0.5');
  await page.getByRole('textbox', { name: 'Name of the shape' }).fill('claw');
  await page.getByRole('button', { name: 'Teach it' }).click();
  await expect(page.getByText('Show claw and hold it')).toBeVisible();
  await expect(page.getByRole('button', { name: 'More examples of claw' })).toBeVisible();
  await expect(seen(page)).toContainText('claw');
  await page.getByRole('slider', { name: 'Closed' }).fill('0');
  await expect(seen(page)).not.toContainText('claw');
  await waitFor('its gate in the rig', async () => (await pumice.playing()).document.signals.some(({ source }) => source === 'left pose claw'));
  // What the other window changes next must not take the shape away.
  await expect(other.getByRole('button', { name: 'Forget the shape claw' })).toHaveCount(0);
  await other.evaluate(() => dispatchEvent(new Event('focus')));
  await expect(other.getByRole('button', { name: 'Forget the shape claw' })).toBeVisible();
  await other.getByRole('switch', { name: 'As in a mirror' }).click();
  await waitFor('it to be kept', async () => ((await (await fetch(`${pumice.url}/api/settings/hands`)).json()) as { mirrored: boolean }).mirrored === false);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Forget the shape claw' })).toBeVisible();
});

test('a movement is drawn three times on a pad, and plays when it is drawn again', async ({ pumice, monitor, tablet, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'Derived signals' }).click();
  await page.getByRole('button', { name: 'Teach a movement…' }).click();
  await page.getByRole('combobox', { name: 'Signals of the movement' }).click();
  for (const axis of ['Wind bearing', 'Wind gust']) {
    await page.getByRole('combobox', { name: 'Signals of the movement' }).fill(axis);
    await page.locator('.ant-select-item-option').filter({ hasText: axis }).click();
  }
  await page.getByRole('textbox', { name: 'Name of the movement' }).fill('Gale');
  await page.getByRole('button', { name: 'Teach it' }).click();
  await expect(page.getByText('Draw Gale and rest')).toBeVisible();
  const circle = async (ms: number, radius: number) => {
    const at = (share: number) => ({ id: 1, x: 854 + radius * Math.sin(2 * Math.PI * share), y: 290 - radius * Math.cos(2 * Math.PI * share) });
    await tablet.fingers('touchStart', at(0));
    const rests = async (untilMs: number) => {
      while (Date.now() < untilMs) await new Promise((done) => setTimeout(done, 20));
    };
    await rests(Date.now() + 400);
    const beganMs = Date.now();
    for (let share = 0; share < 1; ) {
      share = Math.min(1, (Date.now() - beganMs) / ms);
      await tablet.fingers('touchMove', at(share * share * (3 - 2 * share)));
    }
    await rests(Date.now() + 500);
    await tablet.fingers('touchEnd');
  };
  for (let i = 1; i <= 3; i++) {
    // Where the machine is busy a drawing may fall apart: once more.
    await waitFor(`example ${i}`, async () => {
      await circle(900, 150);
      return (await page.getByText(`: ${i} of 3`).isVisible()) || (await page.getByRole('button', { name: 'More examples of Gale' }).isVisible());
    }, 60_000);
  }
  await expect(page.getByRole('img', { name: /Example 3 of Gale/ })).toBeVisible();
  await page.getByRole('button', { name: /^Map it to/ }).click();
  const mapped = await waitFor('its mapping', async () => {
    const { document } = await pumice.playing();
    const derived = document.derived.find(({ name }) => name === 'Gale');
    return derived && document.mappings.find(({ signal }) => signal === derived.id);
  });
  expect(mapped.message.kind).toBe('note');
  const { channel, note } = mapped.message as { channel: number; note: number };
  const strikes = new RegExp(`^${mapped.output} 9${(channel - 1).toString(16).toUpperCase()} ${note.toString(16).toUpperCase().padStart(2, '0')} (?!00)`);
  monitor.sent.length = 0;
  await waitFor('it to be found', async () => {
    await circle(700, 110);
    return monitor.sent.some((line) => strikes.test(line));
  }, 60_000);
});

test('of rendered hands of known joints the finder and the sums find what is there', async () => {
  test.slow();
  const { found, tipP95, closureVaries, stillMoves, kept, gates } = judge(await lookAt(SHORT_CLIP, { model: 'fast', hands: 2 }));
  expect(found).toBeGreaterThanOrEqual(0.98);
  // What is aimed at (0.13 palms) and what is met stands in `npm run bench hands`; beyond this the points would not be those of the hand.
  expect(tipP95).toBeLessThan(0.16);
  expect(closureVaries).toBeLessThanOrEqual(0.05);
  expect(stillMoves).toBeLessThanOrEqual(0.01);
  expect(kept).toBe(1);
  expect(gates.fists).toMatchObject({ 'left fist': 1 });
  expect(gates.pinches).toMatchObject({ 'left pinch': 1 });
  expect(gates.turning).toMatchObject({ 'left back': 1 });
  expect(Object.keys(gates.circle!).sort()).toEqual(['left open', 'left palm', 'left there']);
});

test('a model that is missing or cut short is said in a sentence, and a stand-in needs none', async ({ pumice, page }) => {
  await page.route('**/hands/model/**/*.tflite', async (route) => {
    const answer = await route.fetch();
    const headers = Object.fromEntries(Object.entries(answer.headers()).filter(([name]) => name !== 'content-length'));
    await route.fulfill({ status: 200, headers, body: (await answer.body()).subarray(0, 1000) });
  });
  await page.goto(`${pumice.url}/hands`);
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page.getByText('The hand model came cut short: start again, and it is loaded anew.')).toBeVisible();
  await page.unroute('**/hands/model/**/*.tflite');
  await page.route('**/hands/model/**/*.data', (route) => route.fulfill({ status: 404, body: '' }));
  await page.goto(`${pumice.url}/hands`);
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page.getByText('The hand model is missing hands_solution_packed_assets.data')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Start', exact: true })).toBeVisible();
  await start(page, pumice, 'Gulls, turning');
  await expect(seen(page)).toContainText('back');
});

test('a camera that is pulled out is said, and looking goes on by itself when it is back; so is a page in the background', async ({ pumice, page }) => {
  await page.addInitScript(() => {
    const ask = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
    const streams: MediaStream[] = ((window as unknown as { streams: MediaStream[] }).streams = []);
    navigator.mediaDevices.getUserMedia = async (wanted) => {
      const stream = await ask(wanted);
      streams.push(stream);
      return stream;
    };
  });
  const streams = () => page.evaluate(() => (window as unknown as { streams: MediaStream[] }).streams.length);
  await page.goto(`${pumice.url}/hands`);
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await waitFor('the camera', async () => (await streams()) === 1);
  await expect(seen(page)).toContainText('a second', { timeout: 240_000 });
  await page.evaluate(() => (window as unknown as { streams: MediaStream[] }).streams[0]!.getVideoTracks()[0]!.dispatchEvent(new Event('ended')));
  await expect(page.getByText('The camera is gone')).toBeVisible();
  await page.evaluate(() => navigator.mediaDevices.dispatchEvent(new Event('devicechange')));
  await waitFor('it again', async () => (await streams()) === 2);
  await expect(page.getByText('The camera is gone')).toHaveCount(0);
  await expect(seen(page)).toContainText('a second', { timeout: 240_000 });
  // As where another window covers it: a page without a screen is always in view.
  await page.evaluate(() => Object.defineProperty(document, 'hidden', { configurable: true, get: () => true }));
  const covered = page.getByText('This page is in the background, where browsers give no pictures');
  await expect(covered).toBeVisible();
  await page.evaluate(() => Reflect.deleteProperty(document, 'hidden'));
  await expect(covered).toHaveCount(0);
});

test('a browser that forbids WebAssembly is said so', async ({ pumice, page }) => {
  await page.route('**/hands/tracker.js', async (route) => {
    const answer = await route.fetch();
    const policy = answer.headers()['content-security-policy']!.replace(" 'wasm-unsafe-eval'", '');
    await route.fulfill({ response: answer, headers: { ...answer.headers(), 'content-security-policy': policy } });
  });
  await page.goto(`${pumice.url}/hands`);
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page.getByText(/forbids WebAssembly/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Start', exact: true })).toBeVisible();
});

test('a camera that is refused or not there is said in a sentence', async ({ pumice, browser }) => {
  const say = async (context: BrowserContext, name: string) => {
    const page = await context.newPage();
    await page.addInitScript((error) => {
      navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('no', error));
    }, name);
    await page.goto(`${pumice.url}/hands`);
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    const sentence = await page.locator('p[role="alert"]').innerText();
    await page.close();
    return sentence;
  };
  const context = await browser.newContext();
  expect(await say(context, 'NotAllowedError')).toContain('was not allowed to look');
  expect(await say(context, 'NotFoundError')).toContain('There is no camera here');
  expect(await say(context, 'NotReadableError')).toContain('Another program holds the camera');
  await context.close();
});
