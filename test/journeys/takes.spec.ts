import type { Page } from '@playwright/test';
import { parseMidi } from 'midi-file';
import { readFileSync } from 'node:fs';
import { writeMidiFile } from '../../src/protocol/midiFile';
import type { TakeSummary } from '../../src/protocol/takes';
import { faultsOf } from '../helpers/axe';
import { expect, goOnStage, openBench, Tablet, test } from '../helpers/journey';
import type { Monitor } from '../helpers/monitor';
import { kill, waitFor } from '../helpers/pumice';
import { renderedTake, takesOf } from '../helpers/takes';

/** Draws with the fog, ends at its top, and waits until that has left. */
async function drawFog(tablet: Tablet, monitor: Monitor): Promise<void> {
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 500 });
  for (let y = 490; y >= 60; y -= 10) await tablet.fingers('touchMove', { id: 1, x: 80, y });
  await tablet.fingers('touchMove', { id: 1, x: 80, y: 42 });
  await tablet.fingers('touchEnd');
  await waitFor('the top of the fog', () => monitor.sent.includes('weather B2 15 7F'));
}

/** Shut until it is opened. */
function gate(): { opened: Promise<void>; open: () => void } {
  let open = () => {};
  const opened = new Promise<void>((resolve) => (open = resolve));
  return { opened, open };
}

const listed = (page: Page, name: string) => page.getByRole('region', { name: 'Takes' }).getByRole('button', { name: new RegExp(`^${name}`) });

