import type { RigSurface } from '../../src/core/rig/document';
import { expect, openBench, test, Tablet } from '../helpers/journey';
import { waitFor } from '../helpers/pumice';

/** On the tablet's 1180 x 820: the wells of the faders go from y 42 (1) to y 546 (0). */
const FOG = { x: 80 };
const SWELL = { x: 340 };

test('a finger on Fog moves Weather, and the monitor shows channel 3 · CC 21 · 87 with bytes, time and mapping', async ({ pumice, tablet, page }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await tablet.fingers('touchStart', { id: 1, ...FOG, y: 400 });
  await tablet.fingers('touchMove', { id: 1, ...FOG, y: 300 });
  await tablet.fingers('touchMove', { id: 1, ...FOG, y: 200 });
  await tablet.fingers('touchEnd');
  const row = page.locator('tr[data-direction="out"]').first();
  await expect(row.locator('td')).toHaveText([/^\d\d:\d\d:\d\d\.\d{3}$/, '→', 'channel 3 · CC 21 · 87', 'B2 15 57', 'Weather', 'Fog density', /^\d+(\.\d)? ms$/]);
  const weather = page.getByRole('article', { name: 'Output Weather' });
  await expect(weather.getByText('ch 3 · CC 21')).toBeVisible();
  await expect(weather.locator('[data-value]')).toHaveText('87');
});

test('a finger is heard as soon as it moves, and drawn with the frame; where a browser says it with the frame alone, then', async ({ tablet, monitor }) => {
  const fog = tablet.control('fog');
  await fog.evaluate((element) => element.addEventListener('pointerdown', (event) => (element.dataset.finger = String((event as PointerEvent).pointerId))));
  await tablet.fingers('touchStart', { id: 1, ...FOG, y: 546 });
  await expect(fog).toHaveAttribute('data-held', 'true');
  /** The browser says that the finger moved, and nothing else; what the fader shows at once. */
  const says = (kind: 'pointerrawupdate' | 'pointermove', clientY: number) =>
    fog.evaluate(
      (element, [name, y]) => {
        element.dispatchEvent(new PointerEvent(name, { pointerId: Number(element.dataset.finger), pointerType: 'touch', clientX: 80, clientY: y, bubbles: true }));
        return element.querySelector('.number')!.textContent;
      },
      [kind, clientY] as const,
    );
  expect(await says('pointerrawupdate', 294)).toBe('0');
  await waitFor('half of Fog', () => monitor.sent.includes('weather B2 15 40'));
  expect(await says('pointermove', 294)).toBe('64');
  expect(await says('pointermove', 42)).toBe('127');
  await waitFor('all of Fog', () => monitor.sent.includes('weather B2 15 7F'));
  expect(monitor.sent.filter((sent) => sent === 'weather B2 15 40')).toHaveLength(1);
});

test('two fingers move two faders at once; one that slides off keeps its fader; lifting ends it', async ({ tablet, monitor }) => {
  await tablet.fingers('touchStart', { id: 1, ...FOG, y: 546 }, { id: 2, ...SWELL, y: 42 });
  await expect(tablet.control('fog')).toHaveAttribute('data-held', 'true');
  await expect(tablet.control('swell')).toHaveAttribute('data-held', 'true');
  for (let step = 1; step <= 20; step++) {
    await tablet.fingers('touchMove', { id: 1, ...FOG, y: 546 - step * 25.2 }, { id: 2, ...SWELL, y: 42 + step * 25.2 });
  }
  await waitFor('both to arrive', () => monitor.sent.includes('weather B2 15 7F') && monitor.sent.includes('weather B2 16 00'));
  const both = monitor.facts.flatMap((fact) => (fact.direction === 'in' && !fact.signal.endsWith('.touch') ? [fact.signal] : []));
  const turns = both.filter((signal, i) => signal !== both[i - 1]).length;
  expect(turns).toBeGreaterThan(10);

  // The first finger slides over three other controls and still moves Fog alone.
  monitor.facts.length = 0;
  await tablet.fingers('touchMove', { id: 1, x: 460, y: 294 }, { id: 2, ...SWELL, y: 546 });
  await tablet.fingers('touchMove', { id: 1, x: 900, y: 700 }, { id: 2, ...SWELL, y: 546 });
  await waitFor('Fog to go down', () => monitor.sent.includes('weather B2 15 00'));
  expect(new Set(monitor.facts.flatMap((fact) => (fact.direction === 'in' ? [fact.signal] : [])))).toEqual(new Set(['wheelhouse.fog']));

  await tablet.fingers('touchEnd', { id: 1, x: 900, y: 700 });
  await expect(tablet.control('fog')).toHaveAttribute('data-held', 'false');
  await expect(tablet.control('swell')).toHaveAttribute('data-held', 'true');
  await tablet.fingers('touchEnd');
  await expect(tablet.control('swell')).toHaveAttribute('data-held', 'false');
  const touches = (control: string) => monitor.facts.flatMap((fact) => (fact.direction === 'in' && fact.signal === `wheelhouse.${control}.touch` ? [fact.value] : []));
  await waitFor('the end of Swell', () => touches('swell').length > 0);
  expect(touches('fog')).toEqual([0]);
});

