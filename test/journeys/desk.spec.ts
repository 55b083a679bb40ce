import type { Page } from '@playwright/test';
import { faultsOf } from '../helpers/axe';
import { beforeItIsDrawn, expect, goOnStage, openBench, test } from '../helpers/journey';
import { waitFor } from '../helpers/pumice';

/** Presses a key of a keyboard that writes something else at its place than an English one: Russian, French. */
const pressElsewhere = (page: Page, key: { key: string; code: string; ctrlKey?: boolean; shiftKey?: boolean }) => page.evaluate((how) => void dispatchEvent(new KeyboardEvent('keydown', how)), key);

test('map by moving: press a key, move the thing, take the proposed number, hear it; undo takes it back', async ({ pumice, tablet, monitor, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  // Nobody types into a mark.
  await page.getByRole('checkbox', { name: 'Mark Fog density' }).focus();
  await page.keyboard.press('m');
  const beside = page.getByRole('complementary', { name: 'Map by moving' });
  await expect(beside).toContainText('Listening: move the thing');
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 500 });
  for (let y = 480; y >= 120; y -= 20) await tablet.fingers('touchMove', { id: 1, x: 80, y });
  await tablet.fingers('touchEnd');
  await expect(beside.getByText('Fog', { exact: true })).toBeVisible();
  await expect(beside).toContainText('It drives Fog density already');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary', { name: 'Shaping of Fog' })).toBeVisible();
  await waitFor('it to be played', async () => (await pumice.playing()).document.mappings.some(({ name }) => name === 'Fog'));
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 42 });
  await tablet.fingers('touchEnd');
  await waitFor('the new controller beside the old one', () => monitor.sent.includes('weather B2 15 7F') && monitor.sent.some((line) => /^weather B2 (1[4-9A-F]|6[6-9A-F]) 7F$/.test(line) && line !== 'weather B2 15 7F'));
  await page.getByRole('button', { name: 'Close the shaping panel' }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Shape Fog', exact: true })).toHaveCount(0);
  await pressElsewhere(page, { key: 'Я', code: 'KeyZ', ctrlKey: true, shiftKey: true });
  await expect(page.getByRole('button', { name: 'Shape Fog', exact: true })).toBeVisible();

  // Who moves first and presses the key then means what was moved.
  await waitFor('what was moved before the key', async () => {
    await tablet.fingers('touchStart', { id: 1, x: 80, y: 120 });
    for (let y = 140; y <= 480; y += 40) await tablet.fingers('touchMove', { id: 1, x: 80, y });
    await tablet.fingers('touchEnd');
    await page.keyboard.press('m');
    const found = await beside.getByText('Fog', { exact: true }).waitFor({ timeout: 2000 }).then(() => true, () => false);
    // On a busy machine the second may be over before the key was pressed: once more.
    if (!found) await page.keyboard.press('Escape');
    return found;
  });
  await page.keyboard.press('Escape');
  await expect(beside).toHaveCount(0);
});

test('fit: five seconds of a noisy gesture give range, dead zone and smoothing; the picture of a curve is moved by hand', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByRole('article', { name: 'Stand-in Mooring' }).getByRole('button', { name: 'Start' }).click();
  await page.getByRole('link', { name: 'Mappings' }).click();
  await page.getByRole('textbox', { name: 'Search mappings' }).fill('rope groan');
  await page.getByRole('button', { name: 'Shape Rope groan' }).click();
  const panel = page.getByRole('complementary', { name: 'Shaping of Rope groan' });
  await panel.getByRole('button', { name: 'Fit to a gesture' }).click();
  await panel.getByRole('button', { name: 'Use this' }).click();
  const shaping = async () => {
    const { document } = await pumice.playing();
    return document.mappings.find(({ name }) => name === 'Rope groan')!.shaping;
  };
  await waitFor('the fitted shaping', async () => {
    const { rangeIn, deadZone, smoothing } = await shaping();
    return rangeIn !== undefined && rangeIn.lo > 0 && deadZone !== undefined && smoothing?.kind === 'oneEuro';
  });
  await panel.getByRole('combobox', { name: 'Curve' }).click();
  await page.getByTitle('Through points').click();
  await panel.getByRole('button', { name: 'Point 2 at 0.5, 0.5' }).focus();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(panel.getByRole('button', { name: 'Point 2 at 0.5, 0.6' })).toBeVisible();
  const point = (await panel.getByRole('button', { name: 'Point 2 at 0.5, 0.6' }).boundingBox())!;
  await beforeItIsDrawn(page, async () => {
    await page.mouse.move(point.x + point.width / 2, point.y + point.height / 2);
    await page.mouse.down();
    await page.mouse.move(point.x + 60, point.y - 10, { steps: 4 });
    await page.mouse.up();
  });
  await waitFor('the point where it was dropped', async () => {
    const { curve } = await shaping();
    return curve?.kind === 'points' && curve.points[1]![0] > 0.6;
  });
});

