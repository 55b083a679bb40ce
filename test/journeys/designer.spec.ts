import type { Locator, Page } from '@playwright/test';
import type { RigControl, RigDocument, RigMapping } from '../../src/core/rig/document';
import { faultsOf } from '../helpers/axe';
import { beforeItIsDrawn, expect, goOnStage, keepSayings, openBench, Tablet, test } from '../helpers/journey';
import { kill, waitFor, type Pumice } from '../helpers/pumice';
import { withForedeck } from '../helpers/surfaces';

const rigOf = async (pumice: Pumice) => (await pumice.playing()).document;
const controlsOf = async (pumice: Pumice, surface = 'foredeck', page = 0): Promise<RigControl[]> => (await rigOf(pumice)).surfaces.find(({ id }) => id === surface)?.pages[page]?.controls ?? [];
const frames = (controls: readonly RigControl[]) => controls.map(({ frame }) => frame);
const sentBy = (rig: RigDocument, control: RigControl): RigMapping[] => rig.mappings.filter(({ signal }) => Object.values(control.signals).includes(signal));

/** Points of the canvas in pixels of the surface. */
class Canvas {
  private constructor(
    readonly page: Page,
    readonly drawing: Locator,
    private readonly left: number,
    private readonly top: number,
    private readonly scale: number,
  ) {}

  static async of(page: Page, width = 1180): Promise<Canvas> {
    const drawing = page.getByRole('application');
    const box = (await drawing.boundingBox())!;
    return new Canvas(page, drawing, box.x, box.y, box.width / width);
  }

  async click(x: number, y: number, more: { modifiers?: ('Shift' | 'Alt')[] } = {}): Promise<void> {
    await this.drawing.click({ position: { x: x * this.scale, y: y * this.scale }, ...more });
  }

  /** Waits until a handle lies at a point: what was moved is drawn there. */
  async hasHandle(name: string, x: number, y: number): Promise<void> {
    await expect
      .poll(async () => {
        const box = (await this.page.locator(`[data-handle="${name}"]`).boundingBox())!;
        return Math.hypot(box.x + box.width / 2 - this.left - x * this.scale, box.y + box.height / 2 - this.top - y * this.scale);
      })
      .toBeLessThan(3);
  }

