import { readFile } from 'node:fs/promises';
import type { RigMapping } from '../../src/core/rig/document';
import { expect, openBench, takeUpBand, Tablet, test } from '../helpers/journey';
import { waitFor, type Pumice } from '../helpers/pumice';

const rigOf = async (pumice: Pumice) => (await pumice.playing()).document;
const mappingOf = async (pumice: Pumice, name: string): Promise<RigMapping | undefined> => (await rigOf(pumice)).mappings.find((mapping) => mapping.name === name);

test('range ends and dead zone are taken by hand on the picture, by mouse and by keys, and heard', async ({ pumice, tablet, monitor, page }) => {
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 292 });
  await tablet.fingers('touchEnd');
  await waitFor('the fog', () => monitor.sent.some((line) => line.startsWith('weather B2 15')));
  await openBench(page, `${pumice.url}/mappings#fog`);
  const panel = page.getByRole('complementary', { name: 'Shaping of Fog density' });
  const top = panel.getByRole('slider', { name: 'Range to, by hand' });
  const box = (await top.boundingBox())!;
  monitor.facts.length = 0;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height - 15);
  await page.mouse.down();
  await page.mouse.move(box.x - 150, box.y + box.height - 15, { steps: 8 });
  await page.mouse.up();
  await waitFor('the range that was drawn', async () => ((await mappingOf(pumice, 'Fog density'))?.shaping.rangeIn?.hi ?? 1) < 0.7);
  await waitFor('more fog from the same finger', () => monitor.sent.some((line) => line.startsWith('weather B2 15')));
  await panel.getByRole('slider', { name: 'Range from, by hand' }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await waitFor('a tenth up', async () => (await mappingOf(pumice, 'Fog density'))?.shaping.rangeIn?.lo === 0.1);
  await expect(panel.getByRole('spinbutton', { name: 'Range in, from' })).toHaveValue('0.10');
  await panel.getByRole('combobox', { name: 'Dead zone' }).click();
  await page.getByTitle('At both ends').click();
  await panel.getByRole('slider', { name: 'Low end, by hand' }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await waitFor('a wider end', async () => {
    const zone = (await mappingOf(pumice, 'Fog density'))?.shaping.deadZone;
    return zone?.kind === 'ends' && zone.low > 0.1;
  });
});

test('a number out of its limits is said in a sentence and does no harm', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings#fog`);
  const panel = page.getByRole('complementary', { name: 'Shaping of Fog density' });
  await panel.getByRole('spinbutton', { name: 'Channel' }).fill('99');
  await page.keyboard.press('Tab');
  await expect(page.getByText('Channel goes from 1 to 16: 99 became 16.')).toBeVisible();
  await panel.getByRole('spinbutton', { name: 'Controller' }).fill('many');
  await page.keyboard.press('Tab');
  await expect(page.getByText('Controller takes a number, and “many” is none: it stays as it was.')).toBeVisible();
  await waitFor('what holds', async () => {
    const message = (await mappingOf(pumice, 'Fog density'))?.message;
    return message?.kind === 'controlChange' && message.channel === 16 && message.controller === 21;
  });
});

