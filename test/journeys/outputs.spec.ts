import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { faultsOf } from '../helpers/axe';
import { withMidi } from '../helpers/devices';
import { expect, goOnStage, openBench, Tablet, test } from '../helpers/journey';
import { waitFor, type Pumice } from '../helpers/pumice';

const rigOf = async (pumice: Pumice) => (await pumice.playing()).document;

async function addOutput(page: Page, what: string): Promise<void> {
  await page.getByRole('button', { name: 'Add an output' }).click();
  await page.getByText(what, { exact: true }).click();
}

test('a new rig, from nothing to the first sound', async ({ pumice, page, browser }) => {
  await openBench(page, `${pumice.url}/rigs`);
  await page.getByRole('button', { name: 'New rig' }).click();
  await page.getByRole('textbox', { name: 'Name of the new rig' }).fill('Harbour watch');
  await page.getByRole('button', { name: 'Make it and open it' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the rig' })).toHaveValue('Harbour watch');
  const steps = page.getByRole('navigation', { name: 'First steps' });
  await expect(steps.locator('[aria-current="step"]')).toHaveText('Bring an input');

  await page.getByRole('link', { name: 'Outputs' }).click();
  await expect(page.getByText('Nothing leaves yet.')).toBeVisible();
  await addOutput(page, 'Stand-in, to practise with');
  await expect(page.getByRole('article', { name: 'Output Stand-in' })).toContainText('Nothing heard yet');
  await page.keyboard.press('Escape');
  await expect(steps.getByRole('link', { name: '✓ Add an output' })).toBeVisible();

  await page.getByRole('link', { name: 'Surfaces' }).click();
  await page.getByRole('button', { name: 'New surface' }).click();
  await page.getByLabel('pads, with buttons and a fader').check();
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(steps.locator('[aria-current="step"]')).toHaveText('See it arrive');
  await page.getByRole('link', { name: 'Outputs' }).click();
  await page.getByRole('switch', { name: 'Sound of the stand-ins' }).click();
  const level = page.getByRole('img', { name: 'Level of the sound' }).locator('span');
  await expect(level).toHaveAttribute('data-sounding', 'false');
  const [surface] = (await rigOf(pumice)).surfaces;
  const tablet = await Tablet.open(browser, `${pumice.url}/play/${surface!.id}`);
  // What is struck rings for a second or two: each picture of the level is looked at until one shows it, and it is struck until then.
  const heard = page.waitForFunction(() => document.querySelector('[data-sounding="true"]'), undefined, { polling: 'raf' });
  let isHeard = false;
  void heard.then(() => (isHeard = true));
  await expect
    .poll(async () => {
      await tablet.fingers('touchStart', { id: 1, x: 120, y: 200 });
      await tablet.fingers('touchEnd');
      return isHeard;
    })
    .toBe(true);
  await expect(page.getByRole('article', { name: 'Output Stand-in' })).toContainText('off');
  await expect(steps).toHaveCount(0);
  await tablet.close();
});

test('a port that the browser lends plays; when its page is loaded anew it is told what it holds', async ({ pumice, page, browser }) => {
  await withMidi(page.context());
  await openBench(page, `${pumice.url}/outputs`);
  await addOutput(page, 'Lend those of this browser…');
  await addOutput(page, 'Test horn');
  const horn = page.getByRole('complementary', { name: 'Test horn' });
  await expect(horn).toBeVisible();
  await waitFor('it to be played', async () => (await rigOf(pumice)).outputs.some(({ name }) => name === 'Test horn'));
  await page.getByRole('button', { name: 'Test Test horn' }).click();
  await expect.poll(() => page.evaluate(() => window.testMidi.written.filter(([status]) => status === 0x90).length)).toBeGreaterThan(1);
  await expect.poll(() => page.evaluate(() => window.testMidi.written.at(-1)), { timeout: 10_000 }).toEqual([0xb0, 1, 0]);

  const output = (await rigOf(pumice)).outputs.find(({ name }) => name === 'Test horn')!;
  await pumice.edit('fog', { output: output.id });
  const tablet = await Tablet.open(browser, `${pumice.url}/play/wheelhouse`);
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 294 });
  await tablet.fingers('touchEnd');
  await expect.poll(() => page.evaluate(() => window.testMidi.written.some((bytes) => bytes.join() === '178,21,64'))).toBe(true);

  await page.goto('about:blank');
  const other = await browser.newPage();
  await openBench(other, `${pumice.url}/mappings`);
  await expect(other.getByText('Test horn is not here: no page that is open lends it.')).toBeVisible();
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 42 });
  await tablet.fingers('touchEnd');
  await expect(tablet.control('fog').locator('.number')).toHaveText('127');
  await openBench(page, `${pumice.url}/outputs`);
  await expect.poll(() => page.evaluate(() => window.testMidi.written.some((bytes) => bytes.join() === '178,21,127'))).toBe(true);
  await expect(page.getByRole('article', { name: 'Output Test horn' })).toContainText('while it was away');
  await expect(other.getByText('Test horn is not here')).toHaveCount(0);
  await tablet.close();
  await other.close();
});

