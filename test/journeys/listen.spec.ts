import { mkdirSync } from 'node:fs';
import { resolve } from 'node:path';
import type { Locator } from '@playwright/test';
import { melody, sing } from '../../src/core/listening/testSinging';
import { faultsOf } from '../helpers/axe';
import { expect, keepSayings, openBench, test } from '../helpers/journey';
import { kill, waitFor } from '../helpers/pumice';
import { writeWav } from '../helpers/singing';

/** What the browser takes for a microphone: a tune that comes again and again, with a rest. */
const WAV = resolve('test-results/sung.wav');
const TUNE = [57, 60, 62, 64];
mkdirSync('test-results', { recursive: true });
const at = melody(TUNE, 2, 30, 20);
writeWav(WAV, sing(3, (timeS) => ({ hz: at(timeS), vowel: 'hod', voice: timeS < 2 ? 0.6 : 0, breath: timeS < 2 ? 0.1 : 0 })));

test.use({
  permissions: ['microphone'],
  launchOptions: async ({ launchOptions }, use) => use({ ...launchOptions, args: [...(launchOptions.args ?? []), '--use-fake-ui-for-media-stream', '--use-fake-device-for-media-stream', `--use-file-for-fake-audio-capture=${WAV}`] }),
});

/** Presses *Teach it* beneath the mouth sounds until it is taught: what comes into view above may move the button away under a press. */
async function teachSound(settings: Locator): Promise<void> {
  const button = settings.getByRole('group', { name: 'Mouth sounds' }).getByRole('button', { name: 'Teach it' });
  await expect(async () => {
    if (await button.isVisible()) await button.click({ timeout: 5000 });
    await expect(button).toBeHidden({ timeout: 5000 });
  }).toPass();
}

test('a sung tune becomes notes: a microphone, its worker, the hub, the bytes; and they end with it', async ({ pumice, monitor, page, context }) => {
  await page.goto(`${pumice.url}/listen`);
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  const facts = page.getByRole('region', { name: 'What is heard' });
  await expect(facts).toContainText('Hz');
  // It is an input of the rig by itself, with its streams and signals.
  const rig = () => pumice.playing();
  const stream = await waitFor('its stream', async () => (await rig()).document.streams.find(({ source, id }) => source === 'sung' && id !== 'foghorn.sung')?.id);
  const input = (await rig()).document.inputs.find(({ kind, id }) => kind === 'microphone' && id !== 'foghorn')!.id;
  expect((await rig()).document.signals.filter((signal) => signal.input === input).map(({ source }) => source)).toEqual(['level', 'open', 'front']);

  const bench = await context.newPage();
  await openBench(bench, `${pumice.url}/mappings`);
  await bench.getByRole('button', { name: 'Map notes' }).click();
  await bench.getByRole('menuitem', { name: /Lookout, sung$/ }).click();
  await expect(bench.getByRole('complementary', { name: /^Voices of/ })).toContainText('each note that is sung is a voice');
  await waitFor('the mapping', async () => JSON.stringify(await rig()).includes(`"stream":"${stream}"`));
  const notes = (kind: string) => monitor.sent.flatMap((sent) => (new RegExp(`^\\S+ ${kind}. (..) `).exec(sent) ?? []).slice(1));
  // The tune, in its order, somewhere among what was heard; and every note of it ends.
  const tune = TUNE.map((note) => note.toString(16).toUpperCase()).join(' ');
  await waitFor('the tune', () => notes('9').join(' ').includes(tune));

  // A second window of this browser does not listen too.
  const other = await context.newPage();
  await other.goto(`${pumice.url}/listen`);
  await other.getByRole('button', { name: 'Listen', exact: true }).click();
  await expect(other.getByText('Another window of this browser listens already')).toBeVisible();
  await other.close();

  await page.getByRole('button', { name: 'Stop' }).click();
  await waitFor('every note to end', () => notes('8').length === notes('9').length);
  // And it goes on with the same input after a reload.
  await page.reload();
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  const before = monitor.sent.length;
  await waitFor('another note', () => monitor.sent.slice(before).some((sent) => / 9. /.test(sent)));
  expect((await rig()).document.inputs.filter(({ kind }) => kind === 'microphone')).toHaveLength(2);
  // The window closed in the middle of a note ends it.
  await page.close();
  await waitFor('the last note to end', () => notes('8').length === notes('9').length);
});

