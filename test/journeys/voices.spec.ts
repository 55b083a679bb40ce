import { createSocket } from 'node:dgram';
import { withMidi } from '../helpers/devices';
import { expect, keepSayings, openBench, Tablet, takeUpBand, test } from '../helpers/journey';
import type { Monitor } from '../helpers/monitor';
import { kill, waitFor, type Pumice } from '../helpers/pumice';
import { withForedeck } from '../helpers/surfaces';

/** What left to Hull song since a mark, as bytes. */
const song = (monitor: Monitor, from = 0) => monitor.sent.slice(from).flatMap((sent) => (sent.startsWith('hull-song ') ? [sent.slice('hull-song '.length)] : []));
const channelsOf = (sent: readonly string[], kind: string) => sent.flatMap((bytes) => (bytes.startsWith(kind) ? [bytes[1]!] : []));
/** The bends of a channel, in steps from the middle. */
const bendsOf = (sent: readonly string[], channel: string) =>
  sent.flatMap((bytes) => {
    const [status, low, high] = bytes.split(' ');
    return status === `E${channel}` ? [(parseInt(high!, 16) << 7) + parseInt(low!, 16) - 8192] : [];
  });

test('two fingers on a pitch field are two voices that bend apart, and end when they lift', async ({ pumice, browser, monitor, page }) => {
  const tablet = await Tablet.open(browser, `${pumice.url}/play/hull`);
  await openBench(page, `${pumice.url}/mappings#hull-ribs`);
  await tablet.fingers('touchStart', { id: 1, x: 300, y: 700 }, { id: 2, x: 640, y: 400 });
  await waitFor('both to sound', () => channelsOf(song(monitor), '9').length === 2);
  // The first is struck in tune: its bend stands in the middle.
  const [first, second] = channelsOf(song(monitor), '9') as [string, string];
  expect(new Set(['E', 'D', 'C', 'B', 'A', '9', '8', '7', '6', '5']).has(first)).toBe(true);
  expect(first).not.toBe(second);
  expect(bendsOf(song(monitor), first).at(-1)).toBe(0);
  await expect(page.getByRole('listitem').filter({ hasText: 'Hull · Ribs' })).toContainText('2 voices');
  const moving = monitor.sent.length;
  for (let step = 1; step <= 20; step++) await tablet.fingers('touchMove', { id: 1, x: 300 + 6 * step, y: 700 }, { id: 2, x: 640 - 6 * step, y: 400 });
  // 120 of 1132 pixels are 2.01 of 19 semitones: 344 of 8192 steps of 48.
  await waitFor('them to bend apart', () => bendsOf(song(monitor, moving), first).at(-1) === 344 && bendsOf(song(monitor, moving), second).at(-1)! < -300);
  await expect(tablet.page.locator('b:not([hidden])')).toHaveCount(2);
  await tablet.fingers('touchEnd', { id: 1, x: 420, y: 700 });
  await waitFor('one to end', () => channelsOf(song(monitor), '8').length === 1);
  await tablet.fingers('touchEnd');
  await waitFor('both to end', () => channelsOf(song(monitor), '8').length === 2);
  await expect(tablet.page.locator('b:not([hidden])')).toHaveCount(0);
  await tablet.close();
});

test('a finger that holds a voice while the hub dies plays it again afterwards, and nothing hangs', async ({ pumice, browser, monitor }) => {
  const tablet = await Tablet.open(browser, `${pumice.url}/play/hull`);
  await tablet.fingers('touchStart', { id: 1, x: 300, y: 700 });
  await waitFor('the voice', () => channelsOf(song(monitor), '9').length === 1);
  const said = await keepSayings(tablet.page);
  kill((await pumice.health()).hub.pid);
  await expect.poll(said).toContain('No connection to Pumice.');
  const gone = monitor.sent.length;
  await waitFor('it to begin again', () => channelsOf(song(monitor, gone), '9').length === 1);
  await expect(tablet.page.locator('b:not([hidden])')).toHaveCount(1);
  await tablet.fingers('touchEnd');
  await waitFor('its end', () => song(monitor, gone).some((bytes) => bytes.startsWith(`8${channelsOf(song(monitor, gone), '9')[0]!}`)));
  await tablet.close();
});