test('an output is set by its panel, says so on its card, and is removed with what sends there', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('button', { name: 'Settings of Weather' }).click();
  const panel = page.getByRole('complementary', { name: 'Weather' });
  await panel.getByRole('switch').first().click();
  await expect(page.getByRole('article', { name: 'Output Weather' })).toContainText('muted');
  await panel.getByRole('spinbutton', { name: 'Delay in ms' }).fill('40');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'Output Weather' })).toContainText('40 ms later');
  await panel.getByRole('textbox', { name: 'Name of the output' }).fill('Deck weather');
  await page.keyboard.press('Enter');
  await panel.getByRole('textbox', { name: 'Hard-wired controllers' }).fill('twenty-one volume');
  await page.keyboard.press('Enter');
  await expect(page.getByText('“twenty-one volume” is no controller')).toBeVisible();
  await panel.getByRole('textbox', { name: 'Hard-wired controllers' }).fill('21 volume, CC 11 expression');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('list', { name: 'What does not fit at Deck weather' })).toHaveText('controller 21 is volume there, hard-wired: Fog density');
  await waitFor('all of it', async () => (await rigOf(pumice)).outputs.some((output) => output.name === 'Deck weather' && output.muted && output.delayMs === 40));
  await page.getByRole('button', { name: 'Remove Deck weather' }).click();
  await expect(page.getByText('5 mappings that send there go with it.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await waitFor('it to be gone', async () => (await rigOf(pumice)).outputs.length === 3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await waitFor('it to be back', async () => (await rigOf(pumice)).mappings.length === 22);
});

test('a parameter of a stand-in learns the one controller that moves', async ({ pumice, page, tablet }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('button', { name: 'Settings of Weather' }).click();
  const panel = page.getByRole('complementary', { name: 'Weather' });
  const learn = async (what: string) => {
    const button = panel.getByRole('button', { name: `Learn ${what}` });
    await button.click();
    await expect(button).toHaveText('Move one');
  };
  await learn('height');
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 294 });
  await tablet.fingers('touchEnd');
  await expect(panel.getByText('height · channel 3 CC 21')).toBeVisible();
  await learn('spray');
  await tablet.fingers('touchStart', { id: 1, x: 700, y: 200 });
  await tablet.fingers('touchEnd');
  await expect(page.getByText('2 addresses moved: channel 3 CC 23 and channel 3 CC 24.')).toBeVisible();
});

test('the monitor is filtered by words and place, counted, and saved as a table', async ({ pumice, page, tablet }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 294 });
  await tablet.fingers('touchEnd');
  await tablet.fingers('touchStart', { id: 1, x: 360, y: 690 });
  await tablet.fingers('touchEnd');
  const rows = page.locator('[aria-labelledby="monitor-title"] tbody tr[data-direction]');
  const find = page.getByRole('textbox', { name: 'Find messages' });
  await find.fill('cc 21, fog density');
  await expect(rows).toHaveCount(1);
  await expect(rows).toContainText('channel 3 · CC 21 · 64');
  await find.fill('99 2b');
  await expect(rows).toHaveCount(1);
  await find.fill('nothing of the kind');
  await expect(page.getByText('Nothing that is looked for.')).toBeVisible();
  await find.fill('');
  await page.getByRole('combobox', { name: 'From or to' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'Bell and rigging' }).click();
  await expect(rows).toHaveCount(2);
  const [saved] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'CSV' }).click()]);
  expect(saved.suggestedFilename()).toBe('Night Ferry messages.csv');
  const table = (await readFile(await saved.path(), 'utf8')).trim().split('\n');
  expect(table).toHaveLength(3);
  expect(table[1]).toContain('channel 10 · note G2 on · 112,99 2B 70,Bell and rigging,Horn');
});

test('the monitor can be held and searched, and what is read further down stays in its place while more comes', async ({ pumice, page, tablet }) => {
  await openBench(page, `${pumice.url}/outputs`);
  const monitor = page.locator('[aria-labelledby="monitor-title"]');
  const rows = monitor.locator('tbody tr[data-direction]');
  const list = page.getByRole('region', { name: 'List of messages' });
  const find = page.getByRole('textbox', { name: 'Find messages' });
  const horn = async () => {
    await tablet.fingers('touchStart', { id: 1, x: 360, y: 690 });
    await tablet.fingers('touchEnd');
  };
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 160 });
  for (let y = 160; y < 400; y += 4) await tablet.fingers('touchMove', { id: 1, x: 80, y });
  await tablet.fingers('touchEnd');
  await horn();
  // All of it has come.
  await expect(rows.first()).toContainText('note G2 off');
  await find.fill('fog');
  await expect(rows.first()).toContainText(/Fog/);
  // As many lines as are in view, of all that are there.
  await expect.poll(() => rows.count()).toBeLessThan(40);
  const newest = await rows.first().textContent();
  await list.evaluate((region) => region.scrollTo(0, 600));
  const read = () => list.evaluate((region) => {
    const { left, top } = region.getBoundingClientRect();
    return document.elementFromPoint(left + 250, top + 100)!.closest('tr')!.textContent;
  });
  await expect.poll(read).toContain('Fog');
  const line = await read();
  const counted = monitor.locator('header > span').first();
  const before = await counted.textContent();
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 294 });
  await tablet.fingers('touchMove', { id: 1, x: 80, y: 310 });
  await tablet.fingers('touchEnd');
  await expect(counted).not.toHaveText(before!);
  expect(await read()).toBe(line);
  await list.press('Home');
  await expect(rows.first()).not.toHaveText(newest!);
  await expect(rows.first()).toContainText(/Fog/);

  await page.getByRole('button', { name: 'Pause' }).click();
  await horn();
  await find.fill('99 2b');
  await expect(rows).toHaveCount(1);
  await page.getByRole('button', { name: 'Go on', exact: true }).click();
  await expect(rows).toHaveCount(2);
});

test('axe finds nothing serious beside an output that is set, on the Bench and on Stage', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('button', { name: 'Settings of Weather' }).click();
  expect(await faultsOf(page)).toEqual([]);
  await goOnStage(page, pumice);
  expect(await faultsOf(page)).toEqual([]);
});
