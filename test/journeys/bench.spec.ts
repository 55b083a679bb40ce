import type { Locator, Page } from '@playwright/test';
import { faultsOf } from '../helpers/axe';
import { expect, goOnStage, isAtRest, openBench, test } from '../helpers/journey';
import { waitFor } from '../helpers/pumice';

/** A number counts once it is finished. */
async function finish(panel: Locator, name: string, number: string): Promise<void> {
  const field = panel.getByRole('spinbutton', { name });
  await field.fill(number);
  await field.press('Enter');
}

test('a mapping is changed on screen: heard at once, saved, there again after a kill', async ({ pumice, tablet, monitor, page }) => {
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 42 });
  await tablet.fingers('touchEnd');
  await waitFor('the fog', () => monitor.sent.includes('weather B2 15 7F'));

  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'Shape Fog density' }).click();
  const panel = page.getByRole('complementary', { name: 'Shaping of Fog density' });
  await finish(panel, 'Channel', '5');
  await waitFor('channel 5', () => monitor.sent.includes('weather B4 15 7F'));
  await finish(panel, 'Controller', '33');
  await waitFor('controller 33', () => monitor.sent.includes('weather B4 21 7F'));
  await finish(panel, 'Range out, to', '100');
  await waitFor('100', () => monitor.sent.includes('weather B4 21 64'));
  await panel.getByText('Falling').click();
  await waitFor('the other direction', () => monitor.sent.includes('weather B4 21 00'));
  await panel.getByRole('combobox', { name: 'Smoothing' }).click();
  await page.getByTitle('Even (one-pole)').click();
  await finish(panel, 'Smoothing time in ms', '250');
  await waitFor('the smoothing to be kept', async () => JSON.stringify(await pumice.playing()).includes('"timeConstantMs":250'));
  await expect(page.getByText(/^saved \d\d:\d\d:\d\d$/)).toBeVisible();

  monitor.facts.length = 0;
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 546 });
  await tablet.fingers('touchEnd');
  await waitFor('a smoothed way up', () => monitor.sent.includes('weather B4 21 64'));
  // However seldom a busy machine ticks: it came by steps.
  expect(monitor.sent.filter((line) => line.startsWith('weather B4 21')).length).toBeGreaterThan(2);

  await pumice.killAll();
  await pumice.run();
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'Shape Fog density' }).click();
  await expect(panel.getByRole('spinbutton', { name: 'Channel' })).toHaveValue('5');
  await expect(panel.getByRole('spinbutton', { name: 'Controller' })).toHaveValue('33');
  await expect(panel.getByRole('spinbutton', { name: 'Range out, from' })).toHaveValue('100');
  await expect(panel.getByRole('spinbutton', { name: 'Range out, to' })).toHaveValue('0');
  await expect(panel.getByRole('spinbutton', { name: 'Smoothing time in ms' })).toHaveValue('250');
});

test('two windows on one rig stay in step', async ({ pumice, page, browser }) => {
  await openBench(page, `${pumice.url}/mappings`);
  const other = await browser.newPage();
  await openBench(other, `${pumice.url}/mappings`);
  await expect(other.getByRole('switch', { name: 'Rust is on' })).toBeChecked();
  await page.getByRole('switch', { name: 'Rust is on' }).click();
  await expect(other.getByRole('switch', { name: 'Rust is on' })).not.toBeChecked();
  await other.getByRole('textbox', { name: 'Name of the rig' }).fill('Late Ferry');
  await other.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Name of the rig' })).toHaveValue('Late Ferry');
  await other.close();
});

test('F8 is Panic: the note that sounds ends, and every channel in use is silenced', async ({ pumice, tablet, monitor, page }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await tablet.fingers('touchStart', { id: 1, x: 360, y: 690 });
  await waitFor('the horn', () => monitor.sent.includes('bell-and-rigging 99 2B 70'));
  await page.keyboard.press('F8');
  await waitFor('its end', () => monitor.sent.includes('bell-and-rigging 89 2B 40'));
  await waitFor('all sound off', () => monitor.sent.includes('weather B2 78 00') && monitor.sent.includes('engine-room B0 7B 00'));
  await expect(page.getByText('Panic: one note ended, and every channel in use is silenced.')).toBeVisible();
});

