/**
 * Random hands on two windows of the Bench and a tablet: clicks, words, keys, drags that stay down while others act, fingers, Undo by
 * somebody else, requests that fail. Says what pages threw, what was refused as if by a mistake of the program, which process died, and at
 * the end whether Undo leads back to where it began. Run by hand: `npx tsx bin/wander.ts [minutes] [seed] [faults]`, after a build.
 */
import { isDeepStrictEqual } from 'node:util';
import { chromium, type Browser, type CDPSession, type Page } from '@playwright/test';
import { randomFrom } from '../src/core/standIn/noise';
import { Pumice } from '../test/helpers/pumice';

const [minutes, seed] = [Number(process.argv[2] ?? 5), Number(process.argv[3] ?? 1)];
const faults = process.argv[4] === 'faults';
const CHROMIUM = process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium';
const [WIDTH, HEIGHT] = [1280, 800];
const chance = randomFrom(seed);
const pick = <T>(of: readonly T[]): T => of[Math.floor(chance() * of.length)]!;
const somewhere = () => ({ x: chance() * (WIDTH - 1), y: chance() * (HEIGHT - 1) });

const WORDS = ['abc', '12,5', '-1', '', '999999', 'Ø ferry', '0', '1', '64', '127', '1/8', '<b>', "'; --", '16', '1e9', '∞', '0.5'];
const KEYS = ['Enter', 'Escape', 'Tab', 'Shift+Tab', 'Delete', 'Backspace', 'ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Space', 'Control+z', 'Control+Shift+z', 'Control+a', 'Control+c', 'Control+v', 'Control+d', 'm', '?', '/', 'PageDown', 'Home', 'End'];
const SCREENS = ['inputs', 'mappings', 'ensemble', 'surfaces', 'outputs', 'ledger', 'takes', 'rigs', 'stage'];
const TO_CLICK = 'button, a[href], input, select, textarea, canvas, [role=button], [role=tab], [role=option], [role=menuitem], [role=switch], [role=slider], [tabindex], [data-control]';
/** Refusals that any two people have now and then: on Stage, too often, changed by the other one a moment before, or another rig opened. */
const USUAL = new Set([403, 404, 409, 423, 429]);
/** The browser's own word on a page that nobody has touched yet. */
const HARMLESS = /Failed to load resource|preloaded using link preload|navigator\.vibrate/;
/** The browser takes no larger numbers of touch points. */
const MOST_FINGERS = 15;
const NOT_FOR_PEOPLE = /NaN|undefined|\[object|page broke|went wrong inside/;

/** What was found, each once, and what was done just before. */
class Findings {
  private readonly known = new Map<string, number>();
  private readonly done: string[] = [];

  did(what: string): void {
    this.done.push(what);
    if (this.done.length > 8) this.done.shift();
  }

  found(what: string): void {
    const times = (this.known.get(what) ?? 0) + 1;
    this.known.set(what, times);
    if (times === 1) console.log(`! ${what}\n  after: ${this.done.join(' | ')}`);
  }

  get count(): number {
    return this.known.size;
  }
}

const findings = new Findings();

async function open(browser: Browser, url: string, name: string, hasTouch: boolean): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: WIDTH, height: HEIGHT }, reducedMotion: 'reduce', hasTouch });
  const page = await context.newPage();
  page.on('pageerror', ({ message, stack }) => findings.found(`${name} threw at ${new URL(page.url()).pathname}: ${message}\n  ${(stack ?? '').split('\n').slice(1, 4).join(' <')}`));
  page.on('console', (message) => void (['error', 'warning'].includes(message.type()) && !HARMLESS.test(message.text()) && findings.found(`${name} wrote: ${message.text().slice(0, 300)}`)));
  page.on('response', (response) => void (response.status() >= 400 && !USUAL.has(response.status()) && !faults && refused(name, response)));
  page.on('dialog', (dialog) => void dialog.dismiss().catch(() => undefined));
  page.on('filechooser', () => undefined);
  await page.goto(url);
  if (faults) await context.route('**/api/**', async (route) => {
    const turn = chance();
    if (turn < 0.06) return route.abort();
    if (turn < 0.1) return route.fulfill({ status: 502, contentType: 'text/html', body: '<h1>Bad gateway</h1>' });
    if (turn < 0.14) return route.fulfill({ status: 200, contentType: 'application/json', body: '{' });
    return route.continue().catch(() => undefined);
  });
  return page;
}