test('a keyboard of the browser is mapped once and heard from its first key, whatever the channel', async ({ pumice, page, monitor }) => {
  await withMidi(page.context());
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByRole('button', { name: 'Add an input' }).click();
  await page.getByText('MIDI ports of this browser').click();
  // The device says something that is no note, so that it is known.
  await waitFor('the input', async () => {
    await page.evaluate(() => window.testMidi.say(0xb0, 1, 3));
    return page.getByRole('article', { name: 'Input Test keys' }).isVisible();
  });
  await page.getByRole('link', { name: 'Mappings' }).click();
  await page.getByRole('button', { name: 'Map notes' }).click();
  await page.getByRole('menuitem', { name: 'Test keys · Test keys, notes' }).click();
  const panel = page.getByRole('complementary', { name: 'Voices of Test keys, notes' });
  await expect(panel).toContainText('all notes, whatever channel');
  await waitFor('it to be played', async () => (await pumice.playing()).document.voiceMappings.some(({ name }) => name === 'Test keys, notes'));
  const before = monitor.sent.length;
  await page.evaluate(() => window.testMidi.say(0x95, 61, 100));
  await waitFor('the first key', () => monitor.sent.slice(before).some((sent) => / 9. 3D 64$/.test(sent)));
  await page.evaluate(() => window.testMidi.unplug());
  await waitFor('its end', () => monitor.sent.slice(before).some((sent) => / 8. 3D 40$/.test(sent)));
});

test('one voice alone on the first member, to shape a sound, and all together again', async ({ pumice, browser, page, monitor }) => {
  const tablet = await Tablet.open(browser, `${pumice.url}/play/hull`);
  const chord = async () => {
    const from = monitor.sent.length;
    await tablet.fingers('touchStart', { id: 1, x: 200, y: 700 }, { id: 2, x: 600, y: 400 }, { id: 3, x: 900, y: 100 });
    await waitFor('three to begin', () => channelsOf(song(monitor, from), '9').length === 3);
    await tablet.fingers('touchEnd');
    await waitFor('all to end', () => channelsOf(song(monitor, from), '8').length >= 3 && channelsOf(song(monitor, from), '8').length === channelsOf(song(monitor, from), '9').length);
    return new Set(channelsOf(song(monitor, from), '9')).size;
  };
  expect(await chord()).toBe(3);
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('button', { name: 'Settings of Hull song' }).click();
  const alone = page.getByRole('switch', { name: 'One voice alone, to shape a sound' });
  await alone.click();
  await expect(alone).toBeChecked();
  await isSet(pumice, true);
  expect(await chord()).toBe(1);
  await alone.click();
  await isSet(pumice, false);
  expect(await chord()).toBe(3);
  await tablet.close();
});

/** Waits until the rig that plays says whether Hull song hears one voice alone. */
async function isSet(pumice: Pumice, alone: boolean): Promise<void> {
  await waitFor('the switch', async () => {
    const { document } = await pumice.playing();
    return (document.receivers.find(({ id }) => id === 'hull-song')!.alone ?? false) === alone;
  });
}