test('F8 is Panic on a surface too; a name that is too long is said and the old one stays', async ({ pumice, tablet, monitor, page }) => {
  await tablet.fingers('touchStart', { id: 1, x: 360, y: 690 });
  await waitFor('the horn', () => monitor.sent.includes('bell-and-rigging 99 2B 70'));
  await tablet.page.keyboard.press('F8');
  await waitFor('all sound off', () => monitor.sent.includes('weather B2 78 00'));
  await openBench(page, `${pumice.url}/outputs`);
  const name = page.getByRole('textbox', { name: 'Name of the rig' });
  await name.fill('x'.repeat(10_000));
  await page.keyboard.press('Enter');
  await expect(page.getByText('A name has at most 80 characters, and this one has 10,000: it stays Night Ferry.')).toBeVisible();
  await expect(name).toHaveValue('Night Ferry');
});

test('a refused edit is said in a sentence and taken back on screen', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  await page.route('**/edits', (route) => route.fulfill({ status: 400, json: { problem: { code: 'invalid', field: 'x', message: 'The sea is too rough for that.' } } }));
  await page.getByRole('switch', { name: 'Rust is on' }).click();
  await expect(page.getByText('The sea is too rough for that.')).toBeVisible();
  await expect(page.getByRole('switch', { name: 'Rust is on' })).toBeChecked();
});

for (const path of ['/mappings', '/ensemble', '/surfaces', '/outputs', '/play/wheelhouse']) {
  test(`axe finds nothing serious on ${path}, on the Bench and on Stage`, async ({ pumice, page }) => {
    await openBench(page, pumice.url + path);
    if (path === '/mappings') {
      await page.getByRole('button', { name: 'Shape Swell height' }).click();
      await page.getByRole('complementary', { name: 'Shaping of Swell height' }).waitFor();
    }
    if (path === '/ensemble') {
      await page.getByRole('button', { name: 'Settings of Engine pattern' }).click();
      await page.getByRole('group', { name: 'Steps' }).waitFor();
    }
    await isAtRest(page);
    expect(await faultsOf(page)).toEqual([]);
    // A surface looks the same on Stage; what differs there is known where it is loaded.
    if (path.startsWith('/play')) {
      await pumice.post('/api/stage', { stage: true });
      await openBench(page, pumice.url + path);
      await isAtRest(page);
    } else await goOnStage(page, pumice);
    expect(await faultsOf(page)).toEqual([]);
  });
}

test('what is open is found again after a reload, by Back and after Stage; Escape closes it and gives the focus back', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  const panel = page.getByRole('complementary', { name: 'Shaping of Swell height' });
  const opener = page.getByRole('button', { name: 'Shape Swell height' });
  await opener.focus();
  await page.keyboard.press('Enter');
  await expect(panel).toBeFocused();
  await page.reload();
  await expect(panel).toBeVisible();
  await page.getByRole('button', { name: 'Go on Stage' }).click();
  await expect(page).toHaveURL(/\/stage$/);
  const hold = page.getByRole('button', { name: 'Hold for Bench' });
  await hold.focus();
  await page.keyboard.down('Space');
  await expect(page).toHaveURL(/\/mappings#/);
  await page.keyboard.up('Space');
  await expect(panel).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
  await expect(page).toHaveURL(/\/mappings$/);
  await page.goBack();
  await expect(panel).toBeVisible();
});

