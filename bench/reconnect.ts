import { chromium, type Page } from '@playwright/test';
import { WebSocket } from 'ws';
import { Pumice, waitFor } from '../test/helpers/pumice';
import { nowMs, sleep } from './pace';
import { aimAt, figure, report, type Figure } from './report';

/**
 * How soon ten pages of one browser are back after everything was away for a while, from the moment at which the hub answers
 * again. The floor is how long a socket to the hub takes from this process in the same moment. Ten minutes take ten minutes:
 * they are measured with `PUMICE_BENCH_LONG=1`.
 */
const PAGES = 10;
const AWAY_S = process.env.PUMICE_BENCH_LONG ? [3, 20, 60, 600] : [3, 20, 60];

const browser = await chromium.launch({
  executablePath: process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
});
const context = await browser.newContext();
// Each page writes down when its line last came up, by the clock of the machine.
await context.addInitScript(() => {
  new MutationObserver(() => {
    const line = document.querySelector<HTMLElement>('main[data-line]')?.dataset.line;
    const held = window as unknown as { line?: string; openMs?: number };
    if (line === 'open' && held.line !== 'open') held.openMs = performance.timeOrigin + performance.now();
    held.line = line!;
  }).observe(document, { subtree: true, childList: true, attributes: true, attributeFilter: ['data-line'] });
});
const pumice = await Pumice.fresh();
await pumice.run();
const pages: Page[] = [];
for (let i = 0; i < PAGES; i++) {
  const page = await context.newPage();
  await page.goto(`${pumice.url}/play/wheelhouse`);
  await page.locator('[data-line="open"]').waitFor();
  pages.push(page);
}

const answers = async () => {
  try {
    return (await fetch(`http://localhost:${pumice.hubPort}/here`)).ok;
  } catch {
    return false;
  }
};

const figures: Figure[] = [];
for (const awayS of AWAY_S) {
  await pumice.killAll();
  await sleep(awayS * 1000);
  const started = pumice.run();
  await waitFor('the hub to answer', answers, 60_000, 10);
  const thereMs = nowMs();
  const socketMs = nowMs();
  await new Promise((resolve) => {
    const socket = new WebSocket(`ws://localhost:${pumice.hubPort}/live`);
    socket.onopen = () => {
      socket.close();
      resolve(null);
    };
    socket.onerror = () => resolve(null);
  });
  const floor = nowMs() - socketMs;
  await Promise.all(pages.map((page) => page.locator('[data-line="open"]').waitFor({ timeout: 120_000 })));
  const backMs = await Promise.all(pages.map((page) => page.evaluate(() => (window as unknown as { openMs: number }).openMs)));
  figures.push(figure(`away ${awayS} s: until the last of ${PAGES} pages is back`, Math.max(...backMs) - thereMs, 'ms', floor, aimAt(2000), 'lower'));
  await started;
}
report('reconnect', figures);
await pumice.stop();
await browser.close();