test('mappings are found among others, copied with the numbers counting on, deleted, and brought back', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  const bands = page.locator('[data-band]');
  await expect(page.getByRole('list', { name: '31 mappings' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Search mappings' }).fill('weather fog');
  await expect(bands).toHaveCount(1);
  await page.getByRole('button', { name: 'Shape Fog density' }).click();
  await page.getByRole('button', { name: 'More for Fog density' }).click();
  await page.getByText('Duplicate, counting on').click();
  await expect(bands).toHaveCount(2);
  const copy = page.getByRole('complementary', { name: 'Shaping of Fog density 2' });
  await expect(copy.getByRole('spinbutton', { name: 'Controller' })).toHaveValue('26');
  await copy.getByRole('button', { name: 'More for Fog density 2' }).click();
  await page.getByText('Delete', { exact: true }).click();
  await expect(bands).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo mapping fog-2 removed' }).click();
  await expect(bands).toHaveCount(2);
});

test('a band says whether it was heard; those that were not are found, and counted among all', async ({ pumice, tablet, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  const fog = page.locator('[data-band]').filter({ has: page.getByRole('button', { name: 'Shape Fog density' }) });
  await expect(fog).toContainText('not heard yet');
  await page.getByRole('combobox', { name: 'State' }).click();
  await page.getByTitle('Silent for 10 s').click();
  await expect(page.getByRole('list', { name: '31 mappings' })).toBeVisible();
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 42 });
  // It moves on, so that no busy machine makes it silent meanwhile.
  let y = 60;
  await expect(async () => {
    await tablet.fingers('touchMove', { id: 1, x: 80, y: (y = y === 60 ? 480 : 60) });
    await expect(fog).toHaveCount(0, { timeout: 2000 });
    await expect(page.getByRole('search')).toContainText('30 of 31', { timeout: 2000 });
  }).toPass();
  await page.getByRole('combobox', { name: 'State' }).click();
  await page.getByTitle('On and off').last().click();
  await expect(fog).toContainText(/heard (now|\d+ s ago)/);
  await tablet.fingers('touchEnd');
});

test('a scene is taken, looked at and recalled by its key; the list of keys is on ?', async ({ pumice, tablet, monitor, page }) => {
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 42 });
  await tablet.fingers('touchEnd');
  await waitFor('the fog', () => monitor.sent.includes('weather B2 15 7F'));
  await openBench(page, `${pumice.url}/mappings`);
  await waitFor('the desk to know it', async () => ((await (await fetch(`${pumice.url}/api/values`)).json()) as Record<string, number>)['wheelhouse.fog'] === 1);
  // As the rig stands now: a scene has switched the horn off, whatever its document says.
  const { document: rig } = await pumice.playing();
  const landfall = rig.scenes.find(({ id }) => id === 'landfall')!;
  await pumice.give({ kind: 'change', changes: [{ list: 'scenes', id: 'landfall', to: { ...landfall, values: {}, mappings: { horn: false } } }] });
  await page.keyboard.press('4');
  await expect(page.getByRole('button', { name: 'Landfall4' })).toHaveAttribute('aria-current', 'true');
  await page.getByRole('button', { name: 'Take a scene' }).click();
  await page.getByRole('textbox', { name: 'Name of the scene' }).fill('High tide');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'High tide5' })).toBeVisible();
  // The page shows it before the rig has it.
  const kept = (name: string) => waitFor(`${name} to be kept`, async () => (({ document }) => document.scenes.at(-1)!.name === name ? document : null)(await pumice.playing()));
  const after = await kept('High tide');
  expect([after.scenes.at(-1)!.mappings.horn, after.scenes.at(-1)!.mappings.bell, after.mappings.find(({ id }) => id === 'horn')!.on]).toEqual([false, true, true]);
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 546 });
  await tablet.fingers('touchEnd');
  await waitFor('the fog to lift', () => monitor.sent.includes('weather B2 15 00'));
  await page.getByRole('button', { name: 'More for the scene High tide' }).click();
  await page.getByText('Look at it, change it').click();
  await expect(page.getByRole('list', { name: 'What would change' })).toContainText('move 1 control');
  // Another window calls it otherwise and makes it glide meanwhile: what is kept here is what was changed here.
  const tide = after.scenes.at(-1)!;
  await pumice.give({ kind: 'change', changes: [{ list: 'scenes', id: tide.id, to: { ...tide, name: 'Flood', glideMs: 60 } }] });
  await expect(page.getByRole('button', { name: 'Flood5' })).toBeVisible();
  await page.getByRole('dialog').getByRole('textbox', { name: 'Name', exact: true }).fill('Spring tide');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Spring tide5' })).toBeVisible();
  expect((await kept('Spring tide')).scenes.at(-1)).toMatchObject({ name: 'Spring tide', glideMs: 60, values: tide.values });
  monitor.facts.length = 0;
  await pressElsewhere(page, { key: '(', code: 'Digit5' });
  await waitFor('the fog again', () => monitor.sent.includes('weather B2 15 7F'));
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Panic');
});