test('Escape gives up a line that was typed, keeps notes, and closes the panel only after that', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings#fog`);
  const panel = page.getByRole('complementary', { name: 'Shaping of Fog density' });
  for (const field of [panel.getByRole('textbox', { name: 'Group', exact: true }), panel.getByRole('textbox', { name: 'Name of the mapping' })]) {
    const before = await field.inputValue();
    await field.fill('Half of a w');
    await page.keyboard.press('Escape');
    await expect(field).toHaveValue(before);
    await expect(field).toBeFocused();
  }
  await panel.getByRole('textbox', { name: 'Notes' }).fill('Not above 90:\nthe plates rattle');
  await page.keyboard.press('Escape');
  await waitFor('the notes', async () => (await mappingOf(pumice, 'Fog density'))?.remark === 'Not above 90:\nthe plates rattle');
  expect((await mappingOf(pumice, 'Fog density'))?.group).toBeUndefined();
  await expect(panel).toBeVisible();
  // What another window writes there takes no focus away.
  await panel.getByRole('textbox', { name: 'Notes' }).focus();
  await pumice.edit('fog', { group: 'Weather deck' });
  await expect(panel.getByRole('textbox', { name: 'Group', exact: true })).toHaveValue('Weather deck');
  await expect(panel.getByRole('textbox', { name: 'Notes' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
});

test('a kept shaping is used on marked mappings together; they are grouped, folded and found by their notes', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings#swell`);
  const panel = page.getByRole('complementary', { name: 'Shaping of Swell height' });
  await panel.getByRole('button', { name: 'Keep this one' }).click();
  await panel.getByRole('textbox', { name: 'Name of the shaping' }).fill('Slow water');
  await page.keyboard.press('Enter');
  await panel.getByRole('textbox', { name: 'Notes' }).fill('calm it when the storm comes');
  await panel.getByRole('button', { name: 'Close the shaping panel' }).click();
  await page.getByRole('checkbox', { name: 'Mark Fog density' }).check();
  await page.getByRole('checkbox', { name: 'Mark Wind gust' }).click({ modifiers: ['Shift'] });
  const bar = page.getByRole('toolbar', { name: '4 marked mappings' });
  await bar.getByRole('combobox', { name: 'Use a kept shaping' }).click();
  await page.getByTitle('Slow water').click();
  await waitFor('all four to be slow', async () => (await rigOf(pumice)).mappings.filter(({ shaping }) => shaping.smoothing?.kind === 'onePole' && shaping.smoothing.timeConstantMs === 180).length === 4);
  await bar.getByRole('textbox', { name: 'Group for all' }).fill('Weather deck');
  await bar.getByRole('button', { name: 'Group', exact: true }).click();
  await page.getByRole('spinbutton', { name: 'Channel for all' }).fill('7');
  await bar.getByRole('button', { name: 'Set' }).click();
  await waitFor('all four on channel 7', async () => (await rigOf(pumice)).mappings.filter(({ message, group }) => 'channel' in message && message.channel === 7 && group === 'Weather deck').length === 4);
  await bar.getByRole('button', { name: 'Clear' }).click();
  const heading = page.getByRole('button', { name: 'Weather deck 4' });
  // Only bands in sight are there; each look goes a little further down.
  await waitFor('the heading', async () => (await heading.isVisible()) || page.locator('[data-scroller]').evaluate((scroller) => (scroller.scrollBy(0, 120), false)));
  await heading.click();
  await expect(page.getByRole('button', { name: 'Shape Fog density' })).toHaveCount(0);
  await heading.click();
  await expect(page.getByRole('button', { name: 'Shape Fog density' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Search mappings' }).fill('storm');
  await expect(page.getByRole('list', { name: '1 mapping', exact: true })).toContainText('Swell height');
  await page.keyboard.press('Escape');
  await page.getByRole('textbox', { name: 'Search mappings' }).fill('');
  await page.locator('body').click({ position: { x: 600, y: 100 } });
  await page.keyboard.press('Control+z');
  await waitFor('the channel to be undone', async () => (await rigOf(pumice)).mappings.every(({ message }) => !('channel' in message) || message.channel !== 7));
});

test('bands are put in another order by mouse and by keyboard', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  const order = async (expected: string) => waitFor(expected, async () => (await rigOf(pumice)).mappings.slice(0, 4).map(({ name }) => name).join() === expected);
  const handle = (name: string) => page.getByRole('button', { name: `Move ${name}` });
  const carry = async (name: string, onto: string) => {
    const from = (await handle(name).boundingBox())!;
    const to = (await handle(onto).boundingBox())!;
    await page.mouse.move(from.x + 12, from.y + 20);
    await page.mouse.down();
    await page.mouse.move(to.x + 12, to.y + 20, { steps: 12 });
    await expect(page.locator('li[data-lands]')).toContainText(onto);
    await page.mouse.up();
  };
  await carry('Wind bearing', 'Swell height');
  await order('Fog density,Wind bearing,Swell height,Wind gust');
  await carry('Fog density', 'Swell height');
  await order('Wind bearing,Swell height,Fog density,Wind gust');
  await expect(page.locator('[data-band]').first()).toContainText('Wind bearing');
  await takeUpBand(page, 'Wind bearing');
  for (const passed of ['Swell height', 'Fog density']) {
    await page.keyboard.press('ArrowDown');
    await expect(page.locator('li[data-lands]')).toContainText(passed);
    await expect(page.getByRole('status').filter({ hasText: `Wind bearing is at the place of ${passed}.` })).toBeAttached();
  }
  await page.keyboard.press('Space');
  await order('Swell height,Fog density,Wind bearing,Wind gust');
  await takeUpBand(page, 'Wind bearing');
  await page.keyboard.press('ArrowUp');
  await expect(page.locator('li[data-lands]')).toContainText('Fog density');
  await page.keyboard.press('Escape');
  await expect(page.locator('li[data-dragging="true"]')).toHaveCount(0);
  await takeUpBand(page, 'Swell height');
  await page.keyboard.press('ArrowDown');
  await expect(page.locator('li[data-lands]')).toContainText('Fog density');
  await page.keyboard.press('Space');
  await order('Fog density,Swell height,Wind bearing,Wind gust');
});

test('a band is carried to where the list has to scroll, and joins the group there', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'Move Fog density' }).hover();
  await page.mouse.down();
  const scroller = page.locator('[data-scroller]');
  const { x, y, height } = (await scroller.boundingBox())!;
  // Near its lower edge the list scrolls by itself, however far away the band's own place is by then.
  await page.mouse.move(x + 40, y + height - 12, { steps: 10 });
  await waitFor('the end of the list', () => scroller.evaluate(({ scrollTop, clientHeight, scrollHeight }) => scrollTop + clientHeight >= scrollHeight - 1));
  const place = (await page.getByRole('button', { name: 'Move Keel bass' }).boundingBox())!;
  await page.mouse.move(place.x + 12, place.y + 20, { steps: 5 });
  await expect(page.locator('li[data-lands]')).toContainText('Keel bass');
  await page.mouse.up();
  await waitFor('it to be of the ensemble', async () => (await mappingOf(pumice, 'Fog density'))!.group === 'Ensemble');
});

