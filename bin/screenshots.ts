// npx tsx bin/screenshots.ts: takes the pictures in docs/screenshots from the demo rig, with something moving.
import { chromium } from '@playwright/test';
import { mkdirSync } from 'node:fs';
import { Tablet } from '../test/helpers/journey';
import { NetworkPeer } from '../test/helpers/networkPeer';
import { freePair, LAN_ADDRESS, Pumice, waitFor } from '../test/helpers/pumice';
import { withForedeck } from '../test/helpers/surfaces';

const FOLDER = 'docs/screenshots';
mkdirSync(FOLDER, { recursive: true });

const pumice = await Pumice.fresh();
await pumice.run();
const browser = await chromium.launch({ executablePath: process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium', args: ['--no-sandbox'] });
const bench = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
const tablet = await Tablet.open(browser, `${pumice.url}/play/wheelhouse`);

/** Two fingers: one swings Swell, one draws with Wind, for a while. */
async function play(rounds: number): Promise<void> {
  const at = (i: number) => [
    { id: 1, x: 340, y: 294 + Math.sin(i / 6) * 170 },
    { id: 2, x: 854 + Math.cos(i / 9) * 190, y: 260 + Math.sin(i / 5) * 120 },
  ];
  await tablet.fingers('touchStart', ...at(0));
  for (let i = 1; i < rounds; i++) {
    await tablet.fingers('touchMove', ...at(i));
    await tablet.page.waitForTimeout(12);
  }
}

async function tap(x: number, y: number): Promise<void> {
  await tablet.fingers('touchStart', { id: 1, x, y });
  await tablet.page.waitForTimeout(60);
  await tablet.fingers('touchEnd');
}

await bench.goto(`${pumice.url}/outputs`);
await bench.waitForTimeout(600);
for (const [x, y] of [[210, 330], [470, 400], [130, 690], [360, 690], [80, 200]] as const) await tap(x, y);
await play(60);
await bench.screenshot({ path: `${FOLDER}/outputs.png` });
await tablet.page.screenshot({ path: `${FOLDER}/play-wheelhouse.png` });

await bench.locator('.ant-segmented-item').filter({ hasText: 'Delay' }).click();
await bench.getByRole('button', { name: 'Network MIDI' }).click();
await bench.getByRole('switch', { name: 'Other computers and tablets may connect' }).click();
const chartTablet = await NetworkPeer.open('Chart tablet', await freePair());
const network = (known: object[]) => fetch(`${pumice.url}/api/settings/network`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ on: true, sessions: [{ name: 'Pumice', port: pumice.midiPort }], known, invited: [] }) });
await network([{ name: 'Chart tablet', address: LAN_ADDRESS, may: true }]);
const deckLaptop = await NetworkPeer.open('Deck laptop', await freePair());
for (let i = 0; i < 20; i++) {
  if (chartTablet.commands.length === 0) chartTablet.invite(pumice.midiPort);
  deckLaptop.invite(pumice.midiPort);
  await play(6);
}
await bench.screenshot({ path: `${FOLDER}/outputs-network.png` });
await chartTablet.bye();
for (const peer of [chartTablet, deckLaptop]) peer.close();
await network([]);
// Who asked and is gone is asked about for a little longer.
await bench.getByText('wants to play over the network').waitFor({ state: 'hidden', timeout: 60_000 });

await bench.goto(`${pumice.url}/mappings`);
await bench.waitForTimeout(600);
await bench.getByRole('button', { name: 'Shape Swell height' }).click();
await play(150);
await bench.screenshot({ path: `${FOLDER}/mappings.png` });