test('introduce: a banner on every screen while it is on, Escape ends it', async ({ pumice, monitor, page }) => {
  await openBench(page, `${pumice.url}/mappings#fog`);
  const panel = page.getByRole('complementary', { name: 'Shaping of Fog density' });
  await panel.getByRole('button', { name: 'Introduce' }).click();
  await page.getByText('As a slow sweep').click();
  await expect(page.getByText('Introducing Fog density alone')).toBeVisible();
  await waitFor('the sweep', () => new Set(monitor.sent.filter((line) => line.startsWith('weather B2 15'))).size > 10);
  await page.getByRole('link', { name: 'Outputs' }).click();
  await expect(page.getByText('Introducing Fog density alone')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('Introducing Fog density alone')).toHaveCount(0);
});

test('the ledger shows a clash, leads to its mapping, and moves a channel with a look before', async ({ pumice, page }) => {
  await pumice.edit('fog', { message: { kind: 'controlChange', channel: 3, controller: 22, range: [0, 127] } });
  await openBench(page, `${pumice.url}/ledger`);
  await expect(page.getByRole('heading', { name: /Ledger 2 in clashes/ })).toBeVisible();
  await page.getByRole('combobox', { name: 'Output' }).click();
  await page.getByTitle('Weather').click();
  await page.getByRole('slider', { name: 'Controllers of channel 3' }).focus();
  await page.keyboard.press('PageUp');
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('CC 22: in a clash')).toBeVisible();
  await page.getByRole('button', { name: 'Move a channel' }).click();
  await page.getByRole('spinbutton', { name: 'From channel' }).fill('3');
  await page.getByRole('spinbutton', { name: 'From channel' }).press('Enter');
  await expect(page.getByText(/mappings move: Fog density, Swell height/)).toBeVisible();
  await page.getByRole('button', { name: 'Move them' }).click();
  await expect(page.getByRole('list', { name: 'Clashes and warnings' })).toContainText('channel 15 · CC 22');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export CSV' }).click();
  expect((await download).suggestedFilename()).toBe('Night Ferry ledger.csv');
  await page.getByRole('link', { name: 'Fog density' }).first().click();
  const shaping = page.getByRole('complementary', { name: 'Shaping of Fog density' });
  await expect(shaping.getByText(/^Swell height sends to the same/)).toBeVisible();
});

