import type { Browser } from '@playwright/test';
import { expect, Tablet, test } from '../helpers/journey';
import { waitFor, type Pumice } from '../helpers/pumice';
import type { Monitor } from '../helpers/monitor';
import type { RigScene } from '../../src/core/rig/document';
import { makeControl } from '../../src/core/surface/make';
import { Workbench } from '../../src/core/surface/workbench';
import { withForedeck, type Wanted } from '../helpers/surfaces';

/** Every kind of control under real fingers: its signals, its touch behaviour, its release. */

const at = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });

async function deck(pumice: Pumice, browser: Browser, ...wanted: Wanted[]): Promise<Tablet> {
  await withForedeck(pumice, wanted);
  return Tablet.open(browser, `${pumice.url}/play/foredeck`);
}

/** Gives Foredeck a second page with these words on it, and its page tab that page to turn to. */
async function withPage(pumice: Pumice, page: string, words: string): Promise<void> {
  const { document } = await pumice.playing();
  const surface = document.surfaces.find(({ id }) => id === 'foredeck')!;
  const [first] = surface.pages;
  const tabs = first!.controls.map((control) => (control.kind === 'page' ? { ...control, page } : control));
  const label = { id: 'words', kind: 'label' as const, label: words, frame: at(0, 0, 300, 60), signals: {} };
  const to = { ...surface, pages: [{ ...first!, controls: tabs }, { id: page, name: page, controls: [label] }] };
  expect((await pumice.give({ kind: 'change', changes: [{ list: 'surfaces', id: 'foredeck', to }] })).status).toBe(200);
}

/** The last value that each signal was sent, by what stands behind `foredeck.`. */
const last = (monitor: Monitor, signal: string) => monitor.facts.findLast((fact) => fact.direction === 'in' && fact.signal === `foredeck.${signal}`);
const valueOf = (monitor: Monitor, signal: string) => {
  const fact = last(monitor, signal);
  return fact?.direction === 'in' ? Number(fact.value.toFixed(2)) : null;
};
const arrives = (monitor: Monitor, signal: string, value: number) => waitFor(`${signal} to be ${value}, is ${String(valueOf(monitor, signal))}`, () => valueOf(monitor, signal) === value);

test('faders side by side are swept with one finger; tracks keep the finger that came down on them', async ({ pumice, browser, monitor }) => {
  const tablet = await deck(pumice, browser, { kind: 'faders', frame: at(0, 0, 400, 236), set: { count: 4 } }, { kind: 'tracks', frame: at(400, 0, 400, 236) });
  await tablet.fingers('touchStart', { id: 1, x: 50, y: 118 });
  for (const x of [150, 250, 350]) await tablet.fingers('touchMove', { id: 1, x, y: 18 });
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'fader-row.1', 0.5);
  for (const n of [2, 3, 4]) await arrives(monitor, `fader-row.${n}`, 1);

  await tablet.fingers('touchStart', { id: 1, x: 450, y: 118 }, { id: 2, x: 750, y: 218 });
  await tablet.fingers('touchMove', { id: 1, x: 780, y: 18 }, { id: 2, x: 750, y: 68 });
  await arrives(monitor, 'tracks.1', 1);
  await arrives(monitor, 'tracks.4', 0.75);
  await arrives(monitor, 'tracks.touch-4', 1);
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'tracks.touch-1', 0);
  expect(valueOf(monitor, 'tracks.2')).toBeNull();
  await tablet.close();
});

