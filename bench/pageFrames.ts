import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Browser, Page } from '@playwright/test';
import { sleep } from './pace';

/** The times between frames of a page, in ms. */
export async function framesOf(page: Page, watchMs: number): Promise<number[]> {
  await page.evaluate(`window.gaps = []; let last = performance.now(); requestAnimationFrame(function look(now) { window.gaps.push(now - last); last = now; requestAnimationFrame(look); })`);
  await sleep(watchMs);
  return page.evaluate<number[]>('window.gaps.slice(5)');
}

/** The same of a page that only counts them. */
export async function bareFrames(browser: Browser, watchMs: number): Promise<number[]> {
  const plain = createServer((_, response) => void response.writeHead(200, { 'content-type': 'text/html' }).end('<!doctype html><p>frames</p>'));
  await new Promise<void>((resolve) => plain.listen(0, '127.0.0.1', resolve));
  const bare = await browser.newPage();
  await bare.goto(`http://127.0.0.1:${(plain.address() as AddressInfo).port}`);
  const gaps = await framesOf(bare, watchMs);
  await bare.close();
  plain.close();
  return gaps;
}

export const perSecond = (gaps: readonly number[]) => (1000 * gaps.length) / gaps.reduce((sum, gap) => sum + gap, 0);