test('levels are measured, a vowel and a sound are taught, profiles are kept; the page is accessible', async ({ pumice, page }) => {
  await page.goto(`${pumice.url}/listen`);
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  const settings = page.getByRole('complementary', { name: 'How it is heard' });
  const said = await keepSayings(page);
  await settings.getByRole('textbox', { name: 'Name of the vowel' }).fill('ah');
  await settings.getByRole('button', { name: 'Teach it' }).first().click();
  await expect.poll(said).toContain('Sing ah and hold it');
  await expect(settings.getByRole('button', { name: 'Forget the vowel ah' })).toBeEnabled();
  await expect(page.getByRole('region', { name: 'What is heard' })).toContainText(/ah \d+ %/);
  await settings.getByRole('textbox', { name: 'Name of the sound' }).fill('hey');
  await teachSound(settings);
  // Each beginning of the tune is an onset.
  await expect(settings.getByText(/Strike hey, soft and loud: ([2-9]|10) heard/)).toBeVisible();
  await settings.getByRole('button', { name: 'Done' }).click();
  await expect(settings.getByText(/([2-9]|10) examples/)).toBeVisible();
  expect(await faultsOf(page)).toEqual([]);
  await settings.getByRole('button', { name: 'Measure the room and the voice' }).click();
  await expect.poll(said).toContain('Be silent');
  await expect.poll(said).toContain('Sing or speak loudly');
  await expect(settings.getByRole('status').filter({ hasText: /measure again|All is well|room/ })).toBeVisible();
  // Clicks that nobody listens for any more say nothing of the delay.
  await settings.getByRole('button', { name: 'Measure the delay by clicks' }).click();
  await expect(settings.getByRole('button', { name: 'Clicks are played: be silent' })).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(settings.getByRole('button', { name: 'Measure the delay by clicks' })).toBeDisabled();
  await page.getByRole('button', { name: 'Another profile' }).click();
  // The program keeps them, whatever browser comes.
  await waitFor('it to be kept', async () => JSON.stringify(await (await fetch(`${pumice.url}/api/settings/listening`)).json()).includes('"Lookout 2"'));
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Name of the profile' })).toHaveValue('Lookout 2');
});

test('a mouth drummer is taught, practised with, and what was taken for another is said', async ({ pumice, page }) => {
  await page.goto(`${pumice.url}/listen`);
  await page.getByRole('combobox', { name: 'Microphone' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'Engine room, a mouth drummer' }).click();
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  const settings = page.getByRole('complementary', { name: 'How it is heard' });
  // Everything that it strikes is an example of one sound here.
  await settings.getByRole('textbox', { name: 'Name of the sound' }).fill('any');
  await teachSound(settings);
  await expect(settings.getByText(/Strike any, soft and loud: 10 heard/)).toBeVisible();
  await settings.getByRole('button', { name: 'Done' }).click();
  // Each is heard again, also after a reload would be; and one that went wrong is dropped.
  const examples = settings.getByRole('list', { name: 'Examples of any' });
  await expect(examples.getByRole('listitem')).toHaveCount(10);
  const kept = () => page.evaluate(() => new Promise<number>((resolve, reject) => {
    const opened = indexedDB.open('pumice-listening');
    opened.onerror = () => reject(opened.error ?? new Error('no database'));
    opened.onsuccess = () => {
      const counted = opened.result.transaction('examples').objectStore('examples').count();
      counted.onsuccess = () => resolve(counted.result);
    };
  }));
  await waitFor('the sound of each to be kept', async () => (await kept()) >= 10);
  await examples.getByRole('button', { name: 'Hear example 10 of any' }).click();
  await expect(page.getByText('kept by the browser that taught it')).toHaveCount(0);
  await examples.getByRole('button', { name: 'Drop example 10 of any' }).click();
  await expect(examples.getByRole('listitem')).toHaveCount(9);
  await expect(page.getByRole('region', { name: 'What is heard' })).toContainText('any, any');
  await settings.getByRole('textbox', { name: 'Pattern of sounds, a dot for a rest' }).fill('any any any .');
  await settings.getByRole('button', { name: 'Practise' }).click();
  await expect(settings.getByText(/[1-9]\d* hit, /)).toBeVisible();
  await expect(settings.getByText(/\d+ ms (early|late)/)).toBeVisible();
  // It ends with the listening, and does not begin again with it.
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(settings.getByRole('button', { name: 'Practise' })).toBeDisabled();
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  await expect(settings.getByRole('button', { name: 'Practise' })).toBeEnabled();
  await page.getByRole('button', { name: 'Stop' }).click();
});