test('what is held before the scripts are there is heard once they are; what was lifted meanwhile is not', async ({ pumice, browser, monitor }) => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 900 }, hasTouch: true });
  const page = await context.newPage();
  let letIn = (): void => undefined;
  const later = new Promise<void>((resolve) => (letIn = resolve));
  await page.route('**/_next/static/chunks/*.js', async (route) => {
    await later;
    await route.continue();
  });
  await page.goto(`${pumice.url}/play/wheelhouse`, { waitUntil: 'commit' });
  await page.locator('[data-control="fog"]').waitFor();
  await page.waitForFunction(() => 'pumiceEarlyFingers' in window);
  const cdp = await context.newCDPSession(page);
  const fingers = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...touchPoints: { id: number; x: number; y: number }[]) => cdp.send('Input.dispatchTouchEvent', { type, touchPoints });
  // The surface is put in the middle of this larger window and made larger once the scripts are there: a finger counts for what is under it then.
  const scale = Math.min(1280 / 1180, 900 / 820);
  const at = (x: number, y: number) => ({ x: (1280 - 1180 * scale) / 2 + x * scale, y: (900 - 820 * scale) / 2 + y * scale });
  const bell = { id: 1, ...at(130, 690) };
  await fingers('touchStart', bell);
  await fingers('touchEnd');
  await fingers('touchStart', { id: 2, ...at(FOG.x, 400) });
  await fingers('touchMove', { id: 2, ...at(FOG.x, 42) });
  letIn();
  const fog = page.locator('[data-control="fog"]');
  await expect(fog).toHaveAttribute('data-held', 'true');
  await waitFor('Fog where the finger is', () => monitor.sent.includes('weather B2 15 7F'));
  await fingers('touchMove', { id: 2, ...at(FOG.x, 546) });
  await waitFor('Fog to follow it', () => monitor.sent.includes('weather B2 15 00'));
  await fingers('touchEnd');
  await expect(fog).toHaveAttribute('data-held', 'false');
  expect(monitor.sent.filter((sent) => sent.startsWith('bell-and-rigging 99'))).toEqual([]);

  // It was lifted, not lost: the next finger on it sounds.
  await fingers('touchStart', bell);
  await waitFor('the bell', () => monitor.sent.includes('bell-and-rigging 99 43 64'));
  await context.close();
  await waitFor('its end', () => monitor.sent.includes('bell-and-rigging 89 43 40'));
});