test('pads and keys of gates: struck by place, several at once; keys are slid over; both end when the finger lifts', async ({ pumice, browser, monitor }) => {
  const tablet = await deck(pumice, browser, { kind: 'pads', frame: at(0, 0, 400, 400), set: { stream: undefined } }, { kind: 'keys', frame: at(0, 400, 700, 200), set: { low: 60, high: 71, stream: undefined } });
  await tablet.fingers('touchStart', { id: 1, x: 50, y: 90 }, { id: 2, x: 350, y: 325 });
  await arrives(monitor, 'pads.1', 0.9);
  await arrives(monitor, 'pads.16', 0.25);
  await waitFor('two strokes', () => monitor.sent.filter((line) => / 9. /.test(line)).length === 2);
  await tablet.fingers('touchEnd', { id: 1, x: 50, y: 90 });
  await arrives(monitor, 'pads.1', 0);
  expect(valueOf(monitor, 'pads.16')).toBe(0.25);
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'pads.16', 0);

  // From C to D over the white keys, then up onto D sharp, which is black.
  await tablet.fingers('touchStart', { id: 1, x: 50, y: 580 });
  await arrives(monitor, 'keys.c4', 0.9);
  await tablet.fingers('touchMove', { id: 1, x: 150, y: 580 });
  await arrives(monitor, 'keys.c4', 0);
  await arrives(monitor, 'keys.d4', 0.9);
  await tablet.fingers('touchMove', { id: 1, x: 200, y: 500 });
  await arrives(monitor, 'keys.e-4', 0.5);
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'keys.e-4', 0);
  const notes = () => monitor.sent.filter((line) => / 9\d | 8\d /.test(line)).slice(-6).map((line) => line.split(' ')[2]).join(' ');
  await waitFor('each note to begin and end in turn', () => notes() === '3C 3C 3E 3E 3F 3F');
  await tablet.close();
});

test('a toggle stays, a choice is one of several, a stepper goes by steps, a push holds', async ({ pumice, browser, monitor }) => {
  const tablet = await deck(
    pumice,
    browser,
    { kind: 'toggle', frame: at(0, 0, 200, 100) },
    { kind: 'radio', frame: at(200, 0, 500, 100), label: 'Course', set: { choices: ['North', 'East', 'South', 'West', 'Home'] } },
    { kind: 'stepper', frame: at(0, 100, 200, 100), set: { steps: 5 } },
    { kind: 'push', frame: at(200, 100, 200, 100) },
  );
  const tap = async (x: number, y: number) => {
    await tablet.fingers('touchStart', { id: 1, x, y });
    await tablet.fingers('touchEnd');
  };
  await tap(100, 50);
  await arrives(monitor, 'toggle', 1);
  await expect(tablet.control('toggle')).toHaveAttribute('aria-pressed', 'true');
  await tap(100, 50);
  await arrives(monitor, 'toggle', 0);
  await tap(550, 50);
  await arrives(monitor, 'course', 0.75);
  await expect(tablet.control('course')).toHaveAttribute('aria-valuetext', 'West');
  await tap(150, 150);
  await arrives(monitor, 'stepper', 0.25);
  await tap(150, 150);
  await arrives(monitor, 'stepper', 0.5);
  await tap(20, 150);
  await arrives(monitor, 'stepper', 0.25);
  await tablet.fingers('touchStart', { id: 1, x: 300, y: 150 });
  await arrives(monitor, 'button', 1);
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'button', 0);
  await tablet.close();
});

test('a strip bends by the way of the finger and springs back; an endless dial goes round; a second finger is fine', async ({ pumice, browser, monitor }) => {
  const tablet = await deck(
    pumice,
    browser,
    { kind: 'strip', frame: at(0, 0, 100, 436) },
    { kind: 'dial', frame: at(100, 0, 200, 120), set: { endless: true, signals: {} } },
    { kind: 'fader', frame: at(300, 0, 100, 436), label: 'Fog', set: { behaviour: { kind: 'relative', sensitivity: 1 } } },
  );
  await tablet.fingers('touchStart', { id: 1, x: 50, y: 300 });
  await arrives(monitor, 'strip', 0.5);
  await tablet.fingers('touchMove', { id: 1, x: 50, y: 200 });
  await arrives(monitor, 'strip', 0.75);
  await tablet.fingers('touchEnd');
  await expect(tablet.control('strip')).toHaveAttribute('aria-valuenow', '0.50');
  await waitFor('the bend to be back', () => monitor.sent.findLast((line) => / E\d /.test(line))?.endsWith(' 00 40'));

  await tablet.fingers('touchStart', { id: 1, x: 150, y: 60 });
  await tablet.fingers('touchMove', { id: 1, x: 150, y: 104 });
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'dial-2', 0.8);
  await waitFor('steps down', () => monitor.sent.some((line) => / B\d .. 4[1-9]$| B\d .. [5-7].$/.test(line)));

  await tablet.fingers('touchStart', { id: 1, x: 350, y: 400 });
  await tablet.fingers('touchMove', { id: 1, x: 350, y: 200 });
  await arrives(monitor, 'fog', 0.5);
  await tablet.fingers('touchStart', { id: 1, x: 350, y: 200 }, { id: 2, x: 350, y: 400 });
  // The first move tells where fine begins.
  await tablet.fingers('touchMove', { id: 1, x: 350, y: 199 }, { id: 2, x: 350, y: 400 });
  await tablet.fingers('touchMove', { id: 1, x: 350, y: 39 }, { id: 2, x: 350, y: 400 });
  await arrives(monitor, 'fog', 0.55);
  await tablet.fingers('touchEnd');
  await tablet.close();
});