test('rigs: half a file and a clash are said, a copy is opened, deleted and brought back', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/rigs`);
  const file = page.getByLabel('Rig file');
  const give = (name: string, text: string) => file.setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  const document = await (await fetch(`${pumice.url}/api/rigs/${pumice.rig}/document`)).text();
  await give('half.json', document.slice(0, 500));
  await expect(page.getByText('half.json is not a whole JSON file: export the rig again and take that one.')).toBeVisible();
  await give('newer.json', document.replace('"version":3', '"version":99'));
  await expect(page.getByText(/this rig was made by a newer Pumice/)).toBeVisible();
  await give('huge.json', 'x'.repeat(5 * 1024 * 1024));
  await expect(page.getByText(/huge\.json has 5 MB/)).toBeVisible();
  await give('Night Ferry.json', document.replace('"name":"Night Ferry"', '"name":"Second Ferry"'));
  const preview = page.getByRole('region', { name: 'Import of Night Ferry.json' });
  await expect(preview).toContainText('31 mappings');
  await preview.getByRole('button', { name: 'Replace what the open rig has of it' }).click();
  const look = page.getByRole('region', { name: 'What Second Ferry would change' });
  await expect(look).toContainText('It changes nothing');
  await look.getByRole('button', { name: 'Leave it' }).click();
  await give('Night Ferry.json', document.replace('"name":"Night Ferry"', '"name":"Second Ferry"'));
  await preview.getByRole('button', { name: 'Take it in and open it' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of the rig' })).toHaveValue('Second Ferry');
  await page.getByLabel('Rig Night Ferry').getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('Night Ferry was deleted')).toBeVisible();
  await expect(page.getByLabel('Rig Night Ferry')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect(page.getByLabel('Rig Night Ferry')).toBeVisible();
  await page.getByRole('textbox', { name: 'Name of the rig' }).fill('Third Ferry');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary', { name: 'History' })).toContainText('the rig: name');
});

test('rigs: what is clicked twice is done once, and one that cannot be brought back now is offered again', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/rigs`);
  let letGo = () => {};
  const held = new Promise<void>((resolve) => (letGo = resolve));
  await page.route('**/api/rigs', async (route) => {
    await held;
    await route.continue();
  });
  await page.getByLabel('Rig Night Ferry').getByRole('button', { name: 'Duplicate' }).dblclick();
  letGo();
  const copy = page.getByLabel('Rig Night Ferry copy');
  await expect(copy).toHaveCount(1);
  expect(await (await fetch(`${pumice.url}/api/rigs`)).json()).toHaveLength(2);
  await page.unroute('**/api/rigs');

  await copy.getByRole('button', { name: 'Delete' }).click();
  const undo = page.getByRole('alert').filter({ hasText: 'Night Ferry copy was deleted' }).getByRole('button', { name: 'Undo' });
  await expect(copy).toHaveCount(0);
  await page.route('**/api/rigs', (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()));
  await undo.click();
  await expect(page.getByText('Pumice does not answer now: try again in a moment.')).toBeVisible();
  await page.unroute('**/api/rigs');
  await undo.click();
  await expect(copy).toHaveCount(1);
});

for (const path of ['/ledger', '/rigs', '/stage']) {
  test(`axe finds nothing serious on ${path}, on the Bench and on Stage`, async ({ pumice, page }) => {
    await openBench(page, `${pumice.url}${path}`);
    expect(await faultsOf(page)).toEqual([]);
    await goOnStage(page, pumice);
    expect(await faultsOf(page)).toEqual([]);
  });
}