test('a page of which a script does not come says so, and is loaded anew as soon as it can be had', async ({ pumice, browser }) => {
  for (const path of ['/play/wheelhouse', '/mappings', '/join']) {
    const context = await browser.newContext();
    const page = await context.newPage();
    let isAway = true;
    const refused = new Set<string>();
    await page.route('**/_next/static/chunks/*.js', async (route, request) => {
      if (!isAway || (refused.size > 0 && !refused.has(request.url()))) return route.continue();
      refused.add(request.url());
      await route.abort('connectionreset');
    });
    await page.goto(pumice.url + path);
    await expect(page.getByText('Not all of this page has come.')).toBeVisible();
    isAway = false;
    await expect(page.getByText('Not all of this page has come.')).toHaveCount(0);
    if (path !== '/join') await page.locator('[data-line="open"]').waitFor({ state: 'attached' });
    else await expect(page.getByRole('textbox').first()).toBeEditable();
    await context.close();
  }
});

test('a control that is taken away under its finger, and a page that is turned under another, end what they held; the rest plays on', async ({ pumice, tablet, monitor }) => {
  const edited = async (set: (surface: RigSurface) => RigSurface) => {
    const { document } = await pumice.playing();
    const surface = document.surfaces.find(({ id }) => id === 'wheelhouse')!;
    await pumice.give({ kind: 'change', changes: [{ list: 'surfaces', id: 'wheelhouse', to: set(surface) }] });
  };
  const touch = (control: string, value: 0 | 1) => monitor.facts.some((fact) => fact.direction === 'in' && fact.signal === `wheelhouse.${control}.touch` && fact.value === value);
  const heard = (control: string) => waitFor(`the finger on ${control}`, () => touch(control, 1));
  const letGo = (control: string) => waitFor(`${control} to be let go of`, () => touch(control, 0));
  await tablet.fingers('touchStart', { id: 1, ...FOG, y: 400 });
  await heard('fog');
  await edited((surface) => ({ ...surface, pages: surface.pages.map((page) => ({ ...page, controls: page.controls.filter(({ id }) => id !== 'fog') })) }));
  await expect(tablet.control('fog')).toHaveCount(0);
  await letGo('fog');
  await tablet.fingers('touchEnd');

  await edited((surface) => ({ ...surface, pages: [...surface.pages, { id: 'aft', name: 'Aft', controls: [] }], pageStrip: true }));
  const aft = tablet.page.getByRole('button', { name: 'Aft' });
  await aft.waitFor();
  const [swell, tab] = [(await tablet.control('swell').boundingBox())!, (await aft.boundingBox())!];
  const finger = { id: 1, x: swell.x + swell.width / 2, y: swell.y + swell.height / 2 };
  await tablet.fingers('touchStart', finger);
  await heard('swell');
  await tablet.fingers('touchStart', finger, { id: 2, x: tab.x + tab.width / 2, y: tab.y + tab.height / 2 });
  await expect(tablet.control('swell')).toHaveCount(0);
  await letGo('swell');
  await tablet.fingers('touchEnd');
  await tablet.page.getByRole('navigation', { name: 'Pages' }).getByRole('button').first().click();
  await tablet.fingers('touchStart', finger);
  await expect(tablet.control('swell')).toHaveAttribute('data-held', 'true');
  await tablet.fingers('touchEnd');
});

test('buttons, the pad and dials send what they are mapped to', async ({ tablet, monitor }) => {
  await tablet.fingers('touchStart', { id: 1, x: 130, y: 690 });
  await waitFor('the bell', () => monitor.sent.includes('bell-and-rigging 99 43 64'));
  await tablet.fingers('touchEnd');
  await waitFor('its end', () => monitor.sent.includes('bell-and-rigging 89 43 40'));
  await tablet.fingers('touchStart', { id: 1, x: 1138, y: 42 });
  await waitFor('full bearing and gust', () => monitor.sent.includes('weather B2 17 7F') && monitor.sent.includes('weather B2 18 7F'));
  await tablet.fingers('touchEnd');
  await tablet.fingers('touchStart', { id: 1, x: 1000, y: 640 });
  await tablet.fingers('touchMove', { id: 1, x: 1000, y: 420 });
  await tablet.fingers('touchEnd');
  await waitFor('rust at its end', () => monitor.sent.includes('engine-room B0 1A 7F'));
});

