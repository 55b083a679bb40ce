import { expect, keepSayings, openBench, test } from '../helpers/journey';
import { TestClient } from '../helpers/client';
import { kill, waitFor } from '../helpers/pumice';

test('the hub is killed while a fader moves: the page says so, comes back, and the finger goes on', async ({ pumice, tablet, monitor }) => {
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 420 });
  await tablet.fingers('touchMove', { id: 1, x: 80, y: 294 });
  await waitFor('half way', () => monitor.sent.includes('weather B2 15 40'));
  const { hub } = await pumice.health();
  const said = await keepSayings(tablet.page);
  kill(hub.pid);
  // The hub is back within a second.
  await expect.poll(said).toContain('No connection to Pumice.');
  for (let y = 290; y > 250; y -= 10) await tablet.fingers('touchMove', { id: 1, x: 80, y });
  await tablet.page.locator('[data-line="open"]').waitFor();
  // A finger is never quite still; one that the page had let go of would move nothing however often it trembled.
  let trembles = 0;
  await waitFor('the top', async () => {
    await tablet.fingers('touchMove', { id: 1, x: 80, y: 42 - (trembles++ % 2) });
    return monitor.sent.includes('weather B2 15 7F');
  });
  await tablet.fingers('touchEnd');
  await expect(tablet.control('fog').locator('.number')).toHaveText('127');
});

test('everything is killed and started again: the page comes back by itself with the true values', async ({ pumice, tablet }) => {
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 200 });
  await tablet.fingers('touchEnd');
  await expect(tablet.control('fog').locator('.number')).toHaveText('87');
  await waitFor('it to be written down', async () => Math.round(127 * ((await pumice.writtenValue('wheelhouse.fog')) ?? NaN)) === 87);
  await pumice.killAll();
  await expect(tablet.page.getByText('No connection to Pumice.')).toBeVisible();
  await pumice.run();
  await tablet.page.locator('[data-line="open"]').waitFor();
  await expect(tablet.control('fog').locator('.number')).toHaveText('87');
});

test('ten pages find back by themselves after everything was away for 20 s, one of them a moment after it was loaded anew', async ({ pumice, context }) => {
  const open = '[data-line="open"]';
  const pages = await Promise.all(
    Array.from({ length: 10 }, async () => {
      const page = await context.newPage();
      await page.goto(`${pumice.url}/play/wheelhouse`);
      await page.locator(open).waitFor();
      return page;
    }),
  );
  let asked = 0;
  pages[0]!.on('requestfailed', (request) => (asked += Number(request.url().endsWith('/here'))));
  await pumice.killAll();
  await expect(pages[0]!.getByText('No connection to Pumice. Waiting for it to answer at localhost')).toBeVisible();
  // It asks four times a second; the browser's own patience with failing sockets would end somewhere in here.
  await expect.poll(() => asked, { timeout: 60_000 }).toBeGreaterThan(80);
  await pumice.run();
  await pages[9]!.reload();
  for (const page of pages) await page.locator(open).waitFor();
});

test('the network is cut and comes back: the page says so and comes back', async ({ tablet, pumice }) => {
  await tablet.page.context().setOffline(true);
  // An open socket outlives Chromium's offline switch, so the hub's side is cut too.
  process.kill((await pumice.health()).hub.pid, 'SIGSTOP');
  await expect(tablet.page.getByText('No connection to Pumice.')).toBeVisible();
  await tablet.page.context().setOffline(false);
  process.kill((await pumice.health()).hub.pid, 'SIGCONT');
  await tablet.page.locator('[data-line="open"]').waitFor();
});

test('what fingers hold while the network is cut sounds again, and presses nothing a second time', async ({ tablet, pumice, monitor }) => {
  await pumice.edit('bell', { message: { kind: 'controlChange', channel: 10, controller: 30, range: [0, 127] }, gate: { press: 'toggle' } });
  const [bell, horn] = [{ id: 1, x: 130, y: 690 }, { id: 2, x: 360, y: 690 }];
  const sent = (wanted: RegExp) => monitor.sent.filter((message) => wanted.test(message)).map((message) => message.split(' ').slice(1).join(' '));
  const toggled = () => sent(/^bell-and-rigging B9 1E /);
  const sounded = () => sent(/^bell-and-rigging [89]9 2B /);
  await tablet.fingers('touchStart', bell, horn);
  await waitFor('the horn', () => sounded().length === 1 && toggled().length === 1);
  process.kill((await pumice.health()).hub.pid, 'SIGSTOP');
  await expect(tablet.page.getByText('No connection to Pumice.')).toBeVisible();
  process.kill((await pumice.health()).hub.pid, 'SIGCONT');
  await tablet.page.locator('[data-line="open"]').waitFor();
  // Once the hub has heard the fingers again: a third one comes after what they say.
  const fog = { id: 3, x: 80, y: 200 };
  await tablet.fingers('touchStart', bell, horn, fog);
  await waitFor('the fog', () => sent(/^weather B2 15 /).length > 0);
  // Struck again where the hub had let go of it, and held on where the page was back before that.
  expect(sounded().at(-1)).toMatch(/^99 2B/);
  await tablet.fingers('touchEnd');
  await waitFor('its end', () => sounded().at(-1)!.startsWith('89'));
  expect(toggled()).toEqual(['B9 1E 7F']);
  await tablet.fingers('touchStart', bell);
  await waitFor('the next press', () => toggled().length === 2);
  expect(toggled().at(-1)).toBe('B9 1E 00');
  await tablet.fingers('touchEnd');
});

test('the bench says that the line is down, and follows again afterwards', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  process.kill((await pumice.health()).hub.pid, 'SIGSTOP');
  await expect(page.getByText('What you see may be old.')).toBeVisible();
  process.kill((await pumice.health()).hub.pid, 'SIGCONT');
  await expect(page.getByText('No connection to Pumice.')).toBeHidden();
  // Figures are the page's, pictures those of a worker with a line of its own: both follow.
  const fog = page.locator('[data-band]').filter({ hasText: 'Fog density' });
  const picture = fog.locator('[data-picture="band"]');
  const meter = fog.locator('[data-picture="meter"]');
  const [atRest, empty] = [await picture.screenshot(), await meter.screenshot()];
  const surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
  surface.move('wheelhouse.fog', 1);
  await expect(fog.locator('[data-value]')).toHaveText('127');
  await waitFor('the picture to move', async () => !(await picture.screenshot()).equals(atRest) && !(await meter.screenshot()).equals(empty));
  surface.close();
});

test('pictures whose worker did not come are drawn as soon as it can be had', async ({ pumice, page }) => {
  let refused = 0;
  await page.route('**/_next/static/chunks/turbopack-worker-*', async (route) => {
    if (refused++ === 0) await route.abort('connectionreset');
    else await route.continue();
  });
  await openBench(page, `${pumice.url}/mappings`);
  await waitFor('the second try', () => refused > 1);
  const fog = page.locator('[data-band]').filter({ hasText: 'Fog density' });
  const meter = fog.locator('[data-picture="meter"]');
  await meter.locator('canvas').waitFor();
  const empty = await meter.screenshot();
  const surface = await TestClient.open(pumice.hubPort, 'wheelhouse');
  surface.move('wheelhouse.fog', 1);
  await expect(fog.locator('[data-value]')).toHaveText('127');
  await waitFor('the picture to move', async () => !(await meter.screenshot()).equals(empty));
  surface.close();
});