test('a derived signal is made, said in words, shown live, mapped, and deleted with what it drives', async ({ pumice, tablet, monitor, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'Derived signals' }).click();
  const panel = page.getByRole('complementary', { name: 'Derived signals' });
  await panel.getByRole('combobox', { name: 'Make a derived signal' }).click();
  await page.getByTitle('Highest').click();
  const made = panel.getByRole('listitem', { name: 'Highest' });
  await expect(made).toContainText('the highest of Fog and');
  await made.getByRole('button', { name: /^Map it to/ }).click();
  const mapping = await waitFor('its mapping', () => mappingOf(pumice, 'Highest'));
  expect(mapping.message).toMatchObject({ kind: 'controlChange' });
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 42 });
  await tablet.fingers('touchEnd');
  await expect(made.locator('[data-value]')).toHaveText('1.000');
  const { channel, controller } = mapping.message as { channel: number; controller: number };
  const hex = (byte: number) => byte.toString(16).toUpperCase().padStart(2, '0');
  await waitFor('the derived controller', () => monitor.sent.includes(`${mapping.output} ${hex(0xb0 + channel - 1)} ${hex(controller)} 7F`));
  await made.getByRole('combobox', { name: 'Formula', exact: true }).click();
  await page.getByTitle('Slow wave').last().click();
  await expect(made).toContainText('a sine at 1 Hz, 1 deep');
  await waitFor('the wave to sound', () => new Set(monitor.sent).size > 10);
  await made.getByRole('button', { name: 'Delete Highest' }).click();
  await waitFor('both to be gone', async () => (await mappingOf(pumice, 'Highest')) === undefined && (await rigOf(pumice)).derived.every(({ name }) => name !== 'Highest'));
});