async function refused(name: string, response: { status(): number; url(): string; text(): Promise<string> }): Promise<void> {
  const text = await response.text().catch(() => '');
  findings.found(`${name} was told ${response.status()} by ${new URL(response.url()).pathname}: ${text.slice(0, 250)}`);
}

/** A hand with a mouse and a keyboard. */
class BenchHand {
  private isDown = false;

  constructor(
    private readonly page: Page,
    private readonly name: string,
    private readonly url: string,
    private readonly screens: readonly string[],
  ) {}

  async act(): Promise<void> {
    const turn = chance();
    if (this.isDown) return turn < 0.5 ? this.moveOn() : this.letGo();
    if (turn < 0.03) return this.goTo(pick(this.screens));
    if (turn < 0.6) return this.click();
    if (turn < 0.72) return this.type(pick(WORDS), chance() < 0.7 ? pick(['Enter', 'Tab', 'Escape']) : null);
    if (turn < 0.88) return this.press(pick(KEYS));
    if (turn < 0.97) return this.takeHold();
    await this.page.mouse.wheel(0, (chance() - 0.5) * 1500);
    return this.read();
  }

  private async goTo(screen: string): Promise<void> {
    findings.did(`${this.name} goes to ${screen}`);
    await this.page.goto(`${this.url}/${screen}`);
  }

  private async click(): Promise<void> {
    const thing = await this.something();
    if (!thing) return this.goTo(pick(this.screens));
    findings.did(`${this.name} clicks ${thing.what}`);
    await this.page.mouse.click(thing.x, thing.y, { clickCount: chance() < 0.08 ? 2 : 1, button: chance() < 0.04 ? 'right' : 'left' });
  }

  private async type(text: string, then: string | null): Promise<void> {
    findings.did(`${this.name} types "${text}" ${then ?? ''}`);
    await this.page.keyboard.press('Control+a');
    await this.page.keyboard.type(text);
    if (then) await this.page.keyboard.press(then);
  }

  private async press(key: string): Promise<void> {
    findings.did(`${this.name} presses ${key}`);
    await this.page.keyboard.press(key);
  }

  private async takeHold(): Promise<void> {
    const thing = chance() < 0.5 ? await this.something() : null;
    const { x, y } = thing ?? somewhere();
    findings.did(`${this.name} takes hold of ${thing?.what ?? 'some place'}`);
    await this.page.mouse.move(x, y);
    await this.page.mouse.down();
    this.isDown = true;
  }

  private async moveOn(): Promise<void> {
    const { x, y } = somewhere();
    findings.did(`${this.name} drags`);
    await this.page.mouse.move(x, y, { steps: 2 });
  }

  private async letGo(): Promise<void> {
    findings.did(`${this.name} lets go`);
    this.isDown = false;
    await this.page.mouse.up();
  }

  /** Something in view that can be clicked. */
  private something(): Promise<{ x: number; y: number; what: string } | null> {
    return this.page.evaluate(
      ([which, selector]) => {
        const inView = [...document.querySelectorAll<HTMLElement>(selector)].flatMap((element) => {
          const { left, top, width, height } = element.getBoundingClientRect();
          const [x, y] = [left + width / 2, top + height / 2];
          return width > 2 && height > 2 && x > 0 && y > 0 && x < innerWidth && y < innerHeight ? [{ x, y, what: `${element.tagName.toLowerCase()} ${(element.ariaLabel ?? element.textContent).slice(0, 40)}` }] : [];
        });
        return inView[Math.floor(which * inView.length)] ?? null;
      },
      [chance(), TO_CLICK] as const,
    );
  }

  private async read(): Promise<void> {
    const text = await this.page.evaluate(() => document.body.innerText);
    const odd = NOT_FOR_PEOPLE.exec(text);
    if (odd) findings.found(`${this.name} shows at ${new URL(this.page.url()).pathname}: ${text.slice(Math.max(0, odd.index - 60), odd.index + 60).replaceAll('\n', ' ')}`);
  }
}