test('a point of the pad stays where it was put when the window becomes smaller', async ({ tablet }) => {
  // The far corner: all but the inset of 18 of 604 and 540 units.
  await tablet.fingers('touchStart', { id: 1, x: 1138, y: 42 });
  await tablet.fingers('touchEnd');
  const pad = tablet.control('wind');
  const place = () =>
    pad.evaluate((element) => {
      const [whole, point] = [element, element.querySelector('.point')!].map((each) => each.getBoundingClientRect()) as [DOMRect, DOMRect];
      return { size: Math.round(whole.width), across: (point.x + point.width / 2 - whole.x) / whole.width, up: (point.y + point.height / 2 - whole.y) / whole.height };
    });
  const there = (size: number) => ({ size, across: expect.closeTo(586 / 604, 2), up: expect.closeTo(18 / 540, 2) });
  await expect.poll(place).toEqual(there(604));
  await tablet.page.setViewportSize({ width: 590, height: 410 });
  await expect.poll(place).toEqual(there(302));
});

test('the keyboard alone moves a fader and presses a button', async ({ tablet, monitor }) => {
  await tablet.control('fog').focus();
  await tablet.page.keyboard.press('End');
  await waitFor('the top', () => monitor.sent.includes('weather B2 15 7F'));
  await tablet.page.keyboard.press('ArrowDown');
  await waitFor('a step down', () => monitor.sent.includes('weather B2 15 7C'));
  await tablet.control('horn').focus();
  await tablet.page.keyboard.down('Space');
  await waitFor('the horn', () => monitor.sent.includes('bell-and-rigging 99 2B 70'));
  await tablet.page.keyboard.up('Space');
  const ends = () => monitor.sent.filter((message) => message === 'bell-and-rigging 89 2B 40').length;
  await waitFor('its end', () => ends() === 1);

  // The focus goes elsewhere while it is held, and the key comes up there.
  await tablet.page.keyboard.down('Space');
  await waitFor('the horn again', () => monitor.sent.filter((message) => message === 'bell-and-rigging 99 2B 70').length === 2);
  await tablet.control('horn').blur();
  await waitFor('its end again', () => ends() === 2);
  await tablet.page.keyboard.up('Space');
});

test('a second tablet follows the first, and a reload shows the true values', async ({ pumice, tablet, browser }) => {
  const second = await Tablet.open(browser, `${pumice.url}/play/wheelhouse`);
  await tablet.fingers('touchStart', { id: 1, ...FOG, y: 200 });
  await expect(second.control('fog').locator('.number')).toHaveText('87');
  await tablet.fingers('touchEnd');
  await second.page.reload();
  await expect(second.control('fog').locator('.number')).toHaveText('87');
  await second.close();
});

test('a play page that breaks is there again by itself; one that breaks again at once says so and waits, and holds nothing', async ({ pumice, tablet, monitor, thrown }) => {
  // React finds none of what it put there: nothing of the program does that, some extensions of browsers do.
  const breaks = async (control: string) => {
    await tablet.control(control).evaluate((element) => element.remove());
    const { document } = await pumice.playing();
    const surface = document.surfaces.find(({ id }) => id === 'wheelhouse')!;
    const to = { ...surface, pages: surface.pages.map((page) => ({ ...page, controls: page.controls.filter(({ id }) => id !== control) })) };
    await pumice.give({ kind: 'change', changes: [{ list: 'surfaces', id: 'wheelhouse', to }] });
    await waitFor('the page to say it', () => thrown.length > 0);
    expect(thrown.splice(0)).toEqual([expect.stringContaining('NotFoundError')]);
  };
  await breaks('fog');
  await expect(tablet.control('swell')).toBeVisible();
  await tablet.page.locator('[data-line="open"]').waitFor();
  await tablet.page.evaluate(() => sessionStorage.setItem('pumice.loaded-anew', String(Date.now() + 5000)));
  const engine = (await tablet.control('engine').boundingBox())!;
  await tablet.fingers('touchStart', { id: 1, x: engine.x + engine.width / 2, y: engine.y + engine.height / 2 });
  await waitFor('the finger', () => monitor.facts.some((fact) => fact.direction === 'in' && fact.signal === 'wheelhouse.engine.touch' && fact.value > 0));
  await breaks('swell');
  await expect(tablet.page.getByRole('heading', { name: 'This page broke' })).toBeVisible();
  await waitFor('it to be let go of', () => monitor.facts.some((fact) => fact.direction === 'in' && fact.signal === 'wheelhouse.engine.touch' && fact.value === 0));
  await tablet.fingers('touchEnd');
  await tablet.page.getByRole('button', { name: 'Load it anew' }).click();
  await tablet.page.locator('[data-line="open"]').waitFor();
  await expect(tablet.control('engine')).toBeVisible();
});