test('a mapping that is removed elsewhere while its shaping is open says so, and undo brings it back', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/mappings#fog`);
  await expect(page.getByRole('complementary', { name: 'Shaping of Fog density' })).toBeVisible();
  await pumice.give({ kind: 'change', changes: [{ list: 'mappings', id: 'fog', to: null }] });
  await expect(page.getByText('Fog density was removed, here or in another window')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('spinbutton', { name: 'Controller' })).toHaveValue('21');
});

test('a scene gets a gate, a page and a message; the gate recalls it', async ({ pumice, tablet, monitor, page }) => {
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'More for the scene Landfall' }).click();
  await page.getByText('Look at it, change it').click();
  const dialog = page.getByRole('dialog', { name: 'Scene Landfall' });
  await dialog.getByRole('combobox', { name: 'Recalled by' }).click();
  await dialog.getByRole('combobox', { name: 'Recalled by' }).fill('Horn');
  await page.keyboard.press('Enter');
  await expect(dialog).toContainText('when it goes on');
  await dialog.getByRole('button', { name: 'Add a message' }).click();
  await dialog.getByRole('spinbutton', { name: 'program of message 1' }).fill('5');
  await page.keyboard.press('Enter');
  await dialog.getByRole('button', { name: 'As bytes' }).click();
  const bytes = dialog.getByRole('textbox', { name: 'Bytes of message 1' });
  await expect(bytes).toHaveValue('C0 04');
  // Enter is done with this line, not with the window.
  await bytes.fill('B0 07');
  await page.keyboard.press('Enter');
  await expect(page.getByText('These bytes are not one whole MIDI message')).toBeVisible();
  await expect(bytes).toHaveValue('C0 04');
  await bytes.fill('B0 07 64');
  await page.keyboard.press('Enter');
  await dialog.getByRole('button', { name: 'In words' }).click();
  await expect(dialog.getByRole('spinbutton', { name: 'controller of message 1' })).toHaveValue('7');
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click();
  await waitFor('the scene to be kept', async () => (await rigOf(pumice)).scenes.find(({ name }) => name === 'Landfall')?.recalledBy !== undefined);
  monitor.facts.length = 0;
  await tablet.fingers('touchStart', { id: 1, x: 360, y: 690 });
  await tablet.fingers('touchEnd');
  await waitFor('its message', () => monitor.sent.some((line) => line.endsWith('B0 07 64')));
  await expect(page.getByRole('button', { name: 'Landfall4' })).toHaveAttribute('aria-current', 'true');
  // Recalled from where it was just changed, it is recalled as it is there, and kept so.
  await page.getByRole('button', { name: 'More for the scene Landfall' }).click();
  await page.getByText('Look at it, change it').click();
  await expect(dialog.getByRole('button', { name: 'Recall', exact: true })).toBeEnabled();
  await dialog.getByRole('button', { name: 'As bytes' }).click();
  await bytes.fill('B0 07 2A');
  await page.keyboard.press('Tab');
  monitor.facts.length = 0;
  await dialog.getByRole('button', { name: 'Keep and recall' }).click();
  await waitFor('its new message', () => monitor.sent.some((line) => line.endsWith('B0 07 2A')));
  expect(monitor.sent.some((line) => line.endsWith('B0 07 64'))).toBe(false);
});