test('without a microphone a stand-in sings the demo: its notes leave, and end when it stops', async ({ pumice, monitor, page }) => {
  await page.goto(`${pumice.url}/listen`);
  await page.getByRole('combobox', { name: 'Microphone' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'Foghorn, a singer' }).click();
  await page.getByRole('button', { name: 'Listen', exact: true }).click();
  // In D minor, on channel 9 of the engine room: D3 comes first.
  await waitFor('the first note', () => monitor.sent.some((sent) => sent.startsWith('engine-room 98 32 ')));
  await waitFor('the third', () => monitor.sent.some((sent) => sent.startsWith('engine-room 98 37 ')));
  // A sound that is being taught plays nothing: on Stage the teaching ends by itself.
  await page.getByRole('textbox', { name: 'Name of the sound' }).fill('k');
  await page.getByRole('button', { name: 'Teach it' }).last().click();
  await expect(page.getByText('Strike k, soft and loud')).toBeVisible();
  expect(await pumice.post('/api/stage', { stage: true })).toMatchObject({ status: 200 });
  await expect(page.getByText('Pumice is on Stage: nothing')).toBeVisible();
  await expect(page.getByText('Strike k, soft and loud')).toBeHidden();
  await expect(page.getByRole('switch', { name: 'Notes bend with the voice' })).toBeDisabled();
  await expect(page.getByRole('spinbutton', { name: 'Gate in dB' })).toBeDisabled();
  const refused = await fetch(`${pumice.url}/api/settings/listening`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: '{}' });
  expect([refused.status, await refused.text()]).toEqual([423, expect.stringContaining('on Stage')]);
  await pumice.post('/api/stage', { stage: false });
  await expect(page.getByRole('switch', { name: 'Notes bend with the voice' })).toBeEnabled();
  await page.getByRole('button', { name: 'Stop' }).click();
  const of = (kind: string) => monitor.sent.filter((sent) => sent.startsWith(`engine-room ${kind}8 `)).length;
  await waitFor('its notes to end', () => of('8') === of('9'));
});

