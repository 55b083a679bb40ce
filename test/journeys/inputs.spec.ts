import { faultsOf } from '../helpers/axe';
import { withGamepads, withMidi } from '../helpers/devices';
import { expect, goOnStage, openBench, test } from '../helpers/journey';
import { waitFor } from '../helpers/pumice';

const card = (name: string) => `article[aria-label="Input ${name}"]`;

/** Of what moved once: it is live for two seconds only, and nobody may have looked in them. */
const HEARD = /live|silent, last heard/;

const WHOLE_BROWSER = { tag: '@whole-browser' };

test('a sensor arrives, is calibrated, leaves, and is known again after a restart', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/inputs`);
  const tile = page.getByRole('article', { name: 'Stand-in Gangway' });
  await tile.getByRole('button', { name: 'Start' }).click();
  const gangway = page.locator(card('Gangway'));
  await expect(gangway).toContainText('live');
  await expect(gangway.locator('[data-signal]')).toHaveCount(4);
  await expect(gangway.locator('[data-signal] [data-value]').first()).toHaveText(/^\d+/);
  // Its trace is drawn by a worker, and by nobody while it is out of view.
  const trace = gangway.locator('[data-picture="trace"]').first();
  await gangway.scrollIntoViewIfNeeded();
  const drawn = await trace.screenshot();
  await waitFor('the trace to move', async () => !(await trace.screenshot()).equals(drawn));
  await expect(page.locator(card('Mooring')).locator('[data-picture]')).toHaveCount(0);

  // Its sensors see from 200 to 700 mm only: by hand to the rest, then by itself through the whole travel.
  await tile.getByText('By hand').click();
  await gangway.getByRole('button', { name: 'Calibrate' }).click();
  const beside = page.getByRole('complementary', { name: 'Calibrate Gangway' });
  await beside.getByRole('button', { name: 'I am not touching it' }).click();
  await tile.getByText('By itself').waitFor();
  await beside.getByRole('button', { name: 'I am moving it' }).waitFor();
  await tile.getByText('By itself').click();
  await beside.getByRole('button', { name: 'I am moving it' }).click();
  await beside.getByRole('button', { name: 'Use this' }).click();
  await expect(beside).toContainText('Calibrated');
  const calibrations = async () => {
    const { document } = await pumice.playing();
    return document.signals.flatMap(({ input, calibration }) => (input === 'gangway' && calibration ? [calibration] : []));
  };
  await waitFor('the calibrations to be kept', async () => (await calibrations()).length === 4);
  await beside.getByRole('button', { name: 'Undo' }).click();
  await waitFor('them to be gone again', async () => (await calibrations()).length === 0);
  await beside.getByRole('button', { name: 'Use this' }).click();
  await waitFor('them to be there again', async () => (await calibrations()).length === 4);

  await page.getByRole('textbox', { name: 'Name of the input Gangway' }).fill('Ramp');
  await page.keyboard.press('Enter');
  await tile.getByRole('button', { name: 'Stop' }).click();
  await expect(page.locator(card('Ramp'))).toContainText('silent');

  await pumice.killAll();
  await pumice.run();
  await openBench(page, `${pumice.url}/inputs`);
  await expect(page.locator(card('Ramp'))).toContainText('not here');
  await page.getByRole('article', { name: 'Stand-in Gangway' }).getByRole('button', { name: 'Start' }).click();
  await expect(page.locator(card('Ramp'))).toContainText('live');
  expect(await calibrations()).toHaveLength(4);
});

test('a gamepad sounds at once; two are told apart; unplugged with a button down and a stick pushed it lets go', async ({ pumice, monitor, page }) => {
  await withGamepads(page.context());
  await openBench(page, `${pumice.url}/inputs`);
  await page.evaluate(() => window.testPads.plug(0, 'Deck pad (Vendor: 0000)'));
  await page.evaluate(() => window.testPads.set(0, { 0: 0.4 }));
  const pad = page.locator(card('Deck pad'));
  const firstValue = (name: string) => page.locator(card(name)).locator('[data-value]').first();
  await expect(pad).toContainText(HEARD);
  await expect(firstValue('Deck pad')).toHaveText('0.400');
  await expect(pad.locator('[data-signal]')).toHaveCount(21);
  await page.evaluate(() => window.testPads.set(0, { 2: 1 }, { 3: 1 }));
  await waitFor('its note', () => monitor.sent.some((line) => line.endsWith('90 40 60')));
  await waitFor('its bend', () => monitor.sent.some((line) => line.endsWith('E0 7F 7F')));
  await page.evaluate(() => window.testPads.unplug(0));
  await waitFor('the end of its note', () => monitor.sent.some((line) => line.endsWith('80 40 40')));
  await waitFor('the end of its bend', () => monitor.sent.some((line) => line.endsWith('E0 00 40')));
  await expect(pad).toContainText('gone');

  await page.evaluate(() => {
    window.testPads.plug(0, 'Deck pad (Vendor: 0000)');
    window.testPads.plug(1, 'Deck pad (Vendor: 0000)');
  });
  await page.evaluate(() => {
    window.testPads.set(0, { 0: 0.5 });
    window.testPads.set(1, { 0: -0.5 });
  });
  await expect(page.locator(card('Deck pad 2'))).toContainText(HEARD);
  await expect(firstValue('Deck pad 2')).toHaveText(/^[-−]0\.500$/);
  await expect(pad).toContainText(HEARD);
  await expect(firstValue('Deck pad')).toHaveText('0.500');
});

test('a gamepad that moved unread while the page was hidden is said; one that lay still is not', async ({ pumice, page }) => {
  await withGamepads(page.context());
  await openBench(page, `${pumice.url}/inputs`);
  await page.evaluate(() => window.testPads.plug(0, 'Deck pad (Vendor: 0000)'));
  await page.evaluate(() => window.testPads.set(0, { 0: 0.4 }));
  await expect(page.locator(card('Deck pad'))).toContainText(HEARD);
  // The browser of the test never hides a page, nor does it stop reading.
  const hiding = (hidden: boolean) => `Object.defineProperty(document, 'hidden', { configurable: true, value: ${hidden} }); document.dispatchEvent(new Event('visibilitychange'))`;
  const hide = (hidden: boolean) => page.evaluate(hiding(hidden));
  const notice = page.getByText(/This browser read no gamepad for \d+ s while the page was hidden/);
  await hide(true);
  await page.waitForTimeout(1200);
  await hide(false);
  await page.waitForTimeout(300);
  await expect(notice).toHaveCount(0);
  await page.evaluate(`window.reads = navigator.getGamepads; const still = JSON.parse(JSON.stringify(window.reads())); navigator.getGamepads = () => still`);
  await hide(true);
  await page.evaluate(() => window.testPads.set(0, { 0: -0.7 }));
  await page.waitForTimeout(1200);
  // In one breath: read once more while still hidden, the pad would not have been missed.
  await page.evaluate(`navigator.getGamepads = window.reads; ${hiding(false)}`);
  await expect(notice).toBeVisible();
});

test('of two windows the one in view reads the gamepads, each pad once', async ({ pumice, monitor, page }) => {
  const context = page.context();
  await withGamepads(context);
  await openBench(page, `${pumice.url}/inputs`);
  const second = await context.newPage();
  await openBench(second, `${pumice.url}/inputs`);
  const windows = [page, second];
  for (const one of windows) await one.evaluate(() => window.testPads.plug(0, 'Deck pad (Vendor: 0000)'));
  const press = (one: typeof page, value: number) => one.evaluate((pressed) => window.testPads.set(0, {}, { 3: pressed }), value);
  const strokes = () => monitor.sent.filter((line) => line.endsWith('90 40 60')).length;
  const hide = (one: typeof page, hidden: boolean) => one.evaluate(`Object.defineProperty(document, 'hidden', { configurable: true, value: ${hidden} }); document.dispatchEvent(new Event('visibilitychange'))`);
  await expect(page.locator(card('Deck pad'))).toContainText(HEARD);
  for (const [reads, is] of [[0, 1], [1, 2], [0, 3]] as const) {
    // Where both are hidden for a moment the first keeps its turn, until the other comes into view.
    await hide(windows[1 - reads]!, true);
    await hide(windows[reads]!, false);
    await waitFor(`the note of window ${reads}`, async () => {
      await press(windows[reads]!, 1);
      return strokes() >= is;
    });
    await press(windows[reads]!, 0);
    await waitFor('its end', () => monitor.sent.filter((line) => line.endsWith('80 40 40')).length >= is);
  }
  expect(strokes()).toBe(3);
  await expect(page.locator(card('Deck pad 2'))).toHaveCount(0);
});

test('MIDI of the browser joins the rig; its raw messages are listed in words and bytes', async ({ pumice, page }) => {
  await withMidi(page.context());
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByRole('button', { name: 'Add an input' }).click();
  await page.getByText('MIDI ports of this browser').click();
  const keys = page.locator(card('Test keys'));
  await waitFor('the input', async () => {
    await page.evaluate(() => window.testMidi.say(0x92, 60, 100, 0x82, 60, 64));
    return keys.isVisible();
  });
  await expect(keys).toContainText('C4, channel 3');
  await keys.getByRole('button', { name: 'More for Test keys' }).click();
  await page.getByText('Raw messages').click();
  const raw = page.getByRole('complementary', { name: 'Test keys: raw messages' });
  await waitFor('the line', async () => {
    await page.evaluate(() => window.testMidi.say(0x92, 62, 99));
    return raw.getByText('channel 3 · note D4 on · 99').first().isVisible();
  });
  await expect(raw.getByText('92 3E 63').first()).toBeVisible();
  await raw.getByRole('textbox', { name: 'Filter raw messages' }).fill('nothing like it');
  await expect(raw.locator('li')).toHaveCount(0);

  // After a reload it is back without a word, and a note it never played before is heard from the first.
  await page.reload();
  await expect(keys).toContainText(/live|heard/);
  await page.evaluate(() => window.testMidi.say(0x92, 65, 70));
  await expect(keys).toContainText('F4, channel 3');
  await page.evaluate(() => window.testMidi.unplug());
  await expect(keys).toContainText('gone');
});

test('the keyboard of the computer is an input, and typing into a field is not', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByRole('button', { name: 'Add an input' }).click();
  await page.getByText('Keyboard and pointer of this computer').click();
  const computer = page.locator(card('Keyboard and pointer'));
  await page.mouse.move(600, 400);
  await expect(computer).toBeVisible();
  const q = computer.locator('[data-signal]', { has: page.getByText('Q', { exact: true }) });
  await waitFor('the key', async () => {
    await page.keyboard.down('q');
    await page.waitForTimeout(100);
    const on = (await q.count()) > 0 && /on/.test((await q.locator('[data-value]').textContent()) ?? '');
    await page.keyboard.up('q');
    return on;
  });
  await page.getByRole('textbox', { name: 'Name of the input Mooring' }).focus();
  await page.keyboard.down('w');
  await expect(q.locator('[data-value]')).toHaveText('off');
});

test('the pointer is taken over for lanes until Escape, or while a key is held; typing is itself again afterwards', WHOLE_BROWSER, async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByRole('button', { name: 'Add an input' }).click();
  await page.getByText('Keyboard and pointer of this computer').click();
  const computer = page.locator(card('Keyboard and pointer'));
  await waitFor('the input', async () => {
    await page.mouse.move(600 + Math.random() * 20, 400);
    return computer.isVisible();
  });
  await computer.getByRole('button', { name: 'More for Keyboard and pointer' }).click();
  await page.getByText('Name and settings').click();
  const settings = page.getByRole('complementary', { name: 'Keyboard and pointer' });
  await settings.getByLabel('Key that takes the pointer over while it is held').click();
  await page.getByText('the key left of 1', { exact: true }).click();
  const taken = page.getByRole('region', { name: 'The pointer is taken over' });
  const values = async () => (await (await fetch(`${pumice.url}/api/values`)).json()) as Record<string, number>;
  const rig = async () => (await pumice.playing()).document;
  const valueOf = async (source: string) => (await values())[(await rig()).signals.find((signal) => signal.source === source)?.id ?? ''];

  // Where it is is heard before the frame as well.
  await page.evaluate(() => document.body.dispatchEvent(new PointerEvent('pointerrawupdate', { clientX: 0, clientY: 0, bubbles: true })));
  await waitFor('the pointer in the corner', async () => (await valueOf('pointer x')) === 0 && (await valueOf('pointer y')) === 1);
  const take = settings.getByRole('button', { name: 'Take it over now' });
  await take.click();
  await expect(taken).toContainText('Press Escape to have it back.');
  // The browser of the test has no hand on a mouse: the way of one is said to the page as a browser does.
  const move = (movementX: number, movementY: number, kind = 'mousemove') => page.evaluate(([name, init]) => document.body.dispatchEvent(new PointerEvent(name, init)), [kind, { movementX, movementY, bubbles: true, cancelable: true }] as const);
  await move(0, -100);
  await waitFor('the third lane a quarter up', async () => (await valueOf('lane 3')) === 0.25);
  await move(120, 0);
  // Heard before the frame, with which the browser says the same way once more.
  await move(0, -200, 'pointerrawupdate');
  await waitFor('the fourth half up', async () => (await valueOf('lane 4')) === 0.5);
  await move(0, -200);
  await move(0, -50);
  await waitFor('the fourth a little further', async () => (await valueOf('lane 4')) === 0.625);
  expect(await valueOf('lane 3')).toBe(0.25);
  // A click is a gate of its own, and presses nothing that lies beneath.
  await page.mouse.down();
  await waitFor('the button', async () => (await rig()).signals.some(({ source }) => source === 'button left'));
  await page.mouse.up();
  await page.keyboard.press('Escape');
  await expect(taken).toHaveCount(0);
  await expect(take).toBeFocused();
  expect(await valueOf('lane 4')).toBe(0.625);

  // A key in a field is typed; elsewhere it takes the pointer for as long as it is held.
  const name = page.getByRole('textbox', { name: 'Name of the input Keyboard and pointer' });
  await name.focus();
  await page.keyboard.press('Backquote');
  await expect(name).toHaveValue('Keyboard and pointer`');
  await page.keyboard.press('Escape');
  await name.blur();
  await page.keyboard.down('Backquote');
  await expect(taken).toContainText('Let go of the key left of 1');
  await page.keyboard.up('Backquote');
  await expect(taken).toHaveCount(0);
  await page.reload();
  await waitFor('the key after a reload', async () => {
    await page.keyboard.down('Backquote');
    const shown = await taken.isVisible();
    await page.keyboard.up('Backquote');
    return shown;
  });
});