test('voices go to an OSC output once it is chosen in their panel, as whole messages, and end there', async ({ pumice, browser, page }) => {
  const listener = createSocket('udp4');
  await new Promise<void>((resolve) => listener.bind(0, '127.0.0.1', resolve));
  const heard: string[] = [];
  // By hand (OSC 1.0): strings end with a zero and fill four bytes; then whole numbers and fractions of four bytes each, high ones first.
  listener.on('message', (packet) => {
    const [address, types] = packet.toString('latin1').split(/\0+/, 2) as [string, string];
    let at = 4 * (Math.floor(address.length / 4) + 1) + 4 * (Math.floor(types.length / 4) + 1);
    const values = [...types.slice(1)].map((type) => (type === 'i' ? packet.readInt32BE((at += 4) - 4) : packet.readFloatBE((at += 4) - 4).toFixed(2)));
    heard.push([address, ...values].join(' '));
  });
  const { id } = await pumice.playing();
  await pumice.post(`/api/rigs/${id}/edits`, { edit: { kind: 'change', changes: [{ list: 'outputs', id: 'lantern', to: { id: 'lantern', name: 'Lantern', kind: 'osc', host: '127.0.0.1', port: listener.address().port, receiver: 'hull-song' } }] } });
  await openBench(page, `${pumice.url}/mappings#hull-ribs`);
  const panel = page.getByRole('complementary', { name: 'Voices of Ribs' });
  await panel.getByRole('combobox', { name: 'Output', exact: true }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'Lantern' }).click();
  await expect(panel.getByRole('textbox', { name: 'OSC address above the voices' })).toHaveValue('/hull/ribs');
  // Whoever listens may have been left something by a program before.
  await waitFor('the output to be known', async () => JSON.stringify(await pumice.playing()).includes('"address":"/hull/ribs"'));
  const tablet = await Tablet.open(browser, `${pumice.url}/play/hull`);
  await tablet.fingers('touchStart', { id: 1, x: 300, y: 700 });
  await waitFor('a voice to begin', () => heard.some((line) => /^\/hull\/ribs\/on 1 \d+\.00 0\.\d+$/.test(line)));
  await tablet.fingers('touchMove', { id: 1, x: 340, y: 700 });
  await waitFor('it to bend', () => heard.some((line) => /^\/hull\/ribs\/pitch 1 /.test(line)));
  await tablet.fingers('touchEnd');
  await waitFor('its end', () => heard.some((line) => line.startsWith('/hull/ribs/off 1 ')));
  const order = heard.filter((line) => !/pitch/.test(line)).map((line) => line.split(' ')[0]!.replace('/hull/ribs/', ''));
  expect(order[0]).toBe('on');
  expect(order.at(-1)).toBe('off');
  expect(order.filter((part) => part === 'on' || part === 'off')).toEqual(['on', 'off']);
  listener.close();
  await tablet.close();
});

test('a voice band is marked, grouped, carried by the keyboard and introduced in turn', async ({ pumice, page }) => {
  const rigNow = async () => (await pumice.playing()).document;
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('textbox', { name: 'Search' }).fill('ribs');
  const band = page.getByRole('listitem').filter({ hasText: 'Hull · Ribs' });
  await band.getByRole('checkbox', { name: 'Mark Ribs' }).click();
  const bar = page.getByRole('toolbar', { name: '1 marked mappings' });
  await bar.getByRole('button', { name: 'Duplicate' }).click();
  await waitFor('the copy', async () => (await rigNow()).voiceMappings.some(({ name }) => name === 'Ribs 2'));
  await bar.getByRole('textbox', { name: 'Group for all' }).fill('Hold');
  await bar.getByRole('button', { name: 'Group', exact: true }).click();
  await waitFor('the group', async () => (await rigNow()).voiceMappings.find(({ id }) => id === 'hull-ribs')?.group === 'Hold');
  await bar.getByRole('button', { name: 'Clear' }).click();
  // Up over its heading onto the band in the group: it goes there too.
  await takeUpBand(page, 'Ribs 2');
  await page.keyboard.press('ArrowUp');
  await expect(page.locator('li[data-lands]')).toContainText('Hull · Ribs');
  await page.keyboard.press('Space');
  await waitFor('it to be in the group', async () => (await rigNow()).voiceMappings.find(({ name }) => name === 'Ribs 2')?.group === 'Hold');
  await page.getByRole('button', { name: 'Introduce in turn' }).click();
  await page.getByRole('button', { name: 'Following the hand' }).click();
  await page.getByRole('button', { name: 'Learned, next' }).click();
  await waitFor('it to be remembered', async () => (await rigNow()).receivers.some(({ taughtVoices = {} }) => Object.keys(taughtVoices).length > 0));
  await page.getByRole('button', { name: 'End' }).first().click();
});