test('an XY pad has a point for each finger, and springs home where it is asked to', async ({ pumice, browser, monitor }) => {
  const tablet = await deck(pumice, browser, { kind: 'xy', frame: at(0, 0, 436, 436), label: 'Wind', set: { fingers: 2 } });
  await tablet.fingers('touchStart', { id: 1, x: 118, y: 118 }, { id: 2, x: 418, y: 418 });
  await arrives(monitor, 'wind.x', 0.25);
  await arrives(monitor, 'wind.y', 0.75);
  await arrives(monitor, 'wind.x2', 1);
  await arrives(monitor, 'wind.y2', 0);
  await tablet.fingers('touchMove', { id: 1, x: 118, y: 118 }, { id: 2, x: 218, y: 218 });
  await arrives(monitor, 'wind.x2', 0.5);
  expect(valueOf(monitor, 'wind.x')).toBe(0.25);
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'wind.touch', 0);
  await arrives(monitor, 'wind.touch2', 0);
  await expect(tablet.control('wind')).toHaveAttribute('aria-valuetext', '0.25 across, 0.75 up');

  const returns = { to: 0.5, overMs: 40, released: 'foredeck.wind.touch' };
  await pumice.give({ kind: 'setSignal', signal: 'foredeck.wind.x', set: { returns } });
  await tablet.fingers('touchStart', { id: 1, x: 418, y: 18 });
  await arrives(monitor, 'wind.x', 1);
  await tablet.fingers('touchEnd');
  await expect(tablet.control('wind')).toHaveAttribute('aria-valuetext', '0.50 across, 1.00 up');
  await tablet.close();
});

test('what comes back is shown; a scene button recalls; a page tab turns; banks send the next numbers', async ({ pumice, browser, monitor }) => {
  await withForedeck(
    pumice,
    [
      { kind: 'meter', frame: at(0, 0, 60, 300), set: { shows: 'wheelhouse.fog' } },
      { kind: 'ring', frame: at(60, 0, 140, 140), set: { shows: 'wheelhouse.fog' } },
      { kind: 'readout', frame: at(60, 140, 140, 100), set: { shows: 'wheelhouse.lamp' } },
      { kind: 'readout', frame: at(60, 240, 140, 100), label: 'Quay', set: { shows: 'mooring.distance' } },
      { kind: 'scene', frame: at(200, 0, 200, 100), set: { scene: 'fog-bank' } },
      { kind: 'bank', frame: at(400, 0, 300, 60) },
      { kind: 'fader', frame: at(400, 60, 100, 436), label: 'Sail' },
      { kind: 'page', frame: at(700, 0, 200, 60), label: 'Below' },
    ],
    ['Port', 'Starboard'],
  );
  await withPage(pumice, 'below', 'Hold');
  const tablet = await Tablet.open(browser, `${pumice.url}/play/foredeck`);
  await expect(tablet.control('scene')).toContainText('Fog bank');
  await tablet.fingers('touchStart', { id: 1, x: 300, y: 50 });
  await tablet.fingers('touchEnd');
  await expect(tablet.control('meter')).toHaveAttribute('aria-valuenow', '0.95', { timeout: 15_000 });
  await expect(tablet.control('ring')).toHaveAttribute('aria-valuenow', '0.95');
  await expect(tablet.control('readout').locator('.number')).toHaveText('127');
  await pumice.osc('/mooring/distance', 510);
  await expect(tablet.control('quay').locator('.number')).toHaveText('510 mm');
  await expect(tablet.control('quay')).toHaveAttribute('aria-valuenow', '0.50');

  await tablet.fingers('touchStart', { id: 1, x: 450, y: 278 });
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'sail', 0.5);
  await tablet.fingers('touchStart', { id: 1, x: 650, y: 30 });
  await tablet.fingers('touchEnd');
  await expect(tablet.page.getByRole('button', { name: 'Starboard' })).toHaveAttribute('aria-pressed', 'true');
  await tablet.fingers('touchStart', { id: 1, x: 450, y: 78 });
  await tablet.fingers('touchEnd');
  await arrives(monitor, 'sail.bank2', 1);
  expect(valueOf(monitor, 'sail')).toBe(0.5);
  const controllers = () => monitor.facts.flatMap((fact) => (fact.direction === 'out' && /^B/.test(fact.bytes) && fact.mapping?.startsWith('sail') ? [fact.bytes.split(' ').slice(0, 2).join(' ')] : []));
  await waitFor('two controllers', () => new Set(controllers()).size === 2);

  await tablet.fingers('touchStart', { id: 1, x: 800, y: 30 });
  await tablet.fingers('touchEnd');
  await expect(tablet.control('words')).toContainText('Hold');
  await expect(tablet.control('sail')).toHaveCount(0);
  await tablet.close();
});