/** Up to five fingers on a tablet. */
class TabletHand {
  private readonly fingers = new Map<number, { x: number; y: number }>();

  constructor(
    private readonly page: Page,
    private readonly cdp: CDPSession,
  ) {}

  async act(): Promise<void> {
    const turn = chance();
    findings.did(`the tablet has ${this.fingers.size} fingers`);
    if (turn < 0.4 && this.fingers.size < 5) {
      this.fingers.set(1 + Math.floor(chance() * MOST_FINGERS), somewhere());
      await this.say('touchStart');
    } else if (turn < 0.8 && this.fingers.size > 0) {
      for (const id of this.fingers.keys()) if (chance() < 0.7) this.fingers.set(id, somewhere());
      await this.say('touchMove');
    } else if (this.fingers.size > 0) {
      this.fingers.delete(pick([...this.fingers.keys()]));
      await this.say('touchEnd');
    }
    const stands = await this.page.evaluate(() => document.querySelector('[data-line], main')?.childElementCount ?? 0);
    if (stands === 0) findings.found('the tablet shows nothing');
  }

  private say(type: 'touchStart' | 'touchMove' | 'touchEnd'): Promise<unknown> {
    return this.cdp.send('Input.dispatchTouchEvent', { type, touchPoints: [...this.fingers].map(([id, place]) => ({ id, ...place })) });
  }
}

const pumice = await Pumice.fresh();
await pumice.run();
const began = await pumice.playing();
const { web, hub } = await pumice.health();
const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox'] });
const surfaces = began.document.surfaces.map(({ id }) => id);
const screens = [...SCREENS, ...surfaces.map((id) => `surfaces/${id}`)];
const [left, right] = [await open(browser, `${pumice.url}/mappings`, 'left', false), await open(browser, `${pumice.url}/surfaces`, 'right', false)];
const tabletPage = await open(browser, `${pumice.url}/play/${surfaces[0]}`, 'tablet', true);
const hands = [new BenchHand(left, 'left', pumice.url, screens), new BenchHand(right, 'right', pumice.url, screens), new TabletHand(tabletPage, await tabletPage.context().newCDPSession(tabletPage))];

const untilMs = Date.now() + minutes * 60_000;
let steps = 0;
for (; Date.now() < untilMs; steps++) {
  // What was on its way somewhere else is gone by then.
  await pick(hands).act().catch((error: Error) => /navigation|Execution context|Timeout/.test(error.message) || findings.found(`a hand failed: ${error.message.split('\n')[0]}`));
  if (chance() < 0.05) {
    findings.did('somebody undoes');
    await pumice.post(`/api/rigs/${began.id}/undo`, {});
  }
  // On Stage nearly all of it is refused.
  if (steps % 20 === 0) await pumice.post('/api/stage', { stage: false });
  if (steps % 100 === 0) {
    const now = await pumice.health();
    if (now.web.pid !== web.pid || now.hub.pid !== hub.pid) findings.found('a process died');
  }
}
await browser.close();

const { id } = await pumice.playing();
if (id === began.id) {
  await pumice.post('/api/stage', { stage: false });
  let undone = 0;
  for (let more: unknown = true; more !== null && undone < 5000; undone++) more = (await pumice.post(`/api/rigs/${id}/undo`, {})).answer.undo ?? null;
  const { document } = await pumice.playing();
  const known = new Set(began.document.inputs.map((input) => input.id));
  // What was taken up by itself (the keyboard of this computer, say) is no edit of anybody's.
  const isNew = document.inputs.some((input) => !known.has(input.id));
  console.log(`${undone} steps undone: ${isDeepStrictEqual(document, began.document) ? 'all is as it was' : isNew ? 'inputs were taken up meanwhile' : 'it is not as it was'}`);
}
await pumice.stop();
console.log(`${steps} steps with seed ${seed}: ${findings.count} findings`);
process.exit(findings.count > 0 ? 1 : 0);