test('a tablet shows the surface of the rig that is open, also when that is the one it began with again', async ({ pumice, tablet }) => {
  const { id, document } = await pumice.playing();
  const mist = document.surfaces.map((surface) => ({ ...surface, pages: surface.pages.map((page) => ({ ...page, controls: page.controls.map((control) => (control.id === 'fog' ? { ...control, label: 'Mist' } : control)) })) }));
  const { answer } = await pumice.post('/api/rigs', { ...document, name: 'Second watch', surfaces: mist });
  const shows = async (rig: string, number: number, label: string) => {
    expect((await pumice.post(`/api/rigs/${rig}/open`, {})).status).toBe(200);
    await expect(tablet.control('fog')).toHaveText(`${number}${label}`);
  };
  await tablet.fingers('touchStart', { id: 1, ...FOG, y: 200 });
  await tablet.fingers('touchEnd');
  await expect(tablet.control('fog')).toHaveText('87Fog');
  // There nothing was moved yet.
  await shows((answer as unknown as { id: string }).id, 0, 'Mist');
  await shows(id, 87, 'Fog');
  await shows((answer as unknown as { id: string }).id, 0, 'Mist');
});

test('a surface that does not exist is said so, with the ones that do', async ({ pumice, page }) => {
  await page.goto(`${pumice.url}/play/crows-nest`);
  await expect(page.getByRole('heading')).toHaveText('There is no surface “crows-nest” in Night Ferry.');
  await page.getByRole('link', { name: 'Wheelhouse' }).click();
  await expect(page.getByRole('slider', { name: 'Fog' })).toBeVisible();
});

test('a tablet keeps its screen awake, feels a press, installs the surface, offers the whole screen until it is played, and stays', async ({ browser, pumice }) => {
  const context = await browser.newContext({ viewport: { width: 1180, height: 820 }, hasTouch: true });
  const page = await context.newPage();
  // What the headless browser has not, or does not show.
  await page.addInitScript(`
    window.told = [];
    Object.defineProperty(navigator, 'wakeLock', { configurable: true, value: { request: async (kind) => { window.told.push('awake ' + kind); return { release: async () => undefined }; } } });
    navigator.vibrate = (ms) => { window.told.push('felt ' + ms); return true; };
  `);
  await page.goto(`${pumice.url}/outputs`);
  await page.goto(`${pumice.url}/play/wheelhouse`);
  await page.locator('[data-line="open"]').waitFor();
  const told = () => page.evaluate<string[]>('window.told');
  await expect.poll(told).toEqual(['awake screen']);
  await expect(page.getByText('The screen may fall asleep here')).toHaveCount(0);
  const manifest = (await (await page.request.get(new URL((await page.locator('link[rel="manifest"]').getAttribute('href'))!, pumice.url).href)).json()) as Record<string, unknown>;
  expect(manifest).toMatchObject({ short_name: 'Wheelhouse', start_url: '/play/wheelhouse', display: 'fullscreen', orientation: 'landscape' });
  expect((await page.request.get(`${pumice.url}/play/moon/manifest.webmanifest`)).status()).toBe(404);

  const whole = page.getByRole('button', { name: 'Full screen' });
  await whole.click();
  await expect.poll(() => page.evaluate('document.fullscreenElement !== null')).toBe(true);
  await expect(whole).toHaveCount(0);
  await page.evaluate('document.exitFullscreen()');
  await expect(whole).toBeVisible();
  await page.touchscreen.tap(360, 690);
  await expect(whole).toHaveCount(0);
  expect(await told()).toContain('felt 8');

  // A palm that swipes back right after a press does not leave; a step back in peace does.
  await page.evaluate(`dispatchEvent(new PointerEvent('pointerdown')); history.back()`);
  await page.waitForTimeout(300);
  expect(page.url()).toContain('/play/wheelhouse');
  await page.waitForTimeout(1600);
  await page.evaluate('history.back()');
  await expect(page).toHaveURL(/\/outputs$/);

  // On a page that is not secure no browser holds it awake.
  await page.addInitScript(`delete navigator.wakeLock; delete Navigator.prototype.wakeLock`);
  await page.goto(`${pumice.url}/play/wheelhouse`);
  const mayFallAsleep = page.getByText('The screen may fall asleep here: switch off its auto-lock.');
  await expect(mayFallAsleep).toBeVisible();
  await page.touchscreen.tap(360, 690);
  await expect(mayFallAsleep).toHaveCount(0);
  await context.close();
});