test('pages that no tab leads to are turned by a strip beneath the surface, unless it is switched off', async ({ pumice, browser }) => {
  await withForedeck(pumice, [{ kind: 'fader', frame: at(400, 60, 100, 436), label: 'Sail' }], [], true);
  await withPage(pumice, 'below', 'Hold');
  const tablet = await Tablet.open(browser, `${pumice.url}/play/foredeck`);
  const strip = tablet.page.getByRole('navigation', { name: 'Pages' });
  const hold = strip.getByRole('button', { name: 'Below' });
  const box = (await hold.boundingBox())!;
  expect(box.height).toBeGreaterThanOrEqual(44);
  await tablet.fingers('touchStart', { id: 1, x: box.x + box.width / 2, y: box.y + box.height / 2 });
  await tablet.fingers('touchEnd');
  await expect(tablet.control('words')).toContainText('Hold');
  await expect(hold).toHaveAttribute('aria-current', 'page');
  // The surface ends above the strip.
  const sheet = (await tablet.page.locator('.surface, .sheet').first().boundingBox())!;
  expect(sheet.y + sheet.height).toBeLessThanOrEqual(box.y + 1);
  const { document } = await pumice.playing();
  const foredeck = document.surfaces.find(({ id }) => id === 'foredeck')!;
  await pumice.give({ kind: 'change', changes: [{ list: 'surfaces', id: 'foredeck', to: { ...foredeck, pageStrip: false } }] });
  await expect(strip).toHaveCount(0);
  await tablet.close();
});

test('a page that was turned by hand stays, through scenes that turn nothing, a line that is lost and a reload; a scene that turns it does so then', async ({ pumice, browser }) => {
  await withForedeck(pumice, [{ kind: 'fader', frame: at(400, 60, 100, 436), label: 'Sail' }], [], true);
  await withPage(pumice, 'below', 'Hold');
  const scene = (id: string, set: Partial<RigScene>): RigScene => ({ id, name: id, mappings: {}, pages: {}, values: {}, messages: [], glideMs: 0, ...set });
  const scenes = [scene('under-deck', { pages: { foredeck: 'below' } }), ...[0.25, 0.5, 0.75].map((sail) => scene(`sail-${100 * sail}`, { values: { 'foredeck.sail': sail } }))];
  expect((await pumice.give({ kind: 'change', changes: scenes.map((to) => ({ list: 'scenes', id: to.id, to })) })).status).toBe(200);
  const recall = (id: string) => pumice.post(`/api/scenes/${id}/recall`, {});
  const tablet = await Tablet.open(browser, `${pumice.url}/play/foredeck`);
  const sailIs = async (value: string) => expect(tablet.control('sail')).toHaveAttribute('aria-valuenow', value);
  await recall('under-deck');
  await expect(tablet.control('words')).toContainText('Hold');
  await tablet.page.getByRole('navigation', { name: 'Pages' }).getByRole('button').first().click();
  await recall('sail-25');
  await sailIs('0.25');
  const { hub } = await pumice.health();
  process.kill(hub.pid, 'SIGSTOP');
  await expect(tablet.page.getByText('No connection to Pumice.')).toBeVisible();
  process.kill(hub.pid, 'SIGCONT');
  await tablet.page.locator('[data-line="open"]').waitFor();
  await recall('sail-50');
  await sailIs('0.50');
  await tablet.page.reload();
  await tablet.page.locator('[data-line="open"]').waitFor();
  await recall('sail-75');
  await sailIs('0.75');
  await recall('under-deck');
  await expect(tablet.control('words')).toContainText('Hold');
  await tablet.close();
});

