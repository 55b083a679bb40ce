import { expect, test as base, type Browser, type CDPSession, type Page, type TestInfo } from '@playwright/test';
import { Monitor } from './monitor';
import { Pumice, waitFor } from './pumice';
import { initialSettings, renew } from './renew';

/** A tablet, touched with real touch events. */
export class Tablet {
  private constructor(
    readonly page: Page,
    private readonly cdp: CDPSession,
  ) {}

  /** `line`: a surface shows its open line; a screen of the Bench has it `attached`. */
  static async open(browser: Browser, url: string, line: 'visible' | 'attached' = 'visible'): Promise<Tablet> {
    const context = await browser.newContext({ viewport: { width: 1180, height: 820 }, hasTouch: true });
    const page = await context.newPage();
    await page.goto(url);
    return Tablet.on(page, line);
  }

  /** A page that is there already, and shows a surface or will. */
  static async on(page: Page, line: 'visible' | 'attached' = 'visible'): Promise<Tablet> {
    await page.locator('[data-line="open"]').waitFor({ state: line });
    return new Tablet(page, await page.context().newCDPSession(page));
  }

  /** Puts down, moves or lifts the fingers named; a `touchEnd` that names none lifts all. */
  async fingers(type: 'touchStart' | 'touchMove' | 'touchEnd', ...fingers: { id: number; x: number; y: number }[]): Promise<void> {
    await this.cdp.send('Input.dispatchTouchEvent', { type, touchPoints: fingers });
  }

  /** Its address, its line, what is held, and all that it shows. */
  stands(): Promise<unknown> {
    return this.page.evaluate(() => ({
      at: location.pathname,
      line: document.querySelector('[data-line]')?.getAttribute('data-line'),
      held: [...document.querySelectorAll('[data-held="true"]')].map((element) => element.getAttribute('data-control')),
      shows: document.body.innerText.replaceAll(/\s+/g, ' ').slice(0, 300),
    }));
  }

  control(name: string) {
    return this.page.locator(`[data-control="${name}"]`);
  }

  async close(): Promise<void> {
    await this.page.context().close();
  }
}

/** Opens a screen of the bench and waits until it is live: what happens from then on is seen. */
export async function openBench(page: Page, url: string): Promise<void> {
  await page.goto(url);
  await page.locator('[data-line="open"]').waitFor({ state: 'attached' });
}

/** Takes a band of the Mappings screen up by keys, until the arrow keys carry it. */
export async function takeUpBand(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: `Move ${name}`, exact: true }).focus();
  await page.keyboard.press('Space');
  await page.locator('li[data-dragging="true"]').waitFor();
  // What carries by keys listens from the next timer on; this one comes after it.
  await page.evaluate(() => new Promise((resolve) => setTimeout(resolve)));
}

/** Does something so fast that the page draws nothing between: what it has to draw waits in messages to itself, which are kept back. */
export async function beforeItIsDrawn(page: Page, does: () => Promise<void>): Promise<void> {
  await page.evaluate(() => {
    const { postMessage } = MessagePort.prototype;
    const kept: (() => void)[] = [];
    MessagePort.prototype.postMessage = function (this: MessagePort, message: unknown) {
      kept.push(() => postMessage.call(this, message));
    };
    Object.assign(window, {
      goOn: () => {
        MessagePort.prototype.postMessage = postMessage;
        for (const send of kept) send();
      },
    });
  });
  await does();
  await page.evaluate(() => (window as unknown as { goOn: () => void }).goOn());
}

/** Goes on Stage and waits until every colour has changed over. */
export async function goOnStage(page: Page, pumice: Pumice): Promise<void> {
  await pumice.post('/api/stage', { stage: true });
  await page.locator('[data-mode="stage"]').waitFor();
  await isAtRest(page);
}

/** Waits until nothing is on its way from one look to another. */
export async function isAtRest(page: Page): Promise<void> {
  await page.evaluate(() => Promise.allSettled(document.getAnimations().filter((animation) => animation.effect?.getTiming().iterations !== Infinity).map((animation) => animation.finished)));
}

/**
 * Keeps what a page says in its status lines and alerts from now on, for what is gone again before anybody looks. Gives what was
 * said so far, a line each.
 */
