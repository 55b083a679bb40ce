// npx tsx bin/screenshots.ts: takes the pictures in docs/screenshots from the demo rig, with something moving.
import { chromium } from '@playwright/test';
import { mkdirSync } from 'node:fs';
import { Tablet } from '../test/helpers/journey';
import { Pumice } from '../test/helpers/pumice';

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

for (const [path, name] of [['mappings', 'mappings'], ['surfaces', 'surfaces']] as const) {
  await bench.goto(`${pumice.url}/${path}`);
  await bench.waitForTimeout(600);
  if (name === 'mappings') await bench.getByRole('button', { name: 'Shape Swell height' }).click();
  await play(150);
  await bench.screenshot({ path: `${FOLDER}/${name}.png` });
}

await bench.goto(`${pumice.url}/inputs`);
for (const name of ['Mooring', 'Deck hand', 'Gangway']) await bench.getByRole('article', { name: `Stand-in ${name}` }).getByRole('button', { name: 'Start' }).click();
await bench.waitForTimeout(5000);
await bench.locator('.inputs > section').evaluate((section) => section.scrollTo(0, 0));
await bench.screenshot({ path: `${FOLDER}/inputs.png` });
await bench.getByRole('article', { name: 'Input Deck hand' }).getByRole('button', { name: 'Calibrate' }).click();
const deckHand = bench.getByRole('article', { name: 'Stand-in Deck hand' });
await deckHand.getByText('By hand').click();
await bench.getByRole('button', { name: 'I am not touching it' }).click();
await bench.getByRole('button', { name: 'I am moving it' }).waitFor();
await deckHand.getByText('By itself').click();
await bench.getByRole('button', { name: 'I am moving it' }).click();
await bench.getByRole('button', { name: 'Use this' }).waitFor();
await bench.locator('.inputs > section').evaluate((section) => section.scrollTo(0, 0));
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

await bench.goto(`${pumice.url}/mappings`);
await bench.getByRole('button', { name: 'Derived signals' }).click();
await bench.getByRole('combobox', { name: 'Make a derived signal' }).click();
await bench.getByTitle('Highest').click();
await bench.waitForTimeout(500);
await play(60);
await bench.screenshot({ path: `${FOLDER}/derived.png` });
await bench.getByRole('button', { name: 'Close the derived signals' }).click();
await bench.getByRole('button', { name: 'More for the scene Fog bank' }).click();
await bench.getByText('Look at it, change it').click();
await bench.getByRole('button', { name: 'Add a message' }).click();
await bench.waitForTimeout(600);
await bench.screenshot({ path: `${FOLDER}/scene.png` });

await pumice.post('/api/stage', { stage: true });
await bench.goto(`${pumice.url}/stage`);
await bench.waitForTimeout(600);
await bench.keyboard.press('2');
await play(150);
await bench.screenshot({ path: `${FOLDER}/stage.png` });
await tablet.page.screenshot({ path: `${FOLDER}/play-stage.png` });

await browser.close();
await pumice.stop();