test('where the system forces its own colours a surface keeps its own, and the Bench shows what is chosen', async ({ browser, pumice }) => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, forcedColors: 'active' });
  const page = await context.newPage();
  await openBench(page, `${pumice.url}/play/wheelhouse`);
  const edge = page.locator('[data-control="fog"]');
  await expect(edge).toHaveCSS('box-shadow', /inset/);
  await openBench(page, `${pumice.url}/mappings#fog`);
  const links = page.getByRole('navigation', { name: 'Screens' }).getByRole('link');
  const edges = await links.evaluateAll((all) => all.map((link) => getComputedStyle(link).borderLeftColor === getComputedStyle(document.body).backgroundColor));
  expect(edges.filter((isHidden) => !isHidden)).toHaveLength(1);
  await expect(page.locator('.ant-segmented-item-selected').first()).toHaveCSS('outline-style', 'solid');
  const band = page.getByRole('switch').first();
  const fillOf = () => band.evaluate((element) => getComputedStyle(element).backgroundColor);
  const forced = await fillOf();
  await page.emulateMedia({ forcedColors: 'none' });
  expect(forced).toBe(await fillOf());
  await page.emulateMedia({ forcedColors: 'active' });
  await expect(page.locator('[aria-current]', { hasText: /^Bench$/ })).toHaveCSS('outline-style', 'solid');
  await pumice.post('/api/stage', { stage: true });
  const hold = page.getByRole('button', { name: 'Hold for Bench' });
  const [fills, beneath] = await hold.evaluate((button) => [getComputedStyle(button, '::after').backgroundColor, getComputedStyle(document.body).backgroundColor]);
  expect(fills).not.toBe(beneath);
  await context.close();
});

test('pages work where the browser remembers nothing: a surface, motion, listening, hands, the bench', async ({ pumice, page, monitor }) => {
  await page.addInitScript(() => {
    const get = () => {
      throw new DOMException('The operation is insecure.', 'SecurityError');
    };
    for (const storage of ['localStorage', 'sessionStorage']) Object.defineProperty(window, storage, { get });
  });
  await openBench(page, `${pumice.url}/play/wheelhouse`);
  await expect(page.getByRole('slider', { name: 'Fog' })).toBeVisible();
  await openBench(page, `${pumice.url}/surfaces/wheelhouse`);
  await page.goto(`${pumice.url}/motion`);
  await page.getByRole('button', { name: 'Use the motion of this device' }).click();
  await expect(page.getByText('The browser was not allowed to tell of the motion')).toBeVisible();
  await page.goto(`${pumice.url}/listen`);
  await page.getByRole('combobox', { name: 'Microphone' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'Foghorn, a singer' }).click();
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  await waitFor('a sung note', () => monitor.sent.some((sent) => sent.startsWith('engine-room 98 ')));
  await page.goto(`${pumice.url}/hands`);
  await page.getByRole('combobox', { name: 'Camera' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'A hand that is moved on screen' }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
});