export async function keepSayings(page: Page): Promise<() => Promise<string>> {
  await page.evaluate(() => {
    const said = new Set<string>();
    const look = () => document.querySelectorAll('[role="status"], [role="alert"]').forEach(({ textContent }) => said.add(textContent));
    look();
    new MutationObserver(look).observe(document.body, { subtree: true, childList: true, characterData: true });
    (window as unknown as { said: Set<string> }).said = said;
  });
  return () => page.evaluate(() => [...(window as unknown as { said: Set<string> }).said].join('\n'));
}

/** Says how something stands, for who was not there when it failed; where that takes long it is left out. */
async function howItStands(info: TestInfo, look: () => Promise<unknown>): Promise<void> {
  if (info.status === info.expectedStatus) return;
  const late = new Promise((resolve) => setTimeout(resolve, 3000, 'no answer in 3 s'));
  const seen = await Promise.race([look().catch(String), late]);
  info.errors.push({ message: `It stood so: ${JSON.stringify(seen)}` });
}

/** A screen of the Bench: its address, its line, where the focus is, what it says, and what stands in its fields. */
const screenStands = (page: Page) =>
  page.evaluate(() => {
    const nameOf = (element: Element | null) => element && `${element.tagName.toLowerCase()} ${element.getAttribute('aria-label') ?? element.textContent.slice(0, 40)}`;
    return {
      at: location.pathname,
      line: document.querySelector('[data-line]')?.getAttribute('data-line'),
      focus: nameOf(document.activeElement),
      says: [...document.querySelectorAll('[role="status"], [role="alert"], .ant-message')].map(({ textContent }) => textContent).filter(Boolean),
      fields: [...document.querySelectorAll<HTMLInputElement>('input:not([type="checkbox"], [type="radio"])')].map((field) => `${nameOf(field)}: ${field.value}${field.disabled ? ', locked' : ''}`).slice(0, 40),
    };
  });

interface Fixtures {
  pumice: Pumice;
  monitor: Monitor;
  tablet: Tablet;
  /** What pages threw and nobody caught: at its end a journey has none of it left. */
  thrown: string[];
}

/** Every journey finds a program that is as good as new, with the demo rig; those of a worker share one. */
export const test = base.extend<Fixtures, { program: { pumice: Pumice; used: boolean } }>({
  program: [
    async ({}, use) => {
      const pumice = await Pumice.fresh();
      await pumice.run();
      await waitFor('the hub to have its rig', async () => (await pumice.health()).ok);
      await initialSettings(pumice);
      await use({ pumice, used: false });
      await pumice.stop();
    },
    { scope: 'worker' },
  ],
  thrown: [
    async ({ browser }, use) => {
      const thrown: string[] = [];
      const { newContext } = browser;
      browser.newContext = async (...how) => {
        const context = await newContext.apply(browser, how);
        context.on('weberror', (error) => thrown.push(error.error().stack ?? String(error.error())));
        return context;
      };
      await use(thrown);
      browser.newContext = newContext;
      expect(thrown, 'what pages threw').toEqual([]);
    },
    { auto: true },
  ],
  pumice: async ({ program: { pumice }, program }, use, info) => {
    if (program.used) await renew(pumice);
    program.used = true;
    const said = pumice.output.length;
    await use(pumice);
    await howItStands(info, async () => ({ ...(await pumice.health().catch((error: Error) => ({ health: error.message }))), said: pumice.output.slice(said).slice(-1500) }));
  },
  monitor: async ({ pumice }, use, info) => {
    const monitor = await Monitor.open(pumice.url);
    await use(monitor);
    await howItStands(info, () => Promise.resolve(monitor.sent.slice(-12)));
    monitor.close();
  },
  page: async ({ page }, use, info) => {
    await use(page);
    await howItStands(info, () => screenStands(page));
  },
  tablet: async ({ browser, pumice }, use, info) => {
    const tablet = await Tablet.open(browser, `${pumice.url}/play/wheelhouse`);
    await use(tablet);
    await howItStands(info, () => tablet.stands());
    await tablet.close();
  },
});

export { expect } from '@playwright/test';