test('menus and windows by keys alone: the focus is in them as they open, and where it was as they close', async ({ pumice, page }) => {
  const open = async (path: string, opener: string) => {
    await openBench(page, `${pumice.url}/${path}`);
    const button = page.getByRole('button', { name: opener, exact: true });
    await button.focus();
    await page.keyboard.press('Enter');
    return button;
  };
  const more = await open('mappings', 'More for the scene Harbour');
  const look = page.getByRole('menuitem', { name: 'Look at it, change it' });
  await expect(look).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(more).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(look).toBeFocused();
  await page.keyboard.press('Enter');
  const scene = page.getByRole('dialog', { name: 'Scene Harbour' });
  await expect(scene).toBeVisible();
  await expect(scene.or(scene.locator('*')).and(page.locator(':focus'))).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(scene).toBeHidden();
  await expect(more).toBeFocused();

  const take = page.getByRole('button', { name: 'Take a scene' });
  await take.focus();
  await page.keyboard.press('Enter');
  const name = page.getByRole('textbox', { name: 'Name of the scene' });
  await expect(name).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(take).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(name).toBeFocused();
  await page.keyboard.type('Late');
  const takeIt = page.getByRole('button', { name: 'Take it' });
  await expect(takeIt).toBeEnabled();
  // Somebody goes on Stage meanwhile: what the window would do is locked like everything else.
  await pumice.post('/api/stage', { stage: true });
  await expect(takeIt).toBeDisabled();
  await page.keyboard.press('Enter');
  await expect(takeIt).toBeVisible();
  await pumice.post('/api/stage', { stage: false });
  await expect(takeIt).toBeEnabled();
  await page.keyboard.press('Escape');
  // Its button was gone meanwhile.
  await expect(page.getByRole('main')).toBeFocused();

  // The Enter that opened it, held a little long, is not its own.
  await openBench(page, `${pumice.url}/surfaces`);
  await page.getByRole('button', { name: 'New surface…' }).focus();
  await page.keyboard.down('Enter');
  await expect(page.getByRole('textbox', { name: 'Name', exact: true })).toBeFocused();
  await page.keyboard.down('Enter');
  await page.keyboard.up('Enter');
  await page.keyboard.type('Aft deck');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Designer of Aft deck' })).toBeVisible();
  expect((await pumice.playing()).document.surfaces.map(({ name }) => name).slice(4)).toEqual(['Aft deck']);

  // What is chosen stands in what it changes.
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('radio', { name: 'Messages' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('region', { name: 'Delay' })).toBeVisible();
  await expect(page.getByRole('radio', { name: 'Delay' })).toBeFocused();

  await open('ensemble', 'By a gate…');
  await expect(page.getByRole('tooltip').getByRole('combobox', { name: 'Tap the tempo' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'By a gate…' })).toBeFocused();

  await open('inputs', 'Add an input');
  await expect(page.getByRole('menuitem').first()).toBeFocused();
  const another = page.context().waitForEvent('page');
  await page.getByRole('menuitem', { name: /^A microphone/ }).focus();
  await page.keyboard.press('Enter');
  await expect(await another).toHaveURL(/\/listen$/);
  await (await another).close();

  // What it came from goes with what it removes: the next Tab is on this screen.
  await open('inputs', 'More for Mooring');
  await expect(page.getByRole('menuitem', { name: 'Name and settings' })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove Mooring' }).focus();
  await page.keyboard.press('Enter');
  const asked = page.getByRole('dialog', { name: 'Remove Mooring?' });
  await expect(asked).toContainText('With it go 2 signals, 1 derived signal and');
  await asked.getByRole('button', { name: 'Remove', exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('article', { name: 'Input Mooring' })).toHaveCount(0);
  await expect(page.getByRole('main')).toBeFocused();
});

test('an address that leads nowhere says so, and its page keeps to the policy', async ({ pumice, page }) => {
  const complaints: string[] = [];
  page.on('console', (message) => message.text().includes('Content Security Policy') && complaints.push(message.text()));
  const answer = await page.goto(`${pumice.url}/no/such/place`);
  expect(answer!.status()).toBe(404);
  await expect(page.getByRole('heading', { name: 'There is nothing at this address.' })).toBeVisible();
  expect(await faultsOf(page)).toEqual([]);
  await page.getByRole('link', { name: 'To the Bench' }).click();
  await expect(page.getByRole('heading', { name: /Mappings/ })).toBeVisible();
  expect(complaints).toEqual([]);
});

test('on a phone the Bench is scenes, what leaves and Panic, all on the screen', async ({ pumice, tablet, browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  await openBench(phone, `${pumice.url}/mappings`);
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 294 });
  await tablet.fingers('touchEnd');
  await expect(phone.getByText('Fog density')).toBeVisible();
  await expect(phone.getByText(/want a wider window/)).toBeVisible();
  const box = (await phone.getByRole('button', { name: /Panic/ }).boundingBox())!;
  expect(box.x + box.width).toBeLessThanOrEqual(390);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await context.close();
});

/** What is beyond the right edge of the window, and cannot be scrolled to. */
const outOfReach = (page: Page) =>
  page.evaluate(() => {
    const isOut = (element: Element) => element.getBoundingClientRect().right > innerWidth + 1;
    const isReached = (element: Element): boolean => {
      for (let around = element.parentElement; around; around = around.parentElement) if (/auto|scroll/.test(getComputedStyle(around).overflowX) && !isOut(around)) return true;
      return false;
    };
    return [...document.querySelectorAll('button, input, a, h1, h2, th')].filter((element) => element.checkVisibility() && isOut(element) && !isReached(element)).map(({ textContent, outerHTML }) => textContent || outerHTML);
  });

test('every screen is whole at 1024 x 768, with what opens beside it', async ({ pumice, page }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  const click = (name: string) => page.getByRole('button', { name, exact: true }).last().click();
  const opens: Record<string, (() => Promise<void>) | null> = {
    inputs: () => click('Calibrate'),
    mappings: () => click('Shape Lamp hum'),
    ensemble: () => click('Settings of Keel bass'),
    surfaces: null,
    'surfaces/wheelhouse': () => click('Fog'),
    outputs: () => click('Settings of Weather'),
    ledger: null,
    takes: null,
    rigs: null,
    stage: null,
  };
  for (const [screen, open] of Object.entries(opens)) {
    await openBench(page, `${pumice.url}/${screen}`);
    expect(await outOfReach(page), screen).toEqual([]);
    if (!open) continue;
    const before = await page.locator('aside, h2').allInnerTexts();
    await open();
    await expect.poll(() => page.locator('aside, h2').allInnerTexts()).not.toEqual(before);
    expect(await outOfReach(page), `${screen}, opened`).toEqual([]);
  }
});

test('nothing of the bar runs out of it at any width, however much it counts, also while a take is recorded', async ({ pumice, page }) => {
  const runsOut = async (screen: string) => {
    // As in a busy moment, and as long as it is looked at.
    await page.locator('header dl dd').evaluateAll((facts) => ['1194/s', '1194/s', 'usual 18.1 most 208.1 ms'].forEach((fact, i) => (facts[i]!.textContent = fact)));
    for (let width = 780; width <= 1300; width += 20) {
      await page.setViewportSize({ width, height: 800 });
      expect(await outOfReach(page), `${screen}, ${width} px wide`).toEqual([]);
    }
  };
  await openBench(page, `${pumice.url}/stage`);
  await runsOut('Stage');
  // Whoever clicks twice to be sure records all the same, and has ended it all the same.
  await page.getByRole('button', { name: 'Record a take' }).dblclick();
  await expect(page.getByRole('button', { name: 'End the take' })).toBeVisible();
  await runsOut('Stage, recording');
  await page.getByRole('button', { name: 'End the take' }).dblclick();
  await expect(page.getByRole('button', { name: 'Record a take' })).toBeVisible();
});

test('at 200 % in a window of 1280 x 800 nothing is wider than it, and Panic stays in view', async ({ pumice, page }) => {
  await page.setViewportSize({ width: 640, height: 400 });
  for (const screen of ['mappings', 'outputs', 'surfaces/wheelhouse', 'stage']) {
    await openBench(page, `${pumice.url}/${screen}`);
    const { wide, high } = await page.evaluate(() => ({ wide: document.documentElement.scrollWidth, high: document.documentElement.scrollHeight }));
    expect(wide, screen).toBe(640);
    await page.evaluate((to) => scrollTo(0, to), high);
    await expect(page.getByRole('banner').getByRole('button', { name: /Panic/ })).toBeInViewport({ ratio: 1 });
  }
});

test('what is asked for while there is no line is said to go nowhere; Panic says that it waits', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/ensemble`);
  const { pid } = (await pumice.health()).hub;
  process.kill(pid, 'SIGSTOP');
  await expect(page.getByText('No connection to Pumice.')).toBeVisible();
  await page.getByRole('button', { name: 'Start from the beginning' }).click();
  await expect(page.getByText('That could not be said: there is no connection to Pumice.')).toBeVisible();
  await page.keyboard.press('F8');
  await expect(page.getByText('There is no connection to Pumice: Panic goes out if it is back within 5 s.')).toBeVisible();
  process.kill(pid, 'SIGCONT');
  await page.locator('[data-line="open"]').waitFor({ state: 'attached' });
});