test('record with a key, mark, end; the take is seen, played, tidied, rendered through a better mapping, and handed over', async ({ pumice, page, tablet, monitor }) => {
  await openBench(page, `${pumice.url}/mappings`);
  // As they come under Caps Lock: capitals without Shift.
  await page.keyboard.press('R');
  const lamp = page.getByRole('button', { name: 'End the take' });
  await expect(lamp).toBeVisible();
  await expect(tablet.page.getByLabel('A take is being recorded')).toBeVisible();
  await drawFog(tablet, monitor);
  await page.keyboard.press('K');
  await expect(page.getByRole('button', { name: 'Mark 1' })).toBeVisible();
  await goOnStage(page, pumice);
  await expect(lamp).toBeVisible();
  await pumice.post('/api/stage', { stage: false });
  await lamp.click();
  await expect(page.getByRole('button', { name: 'Record a take' })).toBeVisible();
  await expect(tablet.page.getByLabel('A take is being recorded')).toHaveCount(0);

  await page.getByRole('link', { name: 'Takes' }).click();
  const name = (await waitFor('the take', async () => (await takesOf(pumice)).find(({ name: of, state }) => of.startsWith('Take ') && state === 'whole'))).name;
  await listed(page, name).click();
  const take = page.getByRole('region', { name, exact: true });
  await expect(take.getByRole('listitem', { name: 'Fog density, Weather' })).toBeVisible();
  await take.getByRole('textbox', { name: 'Name of the take' }).fill('Fog rising');
  await page.keyboard.press('Enter');
  await expect(listed(page, 'Fog rising')).toBeVisible();
  const [{ id }] = (await takesOf(pumice)).filter(({ name: of }) => of === 'Fog rising') as [TakeSummary];
  const first = await renderedTake(pumice, id);
  const fogOf = (score: typeof first.score) => score.filter(({ source }) => source.mapping === 'fog').map(({ bytes }) => bytes[2]!);
  expect(fogOf(first.score).at(-1)).toBe(127);
  expect(first.take.marks).toHaveLength(1);

  // What is under the pointer is said; the line is put somewhere, and it plays from there.
  const open = page.getByRole('region', { name: 'Fog rising', exact: true });
  await open.getByRole('listitem', { name: 'Fog density, Weather' }).locator('canvas').hover();
  await expect(open.locator('output').last()).toContainText(/^Fog density · \d:\d\d/);
  const sent = monitor.sent.length;
  await open.getByRole('button', { name: 'Play' }).click();
  await waitFor('the fog from the take', () => monitor.sent.slice(sent).includes('weather B2 15 7F'));
  expect(monitor.facts.some((fact) => fact.direction === 'out' && fact.who === 'take')).toBe(true);
  await expect(open.getByRole('button', { name: 'Play' })).toBeVisible();

  // Tidied: thinner, said in words, undone and done again.
  await open.getByRole('button', { name: 'Tidy' }).click();
  const tidy = page.getByRole('complementary', { name: /^Tidy / });
  await tidy.getByRole('combobox', { name: 'Add a step' }).click();
  await page.getByTitle('Thin the curves').click();
  await expect(tidy.getByRole('listitem', { name: 'Thin the curves' })).toContainText(/\d+ of \d+ messages left out/);
  await tidy.getByRole('button', { name: 'Undo' }).click();
  await expect(tidy.getByRole('listitem')).toHaveCount(0);
  await tidy.getByRole('combobox', { name: 'Add a step' }).click();
  await page.getByTitle('Thin the curves').click();
  await expect(open.getByRole('button', { name: 'Tidy · 1' })).toBeVisible();
  await tidy.getByRole('spinbutton', { name: 'Tolerance in steps of 127' }).fill('6');
  await page.keyboard.press('Enter');
  await waitFor('the tolerance to be kept', async () => JSON.stringify((await renderedTake(pumice, id)).versions[0]!.recipe).includes('"tolerance":6'));

  // The steps are kept for other takes, and taken from there.
  await tidy.getByRole('textbox', { name: 'Name to keep these steps under' }).fill('Thin it');
  await tidy.getByRole('button', { name: 'Keep' }).click();
  await tidy.getByRole('button', { name: 'As it was' }).click();
  await expect(tidy.getByRole('listitem')).toHaveCount(0);
  await tidy.getByRole('combobox', { name: 'Take kept steps' }).click();
  await page.getByTitle('Thin it · 1').click();
  await expect(tidy.getByRole('listitem', { name: 'Thin the curves' })).toContainText('messages left out');

  // A better mapping: the same gesture, another address; both stay.
  await pumice.edit('fog', { message: { kind: 'controlChange', channel: 3, controller: 70, range: [0, 100] } });
  await open.getByRole('button', { name: 'Render again' }).click();
  const choice = page.getByRole('dialog', { name: 'Render again' });
  await expect(choice.getByRole('checkbox', { name: 'Fog density, changed since' })).toBeChecked();
  await choice.getByRole('button', { name: 'Render' }).click();
  const versions = open.locator('.ant-segmented-item');
  await versions.filter({ hasText: 'Through Night Ferry' }).click();
  // Its own steps: there is none to undo.
  await expect(page.getByRole('complementary', { name: 'Tidy Through Night Ferry' }).getByRole('button', { name: 'Undo' })).toBeDisabled();
  // Above it what it is now, below it, pale, what is gone.
  await expect(open.getByRole('listitem', { name: 'Fog density, Weather' })).toHaveText([/CC 70/, /CC 21/]);
  await versions.filter({ hasText: 'As it was played' }).click();
  await expect(open.getByRole('listitem', { name: 'Fog density, Weather' })).toHaveText([/CC 21/]);

  await open.getByRole('button', { name: 'Hand over' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('link', { name: 'MIDI file, a track each' }).click();
  const file = parseMidi(readFileSync(await (await saved).path()));
  const fog = file.tracks.find((track) => track.some((event) => event.type === 'trackName' && event.text === 'Weather: Fog density'))!;
  const values = fog.flatMap((event) => (event.type === 'controller' && event.controllerType === 21 ? [event.value] : []));
  // The thinned version: fewer, and the same end.
  expect(values.at(-1)).toBe(127);
  expect(values.length).toBeLessThan(fogOf(first.score).length);
  expect(file.tracks[0]!.some((event) => event.type === 'marker' && event.text === 'Mark 1')).toBe(true);

  // Dragged out of the page: the kind, the name and the address of the file, as browsers ask for it.
  await open.getByRole('textbox', { name: 'Name of the take' }).fill('Fog: rising');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('complementary', { name: 'Hand over Fog: rising' })).toBeVisible();
  const dragged = await page.getByRole('link', { name: 'MIDI file, one track' }).evaluate((link) => {
    const dataTransfer = new DataTransfer();
    link.dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer }));
    return dataTransfer.getData('DownloadURL');
  });
  const [, type, called, from] = /^([^:]+):([^:]+):(http.+)$/.exec(dragged)!;
  expect([type, called]).toEqual(['audio/midi', 'Fog- rising.mid']);
  expect(parseMidi(new Uint8Array(await (await fetch(from!)).arrayBuffer())).header.format).toBe(0);

  await page.getByRole('region', { name: 'Fog: rising', exact: true }).getByRole('button', { name: 'Delete', exact: true }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Delete' }).click();
  await expect(listed(page, 'Fog: rising')).toHaveCount(0);
});