  async drag(from: [number, number], to: [number, number]): Promise<void> {
    const { mouse } = this.page;
    const at = ([x, y]: [number, number]) => [this.left + x * this.scale, this.top + y * this.scale] as const;
    await mouse.move(...at(from));
    await mouse.down();
    await mouse.move(...at([(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]), { steps: 4 });
    await mouse.move(...at(to), { steps: 4 });
    await mouse.up();
  }

  /** Drags a control from the tray so that its middle lies at a point. */
  async place(kind: string, x: number, y: number): Promise<void> {
    const { mouse } = this.page;
    const item = (await this.page.locator('[data-tray]').getByRole('button', { name: kind, exact: true }).boundingBox())!;
    await mouse.move(item.x + 20, item.y + 20);
    await mouse.down();
    await mouse.move(item.x + 80, item.y + 30, { steps: 5 });
    await mouse.move(this.left + x * this.scale, this.top + y * this.scale, { steps: 10 });
    await mouse.up();
  }
}

test('by mouse: a surface from a device size; placed, moved, sized, aligned, repeated, undone; each with a number of its own', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/surfaces`);
  await page.getByRole('button', { name: 'New surface…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Foredeck');
  await dialog.getByRole('button', { name: 'Make it' }).click();
  await page.waitForURL(/\/surfaces\/foredeck/);
  await expect(page.getByLabel('Width of the surface')).toHaveValue('1180');
  const canvas = await Canvas.of(page);

  await canvas.place('Fader', 200, 300);
  await waitFor('the fader', async () => (await controlsOf(pumice)).length === 1);
  const { x, y } = frames(await controlsOf(pumice))[0]!;
  expect([Math.abs(x - 145) < 4, Math.abs(y - 100) < 4]).toEqual([true, true]);
  await expect(page.locator('[data-sent]')).toContainText(/channel \d+ · CC \d+/);

  await canvas.place('Button', 600, 300);
  await waitFor('the push', async () => (await controlsOf(pumice)).length === 2);
  // Near the top of the fader it snaps to it.
  await canvas.drag([600, 300], [620, 172]);
  await waitFor('both in line', async () => frames(await controlsOf(pumice)).every((frame) => Math.abs(frame.y - y) <= 1));
  // By its lower right corner.
  const [, push] = await controlsOf(pumice);
  const corner: [number, number] = [push!.frame.x + push!.frame.width, push!.frame.y + push!.frame.height];
  await canvas.hasHandle('se', ...corner);
  await beforeItIsDrawn(page, () => canvas.drag(corner, [push!.frame.x + 260, push!.frame.y + 245]));
  await waitFor('its size', async () => {
    const { width, height } = (await controlsOf(pumice))[1]!.frame;
    return Math.abs(width - 260) < 8 && Math.abs(height - 245) < 8;
  });

  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'Align bottom' }).click();
  await waitFor('one line below', async () => new Set(frames(await controlsOf(pumice)).map((frame) => frame.y + frame.height)).size === 1);

  await canvas.click(200, 300);
  await page.getByRole('button', { name: 'Repeat…' }).click();
  await page.getByRole('spinbutton', { name: 'Across' }).fill('3');
  await page.getByRole('button', { name: 'Repeat', exact: true }).click();
  await waitFor('three faders', async () => (await controlsOf(pumice)).length === 4);
  const rig = await rigOf(pumice);
  const faders = (await controlsOf(pumice)).filter(({ kind }) => kind === 'fader');
  // Told nothing else, each shows its own number.
  const shown = await Promise.all(faders.map(({ id }) => page.locator(`[data-control="${id}"] .label`).textContent()));
  expect([new Set(shown).size, shown.every((text) => /^ch \d+ · CC \d+$/.test(text!))]).toEqual([3, true]);
  const addresses = faders.flatMap((fader) => sentBy(rig, fader)).map(({ message, output }) => JSON.stringify([output, message]));
  expect([addresses.length, new Set(addresses).size]).toEqual([3, 3]);

  await page.keyboard.press('Control+z');
  await waitFor('one fader again', async () => (await controlsOf(pumice)).length === 2);
  await page.keyboard.press('Control+Shift+z');
  await waitFor('three again', async () => (await controlsOf(pumice)).length === 4);
});

test('what is dropped on a canvas that is zoomed and scrolled lies under the pointer, also where the canvas scrolled on the way', async ({ pumice, page }) => {
  await withForedeck(pumice, []);
  await openBench(page, `${pumice.url}/surfaces/foredeck`);
  await page.getByRole('radiogroup', { name: 'Zoom' }).getByText('2×').click();
  const room = page.locator('[data-room]');
  const { x, y, width, height } = (await room.boundingBox())!;
  const scrolled = () => room.evaluate(({ scrollLeft, scrollTop }) => [scrollLeft, scrollTop] as const);
  // Let go of over what stands around the canvas, also where that goes on beneath it, nothing is made.
  for (const around of [page.locator('[data-tray]'), page.getByRole('group', { name: 'Properties' })]) {
    await page.locator('[data-tray]').getByRole('button', { name: 'Dial', exact: true }).hover();
    await page.mouse.down();
    await page.mouse.move(x + 200, y + 150, { steps: 5 });
    const box = (await around.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2, { steps: 5 });
    await page.mouse.up();
  }
  for (const [index, atEdge] of [false, true].entries()) {
    await room.evaluate((element) => element.scrollTo(120, 90));
    await page.locator('[data-tray]').getByRole('button', { name: 'Button', exact: true }).hover();
    await page.mouse.down();
    await page.mouse.move(x + 200, y + 150, { steps: 5 });
    if (atEdge) {
      const before = 120;
      // Far from its edges it stays where it was.
      expect(await scrolled()).toEqual([before, 90]);
      await page.mouse.move(x + width - 8, y + height / 2, { steps: 5 });
      await waitFor('the canvas to scroll', async () => (await scrolled())[0] > before);
    }
    await page.mouse.move(x + 320, y + 240, { steps: 5 });
    await page.mouse.up();
    await waitFor('the button', async () => (await controlsOf(pumice)).length === index + 1);
    const made = (await page.locator(`[data-control="${(await controlsOf(pumice)).at(-1)!.id}"]`).boundingBox())!;
    expect((await controlsOf(pumice)).map(({ kind }) => kind)).not.toContain('dial');
    expect([Math.round(made.x + made.width / 2 - x - 320), Math.round(made.y + made.height / 2 - y - 240)].every((off) => Math.abs(off) <= 2)).toBe(true);
  }
});

test('by the keyboard alone: made, marked, moved, doubled, grouped, locked, taken away', async ({ pumice, page }) => {
  await withForedeck(pumice, []);
  await openBench(page, `${pumice.url}/surfaces/foredeck`);
  await page.locator('[data-tray]').getByRole('button', { name: 'Toggle', exact: true }).focus();
  await page.keyboard.press('Enter');
  await waitFor('it', async () => (await controlsOf(pumice)).length === 1);
  await page.getByLabel('Label', { exact: true }).fill('Lamp');
  await page.keyboard.press('Enter');
  await waitFor('its label, and its signal’s name', async () => (await rigOf(pumice)).signals.some(({ name }) => name === 'Lamp'));
  await page.getByRole('application').focus();
  const { x, y } = frames(await controlsOf(pumice))[0]!;
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  await waitFor('it to have moved', async () => JSON.stringify(frames(await controlsOf(pumice)).map((frame) => [frame.x, frame.y])) === JSON.stringify([[x + 1, y + 10]]));
  await page.keyboard.press('Control+d');
  await waitFor('two', async () => (await controlsOf(pumice)).length === 2);
  expect((await controlsOf(pumice)).map(({ label }) => label)).toEqual(['Lamp', 'Lamp 2']);
  // What is drawn takes no keys; who chooses by a name goes on where keys move it.
  await page.keyboard.press('Shift+Tab');
  await expect(page.getByRole('application')).not.toBeFocused();
  await expect(page.locator('[data-control]:focus')).toHaveCount(0);
  await page.getByRole('application').focus();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-outline]')).toHaveCount(0);
  await page.getByRole('group', { name: 'Properties' }).getByRole('button', { name: 'Lamp 2' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('application')).toBeFocused();
  await expect(page.locator('[data-outline]')).toHaveCount(1);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+g');
  await waitFor('a group', async () => (await controlsOf(pumice)).every(({ group }) => group === 'group'));
  // One marked is both marked.
  await page.keyboard.press('Escape');
  await page.keyboard.press('PageDown');
  await expect(page.locator('[data-outline]')).toHaveCount(2);
  await page.getByRole('switch', { name: 'Locked' }).click();
  await waitFor('both locked', async () => (await controlsOf(pumice)).every(({ locked }) => locked));
  await page.getByRole('application').focus();
  await page.keyboard.press('Delete');
  await page.keyboard.press('ArrowLeft');
  await page.getByRole('switch', { name: 'Locked' }).click();
  await waitFor('them free', async () => (await controlsOf(pumice)).every(({ locked }) => !locked));
  expect((await controlsOf(pumice)).length).toBe(2);
  await page.getByRole('application').focus();
  await page.keyboard.press('Delete');
  await waitFor('none', async () => (await controlsOf(pumice)).length === 0);
  const rig = await rigOf(pumice);
  expect(rig.signals.filter(({ input }) => input === 'foredeck')).toEqual([]);
});

test('copied from one surface onto another, with numbers of their own', async ({ pumice, page }) => {
  await withForedeck(pumice, []);
  await openBench(page, `${pumice.url}/surfaces/wheelhouse`);
  const canvas = await Canvas.of(page);
  await canvas.click(80, 300);
  await canvas.click(850, 300, { modifiers: ['Shift'] });
  await page.keyboard.press('Control+c');
  await openBench(page, `${pumice.url}/surfaces/foredeck`);
  await page.getByRole('application').focus();
  await page.keyboard.press('Control+v');
  await waitFor('both', async () => (await controlsOf(pumice)).length === 2);
  const rig = await rigOf(pumice);
  const [fog, wind] = await controlsOf(pumice);
  expect([fog!.label, wind!.label]).toEqual(['Fog', 'Wind']);
  const copies = [fog!, wind!].flatMap((control) => sentBy(rig, control));
  expect(copies).toHaveLength(3);
  for (const { message, output } of copies) {
    const same = rig.mappings.filter((mapping) => mapping.output === output && JSON.stringify(mapping.message) === JSON.stringify(message));
    expect(same).toHaveLength(1);
  }
});

test('what is designed in one page is played in another within a second; both windows stay in step; try-it plays on the canvas', async ({ pumice, browser, page, monitor }) => {
  await withForedeck(pumice, [{ kind: 'fader', frame: { x: 100, y: 100, width: 100, height: 436 }, label: 'Sail' }]);
  const tablet = await Tablet.open(browser, `${pumice.url}/play/foredeck`);
  const second = await (await browser.newContext()).newPage();
  await openBench(second, `${pumice.url}/surfaces/foredeck`);
  await openBench(page, `${pumice.url}/surfaces/foredeck`);
  await page.locator('[data-tray]').getByRole('button', { name: 'Button', exact: true }).click();
  await expect(tablet.control('button')).toBeVisible();
  await expect(second.locator('[data-control="button"]')).toBeVisible();
  const box = (await tablet.control('button').boundingBox())!;
  await tablet.fingers('touchStart', { id: 1, x: box.x + 20, y: box.y + 20 });
  await waitFor('its note', () => monitor.sent.some((line) => / 9. /.test(line)));
  await tablet.fingers('touchEnd');

  await page.getByRole('button', { name: 'Try it' }).click();
  // The page goes on with it when a hub that died is back.
  const said = await keepSayings(page);
  kill((await pumice.health()).hub.pid);
  await expect.poll(said).toContain('What you see may be old.');
  await expect(page.locator('[data-line]')).toHaveAttribute('data-line', 'open');
  const sail = (await page.locator('[data-trying] [data-control="sail"]').boundingBox())!;
  await page.mouse.move(sail.x + sail.width / 2, sail.y + sail.height / 2);
  await page.mouse.down();
  await waitFor('the fader to say where it is', () => monitor.facts.some((fact) => fact.direction === 'in' && fact.signal === 'foredeck.sail' && Math.abs(fact.value - 0.5) < 0.02));
  await waitFor('the finger to be felt', () => monitor.facts.some((fact) => fact.direction === 'in' && fact.signal === 'foredeck.sail.touch' && fact.value === 1));
  // Leaving while it is held lets go of it.
  await page.goto(`${pumice.url}/mappings`);
  await waitFor('it to be let go', () => monitor.facts.findLast((fact) => fact.direction === 'in' && fact.signal === 'foredeck.sail.touch')?.direction === 'in' && monitor.facts.some((fact) => fact.direction === 'in' && fact.signal === 'foredeck.sail.touch' && fact.value === 0));
  await tablet.close();
});

test('kinds, springs, colours, pages and banks are set in their panel; on Stage nothing can be', async ({ pumice, page }) => {
  await withForedeck(pumice, [{ kind: 'faders', frame: { x: 20, y: 20, width: 400, height: 300 } }]);
  await openBench(page, `${pumice.url}/surfaces/foredeck`);
  const canvas = await Canvas.of(page);
  await page.getByRole('button', { name: '+ Colour' }).click();
  await page.getByRole('button', { name: '+ Bank' }).click();
  await waitFor('banks', async () => (await rigOf(pumice)).surfaces.find(({ id }) => id === 'foredeck')?.banks?.length === 2);
  await canvas.click(100, 100);
  await page.getByLabel('Faders').fill('3');
  await page.keyboard.press('Enter');
  await waitFor('three faders in both banks', async () => {
    const [control] = await controlsOf(pumice);
    return Object.keys(control!.signals).length === 3 && Object.keys(control!.banks![0]!).length === 3;
  });
  await page.getByRole('radio', { name: /Colour 1/ }).click();
  await waitFor('its colour', async () => (await controlsOf(pumice))[0]!.colour === 0);
  await page.getByLabel('Rest value').fill('0.25');
  await page.keyboard.press('Enter');
  await waitFor('its rest', async () => (await rigOf(pumice)).signals.filter(({ id }) => id.startsWith('foredeck.fader-row') && !id.includes('bank')).every(({ rest }) => rest === 0.25));
  await page.getByRole('button', { name: '+ Page' }).click();
  await waitFor('a page', async () => (await rigOf(pumice)).surfaces.find(({ id }) => id === 'foredeck')?.pages.length === 2);
  await page.locator('[data-tray]').getByRole('button', { name: 'Fold-out', exact: true }).click();
  await page.getByRole('button', { name: /Open it to design/ }).click();
  await page.locator('[data-tray]').getByRole('button', { name: 'Dial', exact: true }).click();
  await waitFor('a dial inside', async () => {
    const [fold] = await controlsOf(pumice, 'foredeck', 1);
    return fold?.kind === 'fold' && fold.controls.length === 1;
  });
  await page.getByRole('button', { name: '← Back to the page' }).click();
  await page.getByRole('button', { name: 'Delete page' }).click();
  await waitFor('one page', async () => (await rigOf(pumice)).surfaces.find(({ id }) => id === 'foredeck')?.pages.length === 1);
  expect(await faultsOf(page)).toEqual([]);

  await goOnStage(page, pumice);
  await expect(page.locator('[data-tray] button').first()).toBeDisabled();
  await canvas.drag([100, 100], [300, 300]);
  expect(frames(await controlsOf(pumice))[0]).toMatchObject({ x: 20, y: 20 });
});

test('choices that cannot be are said so, and the field shows those that are', async ({ pumice, page }) => {
  await withForedeck(pumice, [{ kind: 'radio', frame: { x: 20, y: 20, width: 400, height: 100 } }]);
  await openBench(page, `${pumice.url}/surfaces/foredeck`);
  await (await Canvas.of(page)).click(100, 60);
  const choices = page.getByRole('textbox', { name: 'Choices, one a line' });
  await choices.fill('Ebb');
  await choices.blur();
  await expect(page.getByText('There are 2 to 16 choices, each on a line of its own, and these would be 1: they stay as they were.')).toBeVisible();
  await expect(choices).toHaveValue('One\nTwo\nThree\nFour');
  await choices.fill('Ebb\n\n Flood ');
  await choices.blur();
  await waitFor('both', async () => JSON.stringify((await controlsOf(pumice))[0]).includes('"choices":["Ebb","Flood"]'));
  await expect(choices).toHaveValue('Ebb\nFlood');
});

test('a tablet joins by code, plays, is given another surface, is dropped and sent back to the door', async ({ pumice, page, browser, monitor }) => {
  await openBench(page, `${pumice.url}/surfaces`);
  await page.getByRole('switch', { name: 'Reachable from the network' }).click();
  await page.getByRole('button', { name: 'Let a device join' }).click();
  const card = page.getByRole('group', { name: 'Code for the next device' });
  await expect(card.getByRole('img', { name: /QR code of http/ })).toBeVisible();
  const code = (await card.locator('[data-code]').textContent())!.replace(' ', '');

  const context = await browser.newContext({ viewport: { width: 1180, height: 820 }, hasTouch: true });
  const tablet = await context.newPage();
  await tablet.goto(`${pumice.lanUrl}/`);
  await expect(tablet).toHaveURL(/\/join$/);
  await tablet.getByLabel('The code that the host shows').fill(code === '000000' ? '000001' : '000000');
  await tablet.getByLabel('What this device is called').fill('Left hand');
  await tablet.getByRole('button', { name: 'Join' }).click();
  await expect(tablet.locator('main').getByRole('alert')).toContainText('not the code');
  await tablet.getByLabel('The code that the host shows').fill(code);
  await tablet.getByRole('button', { name: 'Join' }).click();
  await expect(tablet).toHaveURL(/\/play\/wheelhouse$/);
  await (await Tablet.on(tablet)).fingers('touchStart', { id: 1, x: 130, y: 690 });
  await waitFor('the bell', () => monitor.sent.includes('bell-and-rigging 99 43 64'));
  await expect(page.locator('[data-devices] li')).toContainText('here');

  await page.getByRole('combobox', { name: 'Surface of Left hand' }).click();
  await page.getByTitle('Chart table').last().click();
  await expect(tablet).toHaveURL(/\/play\/chart-table$/);
  await waitFor('the bell that it held to end', () => monitor.sent.includes('bell-and-rigging 89 43 40'));
  await tablet.locator('[data-line="open"]').waitFor();
  await page.getByRole('button', { name: 'Drop Left hand' }).click();
  await expect(tablet).toHaveURL(/\/join$/);
  await expect(page.getByText('No tablet or phone has joined yet.')).toBeVisible();
  await context.close();
});