test('keys and pads are a stream each with one band, slid over and struck; the way of playing is chosen in its panel', async ({ pumice, browser, monitor, page }) => {
  const at = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });
  await withForedeck(pumice, [{ kind: 'pads', frame: at(0, 0, 400, 400) }, { kind: 'keys', frame: at(0, 400, 700, 200), set: { low: 60, high: 71 } }]);
  const tablet = await Tablet.open(browser, `${pumice.url}/play/foredeck`);
  const notes = () => monitor.sent.flatMap((sent) => (/ [89]. /.test(sent) ? [sent.slice(sent.indexOf(' ') + 1).replace(/^(.). /, '$1 ')] : []));
  await tablet.fingers('touchStart', { id: 1, x: 50, y: 590 });
  await waitFor('C', () => notes().some((note) => note.startsWith('9 3C')));
  await tablet.fingers('touchMove', { id: 1, x: 150, y: 590 });
  await waitFor('D, and the end of C', () => notes().some((note) => note.startsWith('9 3E')) && notes().some((note) => note.startsWith('8 3C')));
  await tablet.fingers('touchEnd');
  await waitFor('the end of D', () => notes().some((note) => note.startsWith('8 3E')));
  await tablet.fingers('touchStart', { id: 1, x: 50, y: 390 });
  await waitFor('the pad at the lower left', () => notes().some((note) => note.startsWith('9 24')));
  await tablet.fingers('touchEnd');
  await waitFor('its end', () => notes().some((note) => note.startsWith('8 24')));
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('textbox', { name: 'Search' }).fill('foredeck');
  await expect(page.getByRole('list', { name: '2 mappings' })).toBeVisible();
  await page.getByRole('button', { name: 'Shape Keys' }).click();
  const panel = page.getByRole('complementary', { name: 'Voices of Keys' });
  await panel.getByRole('combobox', { name: 'Way of playing' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'mono for editing' }).click();
  await expect(panel.getByRole('combobox', { name: 'Of several held voices' })).toBeVisible();
  await waitFor('it to be kept', async () => {
    const { document } = await pumice.playing();
    return document.voiceMappings.find(({ name }) => name === 'Keys')!.layout.kind === 'mono';
  });
  await tablet.close();
});

test('a rig of the version before is taken up: its keyboard is one band and sounds the same notes', async ({ pumice, browser, monitor, page }) => {
  const keys = [60, 61, 62, 63, 64];
  const old = {
    format: 'pumice-rig',
    version: 1,
    name: 'Old crossing',
    tempoBpm: 96,
    inputs: [{ id: 'deck', name: 'Deck', kind: 'surface', surface: 'deck' }],
    signals: keys.map((key) => ({ id: `k${key}`, name: `Key ${key}`, input: 'deck', kind: 'gate', unit: 'unit', range: [0, 1] })),
    derived: [],
    mappings: keys.map((key) => ({ id: `m${key}`, name: `Key ${key}`, on: true, signal: `k${key}`, shaping: {}, output: 'bell', message: { kind: 'note', channel: 3, note: key, velocity: 100, velocityFrom: 'strength' } })),
    outputs: [{ id: 'bell', name: 'Bell', kind: 'standIn', receiver: 'bell' }],
    receivers: [{ id: 'bell', name: 'Bell', about: '', bendRangeSemitones: 2 }],
    surfaces: [{ id: 'deck', name: 'Deck', width: 1180, height: 820, pages: [{ id: 'one', name: 'One', controls: [{ id: 'keys', kind: 'keys', label: 'Keys', frame: { x: 0, y: 0, width: 900, height: 300 }, low: 60, high: 64, strength: 'fixed', signals: Object.fromEntries(keys.map((key) => [`key${key}`, `k${key}`])) }] }] }],
    scenes: [],
  };
  const { answer } = await pumice.post('/api/rigs', old);
  expect((await pumice.post(`/api/rigs/${(answer as unknown as { id: string }).id}/open`, {})).status).toBe(200);
  await openBench(page, `${pumice.url}/mappings`);
  await expect(page.getByRole('list', { name: '1 mapping', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Shape Keys' })).toBeVisible();
  const tablet = await Tablet.open(browser, `${pumice.url}/play/deck`);
  await tablet.fingers('touchStart', { id: 1, x: 100, y: 280 });
  await waitFor('the key', () => monitor.sent.includes('bell 92 3C 64'));
  await tablet.fingers('touchEnd');
  await waitFor('its end', () => monitor.sent.includes('bell 82 3C 40'));
  await tablet.close();
});