test('what is typed into a step just added stays while the step is being kept', async ({ pumice, page }) => {
  // As on a busy computer: what is put off to the next turn comes late.
  await page.addInitScript(() => {
    const later = window.setTimeout.bind(window) as (...args: unknown[]) => number;
    window.setTimeout = ((work: () => void, ms?: number, ...more: unknown[]) => later(work, ms || 60, ...more)) as typeof setTimeout;
  });
  const { id } = (await takesOf(pumice)).find(({ name }) => name === 'Crossing')!;
  const recipe = async () => (await renderedTake(pumice, id)).versions[0]!.recipe;
  await openBench(page, `${pumice.url}/takes`);
  await listed(page, 'Crossing').click();
  await page.getByRole('button', { name: 'Tidy' }).click();
  const tidy = page.getByRole('complementary', { name: /^Tidy / });
  await tidy.getByRole('combobox', { name: 'Add a step' }).click();
  const readAgain = page.waitForResponse((response) => response.request().method() === 'GET' && response.url().endsWith(`/api/takes/${id}`));
  await page.getByTitle('Thin the curves').click();
  await tidy.getByRole('spinbutton', { name: 'Tolerance in steps of 127' }).fill('6');
  await (await readAgain).finished();
  // A turn later the page has taken it, though what was put off may not have come.
  await page.evaluate(() => new Promise((resolve) => setTimeout(resolve)));
  await page.keyboard.press('Enter');
  await waitFor('the tolerance to be kept', async () => JSON.stringify(await recipe()).includes('"tolerance":6'));
  await tidy.getByRole('button', { name: 'As it was' }).click();
  await waitFor('no step to be kept', async () => (await recipe()).length === 0);
});

test('the hub dies while a take is recorded: it is found again up to there, and recording goes on by itself', async ({ pumice, page, tablet, monitor }) => {
  await openBench(page, `${pumice.url}/takes`);
  await page.getByRole('button', { name: 'Record a take' }).click();
  await expect(page.getByRole('button', { name: 'End the take' })).toBeVisible();
  await drawFog(tablet, monitor);
  const { id, name } = await waitFor('the piece with the top of the fog', async () => (await takesOf(pumice)).find(({ state, events }) => state === 'recording' && events > 40));
  kill((await pumice.health()).hub.pid);
  await waitFor('the next take', async () => (await takesOf(pumice)).some((take) => take.id !== id && take.state === 'recording'));
  await expect(page.getByRole('button', { name: 'End the take' })).toBeVisible();
  await page.getByRole('button', { name: 'End the take' }).click();
  await expect(listed(page, name)).toContainText('broke off');
  await listed(page, name).click();
  const take = page.getByRole('region', { name, exact: true });
  await expect(take).toContainText('recording broke off here');
  await expect(take.getByRole('listitem', { name: 'Fog density, Weather' })).toBeVisible();
});

test('a MIDI file is taken in, played from the keyboard, and one that is none is said so', async ({ pumice, page, monitor }) => {
  await openBench(page, `${pumice.url}/takes`);
  const choose = page.getByLabel('MIDI file, recorded signals or take');
  await choose.setInputFiles({ name: 'noise.mid', mimeType: 'audio/midi', buffer: Buffer.from('MTrk and no more') });
  await expect(page.getByText(/^This is no MIDI file/)).toBeVisible();
  const tune = [60, 62, 64].flatMap((key, i) => [{ timeMs: 100 * i, track: 'Deck', bytes: Uint8Array.of(0x90, key, 100) }, { timeMs: 100 * i + 80, track: 'Deck', bytes: Uint8Array.of(0x80, key, 64) }]);
  await choose.setInputFiles({ name: 'Deck tune.mid', mimeType: 'audio/midi', buffer: Buffer.from(writeMidiFile([...tune, { timeMs: 300, track: 'Deck', bytes: Uint8Array.of(0x90, 65, 90) }], 100)) });
  await expect(page.getByText(/1 note of Deck tune had no end/)).toBeVisible();
  const take = page.getByRole('region', { name: 'Deck tune', exact: true });
  await expect(take.getByRole('listitem', { name: /^Deck, / })).toBeVisible();
  await take.getByLabel('Picture of the take').focus();
  const sent = monitor.sent.length;
  await page.keyboard.press(' ');
  await waitFor('its last note to end', () => monitor.sent.slice(sent).filter((line) => / 8. /.test(line)).length === 4);
  expect(monitor.sent.slice(sent).filter((line) => / 9. /.test(line)).map((line) => line.split(' ')[2])).toEqual(['3C', '3E', '40', '41']);

  // Its notes through the voices of the rig: a take more, each note on a member of the zone.
  await take.getByRole('combobox', { name: 'Play its notes through the voices of' }).click();
  await page.getByTitle('Ribs').click();
  await expect(page.getByRole('region', { name: 'Deck tune, through Ribs', exact: true }).getByRole('listitem', { name: 'Ribs, Hull song' })).toBeVisible();
});