test('a kit is kept, and added to another rig with a look at what it changes', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/rigs`);
  await page.getByRole('combobox', { name: 'Keep a kit of this rig' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'Chart table' }).click();
  const kit = page.getByRole('listitem', { name: 'Kit Chart table' });
  await kit.getByRole('button', { name: 'Add beside' }).click();
  const look = page.getByRole('region', { name: 'What Chart table would change' });
  await expect(look).toContainText('It adds 1 surface, 1 input');
  await expect(look).toContainText('New clashes');
  await look.getByRole('button', { name: 'Do it' }).click();
  await waitFor('the second table', async () => (await rigOf(pumice)).surfaces.some(({ name }) => name === 'Chart table 2'));
  await kit.getByRole('button', { name: 'Put back' }).click();
  await expect(look).toContainText('It changes nothing');
  await look.getByRole('button', { name: 'Leave it' }).click();
  await kit.getByRole('button', { name: 'Delete' }).click();
  await expect(kit).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await expect(kit).toBeVisible();
});

test('a surface leaves alone as a picture with its numbers and as a file, and comes back beside itself', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/surfaces`);
  const saved = async (button: string) => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).click()]);
    return { name: download.suggestedFilename(), text: await readFile(await download.path(), 'utf8') };
  };
  const picture = await saved('Picture of Wheelhouse to print');
  expect(picture.name).toBe('Wheelhouse.svg');
  expect(picture.text).toContain('channel 3 · CC 21 · Weather');
  const file = await saved('Export Wheelhouse');
  await page.getByRole('link', { name: 'Rigs' }).click();
  await page.getByLabel('Rig file').setInputFiles({ name: file.name, mimeType: 'application/json', buffer: Buffer.from(file.text) });
  await page.getByRole('button', { name: 'Add it to the open rig' }).click();
  const look = page.getByRole('region', { name: 'What Wheelhouse would change' });
  await expect(look).toContainText('It adds 1 surface, 1 input');
  await look.getByRole('button', { name: 'Do it' }).click();
  await waitFor('both', async () => (await rigOf(pumice)).surfaces.map(({ name }) => name).includes('Wheelhouse 2'));
});

test('a finger moves a point of a curve; a second one beside it carries nothing off', async ({ pumice, browser }) => {
  const fog = (await mappingOf(pumice, 'Fog density'))!;
  const curve = { kind: 'points' as const, points: [[0, 0], [0.3, 0.3], [0.7, 0.7], [1, 1]] as [number, number][] };
  await pumice.give({ kind: 'change', changes: [{ list: 'mappings', id: 'fog', to: { ...fog, shaping: { ...fog.shaping, curve } } }] });
  const tablet = await Tablet.open(browser, `${pumice.url}/mappings#fog`, 'attached');
  const points = tablet.page.getByRole('group', { name: 'Points of the curve' });
  await points.scrollIntoViewIfNeeded();
  const { x, y, width, height } = (await points.boundingBox())!;
  // The picture is 300 wide and 170 high, with an edge of 10 around it.
  const at = (across: number, up: number) => ({ x: x + ((10 + across * 280) / 300) * width, y: y + ((160 - up * 150) / 170) * height });
  const first = (across: number, up: number) => ({ id: 1, ...at(across, up) });
  const second = (across: number, up: number) => ({ id: 2, ...at(across, up) });
  await tablet.fingers('touchStart', first(0.3, 0.3));
  await tablet.fingers('touchMove', first(0.35, 0.6));
  await tablet.fingers('touchStart', first(0.35, 0.6), second(0.7, 0.7));
  await tablet.fingers('touchMove', first(0.35, 0.6), second(0.8, 0.1));
  await tablet.fingers('touchMove', first(0.4, 0.9), second(0.8, 0.1));
  await tablet.fingers('touchEnd');
  await waitFor('the point where its finger left it', async () => {
    const { curve: now } = (await mappingOf(pumice, 'Fog density'))!.shaping;
    if (now?.kind !== 'points' || now.points[1]![1] < 0.5) return null;
    expect(now.points.map((point) => point.map((share) => Math.round(share * 20) / 20))).toEqual([[0, 0], [0.4, 0.9], [0.7, 0.7], [1, 1]]);
    return true;
  });
  await tablet.close();
});