test('a fold-out lies over the page while it is held, is played with another finger, moved, scrolled, sized, and gone when released', async ({ pumice, browser, monitor }) => {
  const rig = await withForedeck(pumice, [{ kind: 'fold', frame: at(0, 0, 160, 90), label: 'More', set: { panel: at(200, 100, 400, 340) } }]);
  const inside = { surface: 'foredeck', page: 'first', fold: 'more' };
  const bench = new Workbench(rig);
  makeControl(bench, inside, 'fader', at(0, 0, 100, 236), { label: 'Inside' });
  makeControl(bench, inside, 'push', at(0, 500, 200, 100), { label: 'Below' });
  expect((await pumice.give({ kind: 'change', changes: bench.squeezed })).status).toBe(200);

  const tablet = await Tablet.open(browser, `${pumice.url}/play/foredeck`);
  const panel = tablet.page.locator('.fold-panel');
  await expect(panel).toHaveCount(0);
  const HOLD = { id: 1, x: 80, y: 45 };
  await tablet.fingers('touchStart', HOLD);
  await expect(panel).toBeVisible();
  await tablet.fingers('touchStart', HOLD, { id: 2, x: 250, y: 258 });
  await arrives(monitor, 'inside', 0.5);
  await tablet.fingers('touchEnd', { id: 2, x: 250, y: 258 });
  await arrives(monitor, 'inside.touch', 0);
  await expect(panel).toBeVisible();
  await tablet.fingers('touchEnd');
  await expect(panel).toHaveCount(0);

  await tablet.fingers('touchStart', HOLD);
  const before = (await panel.boundingBox())!;
  await tablet.fingers('touchStart', HOLD, { id: 2, x: 300, y: 115 });
  await tablet.fingers('touchMove', HOLD, { id: 2, x: 360, y: 175 });
  await expect.poll(async () => Math.round((await panel.boundingBox())!.x - before.x)).toBe(60);
  // No further than the surface goes, and back with the finger.
  await tablet.fingers('touchMove', HOLD, { id: 2, x: 3000, y: 3000 });
  const surface = (await tablet.page.locator('.surface').boundingBox())!;
  await expect.poll(async () => Math.round((await panel.boundingBox())!.x + before.width)).toBe(Math.round(surface.x + surface.width));
  await tablet.fingers('touchMove', HOLD, { id: 2, x: 360, y: 175 });
  await expect.poll(async () => Math.round((await panel.boundingBox())!.y - before.y)).toBe(60);
  await tablet.fingers('touchEnd', { id: 2, x: 360, y: 175 });

  // By its edge: what lay below comes into reach.
  const below = panel.locator('[data-control="below"]');
  const edge = (await panel.locator('.edge').boundingBox())!;
  const from = { id: 3, x: edge.x + 20, y: edge.y + 30 };
  await tablet.fingers('touchStart', HOLD, from);
  await tablet.fingers('touchMove', HOLD, { ...from, y: from.y + 100 });
  await tablet.fingers('touchMove', HOLD, { ...from, y: from.y + 400 });
  const panelNow = (await panel.boundingBox())!;
  await expect.poll(async () => (await below.boundingBox())!.y).toBeLessThan(panelNow.y + panelNow.height - 20);
  await tablet.fingers('touchEnd', { ...from, y: from.y + 400 });
  // By its corner.
  const grip = (await panel.locator('.grip').boundingBox())!;
  const corner = { id: 4, x: grip.x + 22, y: grip.y + 22 };
  await tablet.fingers('touchStart', HOLD, corner);
  await tablet.fingers('touchMove', HOLD, { ...corner, x: corner.x + 40, y: corner.y + 30 });
  await tablet.fingers('touchMove', HOLD, { ...corner, x: corner.x + 80, y: corner.y + 60 });
  await expect.poll(async () => (await panel.boundingBox())!.width - panelNow.width).toBeGreaterThan(60);
  await tablet.fingers('touchEnd');
  await expect(panel).toHaveCount(0);
  await tablet.close();
});