test('a step that is undone stays undone, whatever is still on its way', async ({ pumice, page }) => {
  const foghorn = await waitFor('the take of the demo', async () => (await takesOf(pumice)).find(({ name }) => name.startsWith('Foghorn')));
  await renderedTake(pumice, foghorn.id);
  await openBench(page, `${pumice.url}/takes`);
  await listed(page, 'Foghorn').click();
  const tidied = () => page.getByRole('complementary', { name: /^Tidy / }).getByRole('listitem');
  await page.getByRole('button', { name: /^Tidy/ }).click();
  // The take as it is after the first step: asked for at once, answered late.
  const [asked, answered, saved] = [gate(), gate(), gate()];
  await page.route(/\/api\/takes\/[^/]+$/, async (route) => {
    const response = await route.fetch();
    asked.open();
    await answered.opened;
    await route.fulfill({ response });
  });
  const add = async () => {
    await page.getByRole('combobox', { name: 'Add a step' }).click();
    await page.getByTitle('Thin the curves').click();
  };
  await add();
  await expect(tidied()).toHaveCount(1);
  await asked.opened;
  await page.route(/\/api\/takes\/[^/]+\/versions\/[^/]+$/, async (route) => {
    await saved.opened;
    await route.continue();
  });
  await page.getByRole('complementary', { name: /^Tidy / }).getByRole('button', { name: 'Undo' }).click();
  await expect(tidied()).toHaveCount(0);
  const late = page.waitForResponse(/\/api\/takes\/[^/]+$/);
  answered.open();
  await (await late).finished();
  await add();
  saved.open();
  await expect(page.getByRole('button', { name: 'Tidy · 1' })).toBeVisible();
  await page.unrouteAll({ behavior: 'wait' });
  await expect(tidied()).toHaveCount(1);
});

test('marks that are made one right after the other are all kept', async ({ pumice, page }) => {
  const { id } = await waitFor('the take of the demo', async () => (await takesOf(pumice)).find(({ name }) => name.startsWith('Foghorn')));
  const before = (await renderedTake(pumice, id)).take.marks.length;
  await openBench(page, `${pumice.url}/takes`);
  await listed(page, 'Foghorn').click();
  const saved = gate();
  await page.route(/\/api\/takes\/[^/]+$/, async (route) => {
    if (route.request().method() === 'PATCH') await saved.opened;
    await route.continue();
  });
  const ruler = page.getByLabel('Picture of the take').locator('canvas').first();
  for (const x of [120, 240]) {
    await ruler.click({ position: { x, y: 20 } });
    await page.getByRole('button', { name: 'Mark the line' }).click();
    await expect(page.getByRole('button', { name: /^Remove Mark/ })).toBeVisible();
  }
  saved.open();
  await waitFor('both marks', async () => (await renderedTake(pumice, id)).take.marks.length === before + 2);
});