const crew = await Tablet.open(browser, `${pumice.url}/play/crew`);
const place = async (label: string) => {
  const box = (await crew.page.getByLabel(label, { exact: true }).first().boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};
await bench.goto(`${pumice.url}/ensemble`);
await bench.getByRole('button', { name: 'Settings of Engine pattern' }).click();
for (const label of ['Keel bass', 'Engine pattern', 'Winch arpeggio']) {
  await crew.fingers('touchStart', { id: 9, ...(await place(label)) });
  await crew.fingers('touchEnd');
}
const held = { id: 1, ...(await place('iv')) };
await crew.fingers('touchStart', held);
await bench.waitForTimeout(4500);
for (let y = 780; y > 60; y -= 24) {
  await crew.fingers(y === 780 ? 'touchStart' : 'touchMove', held, { id: 2, x: 1090, y });
  await crew.page.waitForTimeout(12);
}
await bench.screenshot({ path: `${FOLDER}/ensemble.png` });
await crew.fingers('touchEnd');
await bench.getByRole('button', { name: 'Stop the ensemble' }).click();
await crew.close();

const hull = await Tablet.open(browser, `${pumice.url}/play/hull`);
await bench.goto(`${pumice.url}/mappings#hull-ribs`);
await bench.getByRole('complementary', { name: 'Voices of Ribs' }).waitFor();
const ribs = (i: number) => [
  { id: 1, x: 310 + 36 * Math.sin(i / 5), y: 700, radiusX: 18 + i / 8, radiusY: 18 },
  { id: 2, x: 640 - i * 1.6, y: 400, radiusX: 34, radiusY: 34 },
  { id: 3, x: 880 + 20 * Math.sin(i / 4), y: 215, radiusX: 26 + 10 * Math.sin(i / 30), radiusY: 20 },
];
await hull.fingers('touchStart', ...ribs(0));
for (let i = 1; i < 190; i++) {
  await hull.fingers('touchMove', ...ribs(i));
  await hull.page.waitForTimeout(12);
}
await hull.page.screenshot({ path: `${FOLDER}/play-hull.png` });
await bench.screenshot({ path: `${FOLDER}/voices.png` });
await hull.fingers('touchEnd');
await hull.close();

await bench.goto(`${pumice.url}/inputs`);
for (const name of ['Mooring', 'Deck hand', 'Gangway']) await bench.getByRole('article', { name: `Stand-in ${name}` }).getByRole('button', { name: 'Start' }).click();
await bench.waitForTimeout(5000);
await bench.locator('[aria-labelledby="inputs-title"]').evaluate((section) => section.scrollTo(0, 0));
// Traces out of view have no past.
await bench.waitForTimeout(5000);
await bench.screenshot({ path: `${FOLDER}/inputs.png` });
await bench.getByRole('article', { name: 'Input Deck hand' }).getByRole('button', { name: 'Calibrate' }).click();
const deckHand = bench.getByRole('article', { name: 'Stand-in Deck hand' });
await deckHand.getByText('By hand').click();
await bench.getByRole('button', { name: 'I am not touching it' }).click();
await bench.getByRole('button', { name: 'I am moving it' }).waitFor();
await deckHand.getByText('By itself').click();
await bench.getByRole('button', { name: 'I am moving it' }).click();
await bench.getByRole('button', { name: 'Use this' }).waitFor();
await bench.locator('[aria-labelledby="inputs-title"]').evaluate((section) => section.scrollTo(0, 0));
// Traces out of view have no past.
await bench.waitForTimeout(5000);
await bench.screenshot({ path: `${FOLDER}/inputs-calibrate.png` });
await bench.getByRole('button', { name: 'Close' }).click();

await pumice.edit('spray', { message: { kind: 'controlChange', channel: 3, controller: 24, range: [0, 127] } });
await bench.goto(`${pumice.url}/ledger`);
await bench.getByRole('combobox', { name: 'Output' }).click();
await bench.getByTitle('Weather').click();
await bench.waitForTimeout(600);
await bench.screenshot({ path: `${FOLDER}/ledger.png` });
await bench.goto(`${pumice.url}/rigs`);
await bench.getByRole('button', { name: 'Duplicate' }).click();
await bench.waitForTimeout(900);
await bench.screenshot({ path: `${FOLDER}/rigs.png` });

const ears = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await ears.goto(`${pumice.url}/listen`);
await ears.getByRole('combobox', { name: 'Microphone' }).click();
await ears.locator('.ant-select-item-option').filter({ hasText: 'Foghorn, a singer' }).click();
await ears.getByRole('button', { name: 'Listen', exact: true }).click();
await ears.waitForTimeout(5200);
await ears.screenshot({ path: `${FOLDER}/listening.png` });
await ears.close();

const eyes = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await eyes.goto(`${pumice.url}/hands`);
await eyes.getByRole('combobox', { name: 'Camera' }).click();
await eyes.locator('.ant-select-item-option').filter({ hasText: 'Gulls, crossing' }).click();
await eyes.getByRole('button', { name: 'Start', exact: true }).click();
await eyes.waitForTimeout(1900);
await eyes.screenshot({ path: `${FOLDER}/hands.png` });
await eyes.close();

const at = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });
await withForedeck(pumice, [
  { kind: 'tracks', frame: at(20, 20, 340, 330), label: 'Ropes' },
  { kind: 'strip', frame: at(376, 20, 90, 330), label: 'Creak' },
  { kind: 'xy', frame: at(482, 20, 330, 330), label: 'Gulls', set: { fingers: 2 } },
  { kind: 'pads', frame: at(828, 20, 332, 330) },
  { kind: 'keys', frame: at(20, 370, 792, 250), set: { low: 48, high: 71 } },
  { kind: 'faders', frame: at(828, 370, 332, 250), label: 'Planks' },
  { kind: 'radio', frame: at(20, 640, 450, 76), label: 'Watch', set: { choices: ['First', 'Middle', 'Morning', 'Dog'] } },
  { kind: 'stepper', frame: at(482, 640, 160, 76), label: 'Knots' },
  { kind: 'toggle', frame: at(652, 640, 160, 76), label: 'Lantern' },
  { kind: 'dial', frame: at(20, 730, 200, 76), label: 'Pump', set: { endless: true, signals: {} } },
  { kind: 'scene', frame: at(232, 730, 238, 76), set: { scene: 'fog-bank' } },
  { kind: 'readout', frame: at(482, 730, 160, 76), label: 'Fog', set: { shows: 'wheelhouse.fog' } },
  { kind: 'fold', frame: at(652, 730, 160, 76), label: 'More' },
  { kind: 'ring', frame: at(828, 640, 160, 166), label: 'Swell', set: { shows: 'wheelhouse.swell' } },
  { kind: 'meter', frame: at(1004, 640, 50, 166), label: 'Fog', set: { shows: 'wheelhouse.fog' } },
  { kind: 'push', frame: at(1070, 640, 90, 166), label: 'Whistle' },
]);
const controls = await Tablet.open(browser, `${pumice.url}/play/foredeck`);
await controls.fingers('touchStart', { id: 1, x: 60, y: 120 }, { id: 2, x: 230, y: 200 }, { id: 3, x: 600, y: 120 }, { id: 4, x: 940, y: 170 }, { id: 5, x: 300, y: 560 });
await play(40);
await controls.page.screenshot({ path: `${FOLDER}/play-controls.png` });
await controls.fingers('touchEnd');
await bench.goto(`${pumice.url}/surfaces/foredeck`);
await bench.waitForTimeout(900);
await bench.locator('[data-controls]').getByRole('button', { name: 'Gulls' }).click();
await bench.waitForTimeout(500);
await bench.screenshot({ path: `${FOLDER}/designer.png` });
await bench.goto(`${pumice.url}/surfaces`);
await bench.getByRole('switch', { name: 'Reachable from the network' }).click();
await bench.getByRole('button', { name: 'Let a device join' }).click();
const code = await waitFor('the code', () => bench.locator('[data-code]').textContent());
const joining = await (await browser.newContext({ viewport: { width: 1180, height: 820 } })).newPage();
await joining.goto(`${pumice.lanUrl}/join?code=${code.replace(' ', '')}`);
await joining.getByLabel('What this device is called').fill('Left tablet');
await joining.getByRole('button', { name: 'Join' }).click();
await joining.locator('[data-line="open"]').waitFor();
await bench.waitForTimeout(2500);
await bench.locator('[aria-labelledby="joined-title"]').evaluate((section) => section.scrollIntoView({ block: 'end' }));
await bench.screenshot({ path: `${FOLDER}/surfaces.png` });

await pumice.post('/api/stage', { stage: true });
await bench.goto(`${pumice.url}/stage`);
await bench.waitForTimeout(600);
await bench.keyboard.press('2');
await play(150);
await bench.screenshot({ path: `${FOLDER}/stage.png` });
await tablet.page.screenshot({ path: `${FOLDER}/play-stage.png` });

await pumice.post('/api/stage', { stage: false });
await bench.goto(`${pumice.url}/takes`);
await bench.getByRole('region', { name: 'Takes' }).getByRole('button', { name: /^Crossing/ }).click();
// Takes of the demo are rendered once somebody looks at them.
await bench.getByRole('region', { name: 'Takes' }).getByRole('button', { name: /^Foghorn/ }).locator('rect').first().waitFor({ state: 'attached' });
await bench.getByRole('listitem', { name: 'Ribs, Hull song' }).locator('canvas').hover({ position: { x: 300, y: 60 } });
await bench.waitForTimeout(600);
await bench.screenshot({ path: `${FOLDER}/takes.png` });

await browser.close();
await pumice.stop();
