import type { Locator } from '@playwright/test';
import { TestClient } from '../helpers/client';
import { expect, goOnStage, openBench, Tablet, test } from '../helpers/journey';

test('a computer that loses its network goes on Stage, and keeps what is set', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/takes`);
  await page.getByRole('button', { name: 'Recording…' }).click();
  const metronome = page.getByRole('dialog', { name: 'Recording' }).getByRole('switch', { name: 'Metronome' });
  await expect(metronome).not.toBeChecked();
  // As a browser says it when the cable is pulled; this computer is there as before.
  await page.evaluate(() => window.dispatchEvent(new Event('offline')));
  await metronome.click();
  await expect(metronome).toBeChecked();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Go on Stage' }).click();
  await expect(page.locator('[data-mode="stage"]')).toBeVisible();
});

test('a number of five figures that leaves is shown whole, on Mappings and on Stage', async ({ pumice, page }) => {
  expect((await pumice.edit('fog', { message: { kind: 'controlChange14', channel: 3, controller: 21, range: [0, 16383] } })).status).toBe(200);
  const client = await TestClient.open(pumice.hubPort, 'wheelhouse');
  const cut = () => page.locator('[data-leaving] [data-value]').evaluateAll((numbers) => numbers.flatMap((number) => (number.scrollWidth > number.clientWidth || number.scrollHeight > number.clientHeight + 1 ? [number.textContent] : [])));
  await openBench(page, `${pumice.url}/mappings`);
  client.move('wheelhouse.fog', 1);
  await expect(page.locator('[data-leaving] [data-value]', { hasText: '16383' })).toBeVisible();
  expect(await cut()).toEqual([]);
  await goOnStage(page, pumice);
  await page.goto(`${pumice.url}/stage`);
  // It shows what moves while it looks.
  await expect(async () => {
    client.move('wheelhouse.fog', 0.5);
    client.move('wheelhouse.fog', 1);
    await expect(page.locator('[data-leaving] [data-value]', { hasText: '16383' })).toBeVisible({ timeout: 1000 });
  }).toPass();
  expect(await cut()).toEqual([]);
  client.close();
});

test('Stage locks every edit and goes dark; a deliberate hold comes back, a short press does not', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'Go on Stage' }).click();
  await expect(page.locator('[data-mode="stage"]')).toBeVisible();
  await expect(page).toHaveURL(/\/stage$/);
  // Scrollbars and what lies beyond the ends of the page as well.
  const byBrowser = () => page.evaluate(() => [getComputedStyle(document.documentElement).colorScheme, getComputedStyle(document.body).backgroundColor]);
  expect(await byBrowser()).toEqual(['dark', 'rgb(21, 23, 26)']);
  await page.getByRole('button', { name: 'Open water' }).click();
  await expect(page.getByRole('button', { name: 'Open water' })).toHaveAttribute('aria-current', 'true');
  await expect(page.getByRole('button', { name: 'Panic' }).last()).toBeVisible();
  await expect(page.getByRole('spinbutton', { name: 'Tempo' })).toBeDisabled();
  await page.getByRole('link', { name: 'Mappings' }).click();
  await expect(page.getByRole('switch', { name: 'Rust is on' })).toBeDisabled();
  await page.getByRole('button', { name: 'Hold for Bench' }).click();
  // Longer than the hold takes, by what the page itself says.
  const client = await TestClient.open(pumice.hubPort, 'wheelhouse');
  client.move('wheelhouse.fog', 0.9);
  const fog = page.getByRole('listitem').filter({ hasText: 'Fog density' });
  await expect(fog.locator('[data-value]')).toHaveText('114');
  await expect(fog.getByText(/^heard [2-9] s ago$/)).toBeVisible();
  client.close();
  await expect(page.locator('[data-mode="stage"]')).toBeVisible();
  await page.getByRole('button', { name: 'Hold for Bench' }).hover();
  await page.mouse.down();
  await expect(page.locator('[data-mode="bench"]')).toBeVisible();
  await page.mouse.up();
  await expect(page.locator('[data-mode="bench"]')).toBeVisible();
  expect(await byBrowser()).toEqual(['normal', 'rgb(244, 241, 234)']);
});

test('Panic is heard while a palm lies on the screen', async ({ pumice, browser }) => {
  const tablet = await Tablet.open(browser, `${pumice.url}/stage`, 'attached');
  const [palm, box] = [{ id: 1, x: 700, y: 300 }, (await tablet.page.getByRole('button', { name: /Panic/ }).last().boundingBox())!];
  await tablet.fingers('touchStart', palm);
  await tablet.fingers('touchStart', palm, { id: 2, x: box.x + box.width / 2, y: box.y + box.height / 2 });
  await tablet.fingers('touchEnd');
  await expect(tablet.page.getByText('Panic: no note sounded')).toBeVisible();
  await tablet.close();
});

test('on Stage a finger beside a palm recalls a scene without what serves the pages; one that slides off does not', async ({ pumice, browser }) => {
  const tablet = await Tablet.open(browser, `${pumice.url}/stage`, 'attached');
  await goOnStage(tablet.page, pumice);
  const { pid } = (await pumice.health()).web;
  process.kill(pid, 'SIGSTOP');
  const scene = (name: string) => tablet.page.getByRole('navigation', { name: 'Scenes' }).getByRole('button', { name });
  const [palm, harbour, landfall] = [{ id: 1, x: 700, y: 300 }, (await scene('Harbour').boundingBox())!, (await scene('Landfall').boundingBox())!];
  const on = ({ x, y, width, height }: typeof harbour) => ({ id: 2, x: x + width / 2, y: y + height / 2 });
  await tablet.fingers('touchStart', palm);
  await tablet.fingers('touchStart', palm, on(landfall));
  const slid = { ...on(landfall), x: landfall.x + landfall.width + 60 };
  await tablet.fingers('touchMove', palm, slid);
  await tablet.fingers('touchEnd', slid);
  await tablet.fingers('touchStart', palm, on(harbour));
  await tablet.fingers('touchEnd', on(harbour));
  await expect(scene('Harbour')).toHaveAttribute('aria-current', 'true');
  await expect(scene('Landfall')).not.toHaveAttribute('aria-current', 'true');
  process.kill(pid, 'SIGCONT');
  await tablet.close();
});

test('neither a bend that turns nor a longer list of what is missing moves anything beside it', async ({ pumice, page }) => {
  expect((await pumice.edit('fog', { message: { kind: 'pitchBend', channel: 3, unit: 'semitones', range: [-12, 12] } })).status).toBe(200);
  const client = await TestClient.open(pumice.hubPort, 'wheelhouse');
  await openBench(page, `${pumice.url}/stage`);
  const number = page.getByRole('region', { name: 'What leaves' }).locator('[data-value]').first();
  /** Where the parts of its row are, once this leaves. */
  const placesAt = async (value: number, leaves: string) => {
    // It shows what moves while it looks.
    await expect(async () => {
      client.move('wheelhouse.fog', 1);
      client.move('wheelhouse.fog', value);
      await expect(number).toHaveText(leaves, { timeout: 1000 });
    }).toPass();
    return number.evaluate((element) => [...element.closest('li')!.querySelectorAll('*')].map((part) => JSON.stringify(part.getBoundingClientRect())));
  };
  expect(await placesAt(0.06, '-10.6')).toEqual(await placesAt(0.5, '0'));
  client.close();

  const boxOf = async (what: Locator) => (await what.boundingBox())!;
  const [panic, footer] = [page.getByRole('button', { name: 'Panic' }).last(), page.locator('footer')];
  await expect(footer).toContainText('Gulls');
  const [before, height] = [await boxOf(panic), (await boxOf(footer)).height];
  const { inputs } = (await pumice.playing()).document;
  const gulls = inputs.find(({ name }) => name === 'Gulls')!;
  const long = `Gulls ${'over the harbour '.repeat(4)}`.trim();
  await pumice.give({ kind: 'change', changes: [{ list: 'inputs', id: gulls.id, to: { ...gulls, name: long } }] });
  await expect(footer).toContainText(long);
  expect((await boxOf(footer)).height).toBeGreaterThan(height);
  expect(await boxOf(panic)).toEqual(before);
});