test('what is set while a take plays holds at once, and the line is marked where it is by then', async ({ pumice, page }) => {
  const { id } = await waitFor('the take of the demo', async () => (await takesOf(pumice)).find(({ name }) => name.startsWith('Foghorn')));
  const before = (await renderedTake(pumice, id)).take.marks;
  await openBench(page, `${pumice.url}/takes`);
  await listed(page, 'Foghorn').click();
  const asks = () => page.waitForRequest((request) => request.method() === 'POST' && request.url().endsWith('/play'));
  const speed = page.getByRole('spinbutton', { name: 'Speed' });
  await speed.fill('0,1');
  await page.keyboard.press('Enter');
  const [begun] = await Promise.all([asks(), page.getByRole('button', { name: 'Play', exact: true }).click()]);
  expect(begun.postDataJSON()).toMatchObject({ fromMs: 0, speed: 0.1 });
  const stop = page.getByRole('button', { name: 'Stop', exact: true });
  await expect(stop).toBeVisible();
  await expect(page.getByRole('time')).not.toHaveText('0:00.000');
  await speed.fill('0.2');
  const [again] = await Promise.all([asks(), page.keyboard.press('Enter')]);
  const { fromMs } = again.postDataJSON() as { fromMs: number };
  expect(again.postDataJSON()).toMatchObject({ speed: 0.2 });
  expect(fromMs).toBeGreaterThan(0);
  await page.getByRole('button', { name: 'Mark the line' }).click();
  const marked = await waitFor('the mark', async () => (await renderedTake(pumice, id)).take.marks.find(({ name }) => !before.some((mark) => mark.name === name)));
  expect(marked.atMs).toBeGreaterThan(fromMs);
  await stop.click();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('of two things that are set one right after the other both are kept', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/takes`);
  await page.getByRole('button', { name: 'Recording…' }).click();
  const [asked, saved] = [gate(), gate()];
  // The first is on its way while the second is set.
  let isFirst = true;
  await page.route('**/api/settings/recording', async (route) => {
    if (route.request().method() === 'PUT' && isFirst) {
      isFirst = false;
      asked.open();
      await saved.opened;
    }
    await route.continue();
  });
  const dialog = page.getByRole('dialog', { name: 'Recording' });
  await dialog.getByRole('switch', { name: 'Metronome' }).click();
  await asked.opened;
  await dialog.getByRole('switch', { name: 'Start and Stop record' }).click();
  saved.open();
  await waitFor('both', async () => {
    const { metronome, transport } = (await (await fetch(`${pumice.url}/api/settings/recording`)).json()) as { metronome: boolean; transport: boolean };
    return metronome && transport;
  });
});

test('the metronome counts in and clicks the beats of what is recorded, in the meter of the rig, and what the transport counts in', async ({ pumice, page }) => {
  test.slow();
  // What is given to the sound card and not taken back: when it is heard, on the page's own clock.
  await page.addInitScript(() => {
    const clicks = new Map<AudioNode, { atMs: number; hz: number }>();
    const { start } = OscillatorNode.prototype;
    OscillatorNode.prototype.start = function (this: OscillatorNode, at = 0) {
      if (this.frequency.value > 1000) clicks.set(this, { atMs: performance.now() + (at - this.context.currentTime) * 1000, hz: this.frequency.value });
      start.call(this, at);
    };
    const { disconnect } = AudioNode.prototype;
    AudioNode.prototype.disconnect = function (this: AudioNode, ...from: []) {
      clicks.delete(this);
      Reflect.apply(disconnect, this, from);
    };
    (window as unknown as { clicks: typeof clicks }).clicks = clicks;
  });
  const clicks = () => page.evaluate(() => [...(window as unknown as { clicks: Map<AudioNode, { atMs: number; hz: number }> }).clicks.values()]);
  const [beatMs, perBar] = [1000, 3];
  await pumice.give({ kind: 'setRig', set: { tempoBpm: 60_000 / beatMs, meter: [perBar, 4], countInBars: 2 } });
  const settings = await (await fetch(`${pumice.url}/api/settings/recording`)).json();
  await fetch(`${pumice.url}/api/settings/recording`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ ...settings, metronome: true, countIn: { of: 'bars', many: 1 } }) });
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('switch', { name: 'Sound of the stand-ins' }).click();
  // The library of instruments is fetched, and a sound card opened.
  await expect(page.getByRole('slider', { name: 'Volume' })).toBeVisible({ timeout: 90_000 });
  const lamp = page.getByRole('button', { name: /End the take|Leave the count-in/ });
  await expect(async () => {
    // On a machine that is busy enough the line may be away for a moment; then it is said, and nothing begins.
    if ((await lamp.count()) === 0) await page.keyboard.press('r');
    await expect(lamp).toBeVisible({ timeout: 5000 });
  }).toPass();
  await expect(page.getByRole('button', { name: 'End the take' })).toBeVisible();
  await waitFor('three bars of clicks', async () => (await clicks()).length >= 3 * perBar, 60_000);
  await page.getByRole('button', { name: 'End the take' }).click();
  /** Clicks come beats apart, and one that begins a bar every bar. A busy page may hear of some too late; those are left out. */
  const keepsTime = (heard: { atMs: number; hz: number }[]) => {
    const beats = heard.map(({ atMs }, i) => (i === 0 ? 0 : (atMs - heard[i - 1]!.atMs) / beatMs));
    expect(beats.slice(1).filter((apart) => apart < 0.6 || Math.abs(apart - Math.round(apart)) > 0.4)).toEqual([]);
    let beat = 0;
    const places = beats.map((apart) => (beat += Math.round(apart)));
    const bar = heard.findIndex(({ hz }) => hz > 1500);
    expect(heard.map(({ hz }) => hz > 1500)).toEqual(places.map((place) => bar >= 0 && (place - places[bar]!) % perBar === 0));
  };
  const heard = await clicks();
  keepsTime(heard);
  expect(heard.some(({ hz }) => hz > 1500)).toBe(true);

  // Nothing is recorded: the transport counts two bars in, and no more.
  await expect(page.getByRole('button', { name: 'Record a take' })).toBeVisible();
  const before = (await clicks()).length;
  await page.getByRole('link', { name: 'Ensemble' }).click();
  await page.getByRole('button', { name: 'Start from the beginning' }).click();
  await waitFor('clicks of a bar', async () => (await clicks()).length >= before + perBar);
  await expect(page.getByTitle('Go to a bar')).toHaveText(/^2/);
  const counted = (await clicks()).slice(before);
  expect(counted.length).toBeLessThanOrEqual(2 * perBar);
  keepsTime(counted);
  await page.getByRole('button', { name: 'Stop the ensemble' }).click();
});

test('two fingers on the picture come closer, and move along', async ({ pumice, browser }) => {
  const hands = await Tablet.open(browser, `${pumice.url}/takes`, 'attached');
  await listed(hands.page, 'Crossing').click();
  const rows = hands.page.getByRole('region', { name: 'Crossing', exact: true }).getByLabel('Picture of the take');
  await rows.getByRole('listitem').first().waitFor();
  const shown = async () => ({ fromMs: Number(await rows.getAttribute('data-from-ms')), toMs: Number(await rows.getAttribute('data-to-ms')) });
  const { x, y, width } = (await rows.locator('canvas').first().boundingBox())!;
  const all = await shown();
  const at = (...shares: number[]) => shares.map((share, id) => ({ id, x: x + share * width, y: y + 120 }));
  const timeAt = ({ fromMs, toMs }: typeof all, share: number) => fromMs + share * (toMs - fromMs);

  await hands.fingers('touchStart', ...at(0.4));
  await hands.fingers('touchStart', ...at(0.4, 0.6));
  for (let i = 1; i <= 10; i++) await hands.fingers('touchMove', ...at(0.4 - 0.02 * i, 0.6 + 0.02 * i));
  const tolerance = 0.02 * (all.toMs - all.fromMs);
  // What was beneath the fingers at 0.4 and 0.6 is beneath them at 0.2 and 0.8.
  await expect.poll(async () => Math.abs(timeAt(await shown(), 0.2) - timeAt(all, 0.4))).toBeLessThan(tolerance);
  await expect.poll(async () => Math.abs(timeAt(await shown(), 0.8) - timeAt(all, 0.6))).toBeLessThan(tolerance);
  const close = await shown();
  for (let i = 1; i <= 10; i++) await hands.fingers('touchMove', ...at(0.2 - 0.01 * i, 0.8 - 0.01 * i));
  await hands.fingers('touchEnd');
  await expect.poll(async () => Math.abs((await shown()).fromMs - timeAt(close, 0.1))).toBeLessThan(tolerance);
  expect((await shown()).toMs - (await shown()).fromMs).toBeCloseTo(close.toMs - close.fromMs, -2);

  // One finger moves along, and a key shows all again.
  const before = await shown();
  await hands.fingers('touchStart', ...at(0.5));
  for (let i = 1; i <= 10; i++) await hands.fingers('touchMove', ...at(0.5 + 0.01 * i));
  await hands.fingers('touchEnd');
  await expect.poll(async () => Math.abs((await shown()).fromMs - timeAt(before, -0.1))).toBeLessThan(tolerance);
  await rows.focus();
  await hands.page.keyboard.press('f');
  await expect.poll(shown).toEqual(all);
  await hands.close();
});

test('the takes of the demo are there; the screen is accessible, on the Bench and on Stage', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/takes`);
  await page.getByRole('textbox', { name: 'Search takes' }).fill('fog');
  await expect(listed(page, 'Crossing')).toBeVisible();
  await page.getByRole('textbox', { name: 'Search takes' }).fill('horn');
  await expect(listed(page, 'Crossing')).toHaveCount(0);
  await listed(page, 'Foghorn').click();
  await expect(page.getByRole('region', { name: 'Foghorn', exact: true }).getByRole('listitem', { name: 'Foghorn, Engine room' })).toBeVisible();
  await page.getByRole('button', { name: 'Tidy' }).click();
  for (const stage of [false, true]) {
    if (stage) await goOnStage(page, pumice);
    expect(await faultsOf(page)).toEqual([]);
  }
});