test('a microphone that is refused, is unplugged and comes back, and a hub that dies: each is said, notes end, and it goes on by itself', async ({ pumice, monitor, page }) => {
  await page.addInitScript(() => {
    const devices = navigator.mediaDevices;
    const real = devices.getUserMedia.bind(devices);
    const mine = window as unknown as { refuse: string | null; asks: Promise<void> | null; track: MediaStreamTrack };
    mine.refuse = 'NotAllowedError';
    mine.asks = null;
    devices.getUserMedia = async (wanted) => {
      if (mine.refuse) throw new DOMException('no', mine.refuse);
      await mine.asks;
      const stream = await real(wanted);
      mine.track = stream.getAudioTracks()[0]!;
      return stream;
    };
  });
  await page.goto(`${pumice.url}/listen`);
  const listen = page.getByRole('button', { name: 'Listen', exact: true });
  await listen.click();
  await expect(page.getByText('The browser was not allowed to listen')).toBeVisible();
  await page.evaluate(() => ((window as unknown as { refuse: string }).refuse = 'NotFoundError'));
  await listen.click();
  await expect(page.getByText('There is no microphone here')).toBeVisible();
  // Stopped while the browser still asks: what it gives then is given back, and the next time is as the first.
  await page.evaluate(() => {
    const mine = window as unknown as { refuse: null; asks: Promise<void> | null; answer: () => void };
    mine.refuse = null;
    mine.asks = new Promise((resolve) => (mine.answer = resolve));
  });
  await listen.click();
  await page.getByRole('button', { name: 'Stop' }).click();
  await page.evaluate(() => (window as unknown as { answer: () => void }).answer());
  await waitFor('it to be given back', () => page.evaluate(() => (window as unknown as { track?: MediaStreamTrack }).track?.readyState === 'ended'));
  await expect(listen).toBeVisible();
  await listen.click();
  const facts = page.getByRole('region', { name: 'What is heard' });
  await expect(facts).toContainText('Hz');

  const state = () => pumice.playing();
  const stream = await waitFor('its stream', async () => (await state()).document.streams.find(({ source, id }) => source === 'sung' && id !== 'foghorn.sung')?.id);
  const mapping = { id: 'lookout', name: 'Lookout', on: true, stream, output: 'weather', layout: { kind: 'mono', channel: 11, priority: 'last', legato: true, glideMs: 0 }, pitch: { transpose: 0, bends: false }, strike: { shaping: {}, range: [1, 127] } };
  await pumice.post(`/api/rigs/${(await state()).id}/edits`, { edit: { kind: 'change', changes: [{ list: 'voiceMappings', id: 'lookout', to: mapping }] } });
  const count = (kind: string) => monitor.sent.filter((sent) => sent.startsWith(`weather ${kind}A `)).length;
  await waitFor('a note', () => count('9') > 0);

  await page.evaluate(() => {
    const { track } = window as unknown as { track: MediaStreamTrack };
    track.stop();
    track.dispatchEvent(new Event('ended'));
  });
  await expect(page.getByText('The microphone is gone')).toBeVisible();
  await waitFor('every note to end', () => count('8') === count('9'));
  // Another device comes, and not the one that is waited for: it goes on waiting.
  await page.evaluate(() => {
    (window as unknown as { refuse: string }).refuse = 'NotFoundError';
    navigator.mediaDevices.dispatchEvent(new Event('devicechange'));
  });
  await expect(page.getByText('The microphone is gone')).toBeVisible();
  await page.evaluate(() => ((window as unknown as { refuse: null }).refuse = null));
  await page.evaluate(() => navigator.mediaDevices.dispatchEvent(new Event('devicechange')));
  const backMs = Date.now();
  await expect(page.getByText('The microphone is gone')).toBeHidden();
  // Not a note of before that a busy computer tells of late: the line of the new microphone is open.
  await waitFor('it to sing again', () => monitor.facts.some((fact) => fact.direction === 'out' && fact.timeMs > backMs && fact.output === 'weather' && fact.bytes.startsWith('9A')));

  const said = await keepSayings(page);
  kill((await pumice.health()).hub.pid);
  await expect.poll(said).toContain('No connection to Pumice');
  await expect(page.getByText('No connection to Pumice')).toBeHidden();
  const back = count('9');
  await waitFor('it to sing on', () => count('9') > back);
  await page.getByRole('button', { name: 'Stop' }).click();
  await waitFor('nothing to hang', () => count('8') >= count('9'));
});

test('a computer too busy to hear everything says so, and hears Stop', async ({ pumice, monitor, page }) => {
  // In its worker each block of 2.7 ms takes 6 ms and more.
  page.on('worker', (worker) => void worker.evaluate(() => {
    const { set } = Float32Array.prototype;
    Float32Array.prototype.set = function (...given: Parameters<typeof set>) {
      if (given[0].length === 128) for (const beganMs = performance.now(); performance.now() - beganMs < 6; );
      return set.apply(this, given);
    };
  }));
  await page.goto(`${pumice.url}/listen`);
  const microphone = page.getByRole('combobox', { name: 'Microphone' });
  const onStage = page.getByText('Pumice is on Stage: nothing');
  for (const chosen of ['Foghorn, a singer', 'the usual microphone']) {
    await microphone.click();
    await page.locator('.ant-select-item-option').filter({ hasText: chosen }).click();
    await page.getByRole('button', { name: 'Listen', exact: true }).click();
    // Its worker hears what else it is told.
    for (const stage of [true, false]) {
      expect(await pumice.post('/api/stage', { stage })).toMatchObject({ status: 200 });
      await (stage ? expect(onStage).toBeVisible() : expect(onStage).toBeHidden());
    }
    if (chosen === 'the usual microphone') await expect(page.getByText(/too busy to hear everything: \d+\.\d s were left out/)).toBeVisible();
    await page.getByRole('button', { name: 'Stop' }).click();
    const count = (kind: string) => monitor.sent.filter((sent) => sent.startsWith(`engine-room ${kind}8 `)).length;
    await waitFor('nothing to hang', () => count('8') === count('9'));
  }
});