test('a phone becomes an input by the way it is held: tilt, turn and zero', WHOLE_BROWSER, async ({ pumice, page, browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  const cdp = await context.newCDPSession(phone);
  for (const type of ['accelerometer', 'linear-acceleration', 'gyroscope', 'gravity'] as const) {
    await cdp.send('Emulation.setSensorOverrideEnabled', { enabled: true, type, metadata: { available: true } });
  }
  // Rolled by 30 degrees to the right, as gravity shows it: x = g sin 30.
  const rolled = { x: 4.903, y: 0, z: 8.493 };
  await phone.goto(`${pumice.url}/motion`);
  await phone.getByRole('textbox', { name: 'Its name' }).fill('Lantern');
  await phone.getByRole('button', { name: 'Use the motion of this device' }).click();
  await openBench(page, `${pumice.url}/inputs`);
  const lantern = page.locator(card('Lantern'));
  await waitFor('its tilt', async () => {
    await cdp.send('Emulation.setSensorOverrideReadings', { type: 'accelerometer', reading: { xyz: { ...rolled, z: rolled.z + Math.random() / 1000 } } });
    await cdp.send('Emulation.setSensorOverrideReadings', { type: 'linear-acceleration', reading: { xyz: { x: 0, y: 0, z: 0 } } });
    await cdp.send('Emulation.setSensorOverrideReadings', { type: 'gyroscope', reading: { xyz: { x: 0, y: 0, z: 1 } } });
    const value = lantern.locator('[data-signal]', { hasText: 'Tilt sideways' }).locator('[data-value]');
    return (await value.count()) > 0 && Math.abs(Number(await value.textContent()) - 30) < 0.2;
  });
  await lantern.getByRole('button', { name: 'More for Lantern' }).click();
  await page.getByText('Name and settings').click();
  await page.getByRole('button', { name: 'As it is held now is level' }).click();
  await waitFor('level', async () => {
    await cdp.send('Emulation.setSensorOverrideReadings', { type: 'accelerometer', reading: { xyz: { ...rolled, z: rolled.z + Math.random() / 1000 } } });
    const text = await lantern.locator('[data-signal]', { hasText: 'Tilt sideways' }).locator('[data-value]').textContent();
    return Math.abs(Number(text)) < 0.2;
  });
  await context.close();
  await expect(lantern).toContainText('gone');
});

test('a phone without an accelerometer is known by its orientation alone', WHOLE_BROWSER, async ({ pumice, page, browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  const cdp = await context.newCDPSession(phone);
  await phone.goto(`${pumice.url}/motion`);
  await cdp.send('DeviceOrientation.setDeviceOrientationOverride', { alpha: 120, beta: 25, gamma: -40 });
  await phone.getByRole('button', { name: 'Use the motion of this device' }).click();
  await openBench(page, `${pumice.url}/inputs`);
  const value = (name: string) => page.locator(card('Lantern')).locator('[data-signal]', { hasText: name }).locator('[data-value]');
  await waitFor('its angles', async () => {
    await cdp.send('DeviceOrientation.setDeviceOrientationOverride', { alpha: 120, beta: 25 + Math.random() / 1000, gamma: -40 });
    if ((await value('Heading').count()) === 0) return false;
    const shown = await Promise.all(['Heading', 'Tilt forward', 'Tilt sideways'].map(async (name) => Number(await value(name).textContent())));
    // Alpha grows to the left, a heading to the right (W3C Device Orientation).
    return [240, 25, -40].every((deg, i) => Math.abs(shown[i]! - deg) < 0.2);
  });
  await context.close();
});

test('a file of recorded signals plays as an input; its broken line is named', async ({ pumice, page }) => {
  // It is played again and again: a short one would be looked at in the same place each time.
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByLabel('File of recorded signals').setInputFiles({ name: 'Old rope.csv', mimeType: 'text/csv', buffer: Buffer.from('time,signal,value\n0,stretch,0\nbroken\n40,stretch,1\n60000,stretch,1\n') });
  await expect(page.getByText('Line 3: its time is not a number of milliseconds.')).toBeVisible();
  await page.getByRole('button', { name: 'OK' }).click();
  await expect(page.locator(card('Old rope'))).toContainText(HEARD);
  await expect(page.locator(card('Old rope')).locator('[data-value]')).toHaveText('1.000');
});

test('a port and a sender that cannot be are said so, and nothing is added', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByRole('button', { name: 'OSC settings' }).click();
  const panel = page.getByRole('complementary', { name: 'OSC settings' });
  const port = panel.getByLabel('One more port');
  await port.fill('2');
  await port.press('Enter');
  await expect(page.getByText('A port is a whole number from 1024 to 65535, and “2” is none: nothing was added.').first()).toBeVisible();
  await expect(port).toHaveValue('2');
  await port.fill('');
  const sender = panel.getByLabel('Let in, by IP address');
  await sender.fill('192.168.1.300');
  await sender.press('Enter');
  await expect(page.getByText('An IP address looks like 192.168.1.20, and “192.168.1.300” is none: nobody was let in.').first()).toBeVisible();
  await sender.fill('192.168.1.30');
  await sender.press('Enter');
  await expect(panel.getByRole('button', { name: 'Remove sender 192.168.1.30' })).toBeVisible();
  await expect(sender).toHaveValue('');
  await expect(panel.getByRole('button', { name: /^Remove/ })).toHaveCount(1);
});

test('the Inputs screen and the motion page are accessible, on Bench and on Stage', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByRole('article', { name: 'Stand-in Mooring' }).getByRole('button', { name: 'Start' }).click();
  await page.getByRole('button', { name: 'Signal Stretch' }).click();
  expect(await faultsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'OSC settings' }).click();
  expect(await faultsOf(page)).toEqual([]);
  await goOnStage(page, pumice);
  expect(await faultsOf(page)).toEqual([]);
  await page.goto(`${pumice.url}/motion`);
  await expect(page.getByRole('button', { name: 'Use the motion of this device' })).toBeVisible();
  expect(await faultsOf(page)).toEqual([]);
});
