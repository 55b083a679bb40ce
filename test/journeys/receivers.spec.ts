import { expect, openBench, test } from '../helpers/journey';
import { NetworkPeer } from '../helpers/networkPeer';
import type { NetworkSettings } from '../../src/protocol/networkSettings';
import { freePair, waitFor, type Pumice } from '../helpers/pumice';

const rigOf = async (pumice: Pumice) => (await pumice.playing()).document;

test('a receiver is set up: what can be sent is sent, the rest is ticked off and remembered', async ({ pumice, page, monitor }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('button', { name: 'Settings of Hull song' }).click();
  const panel = page.getByRole('complementary', { name: 'Hull song' });
  await panel.getByRole('combobox', { name: 'Where its voices are' }).click();
  await page.getByText('MPE, lower zone', { exact: true }).click();
  await panel.getByRole('spinbutton', { name: 'Member channels' }).fill('2');
  await page.keyboard.press('Enter');
  await waitFor('two members', async () => (await rigOf(pumice)).receivers.some(({ layout }) => layout?.kind === 'zone' && layout.members === 2));
  // A number counts once it is finished: each of these is one edit, whatever is typed on the way.
  const voices = panel.getByRole('spinbutton', { name: 'Voices' });
  const revision = async () => (await pumice.playing()).revision;
  const before = await revision();
  await voices.pressSequentially('16');
  await voices.press('Enter');
  await waitFor('sixteen voices', async () => (await rigOf(pumice)).receivers.some((receiver) => receiver.voices === 16));
  await voices.fill('');
  await voices.press('Enter');
  await waitFor('voices that are not known', async () => (await rigOf(pumice)).receivers.every((receiver) => receiver.voices !== 16));
  expect(await revision()).toBe(before + 2);
  await voices.fill('2');
  await voices.press('Enter');
  const setUp = panel.getByRole('region', { name: 'Set it up' });
  await expect(setUp).toContainText('Sends MPE, lower zone with 2 channels, bend range');
  await waitFor('it to be played', async () => (await rigOf(pumice)).receivers.some((receiver) => receiver.voices === 2));
  await setUp.getByRole('button', { name: 'Send the set-up' }).click();
  await expect(setUp.getByRole('status')).toContainText('Sent: MPE, lower zone with 2 channels');
  // The messages of a group are shown one by one: the last one of the configuration, and the range of the last member.
  await waitFor('the configuration', () => monitor.sent.includes('hull-song B0 06 02'));
  await waitFor('its members', () => monitor.sent.some((line) => line.startsWith('hull-song B2 06 ')));
  await setUp.getByRole('checkbox', { name: '2 voices' }).check();
  await waitFor('it to be kept', async () => (await rigOf(pumice)).receivers.some(({ setByHand }) => setByHand?.includes('voices 2')));
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('button', { name: 'Settings of Hull song' }).click();
  await expect(setUp.getByRole('checkbox', { name: '2 voices' })).toBeChecked();
});

test('the faders of a surface are introduced one after another, the next by a tap on the tablet, and that is remembered', async ({ pumice, page, tablet, monitor }) => {
  await openBench(page, `${pumice.url}/mappings`);
  await page.getByRole('button', { name: 'Introduce in turn' }).click();
  const panel = page.getByRole('complementary', { name: 'Introduce one after another' });
  await panel.getByRole('combobox', { name: 'Which mappings' }).click();
  await page.getByText('of Wheelhouse', { exact: true }).click();
  await panel.getByRole('button', { name: 'Following the hand' }).click();
  const bar = tablet.page.getByRole('button', { name: 'Learned, next' });
  await expect(bar).toContainText(/1 of \d+: /);
  const first = await panel.locator('li[aria-current="step"]').innerText();
  // Everything but the one that has its turn is held back. The other hand says that it is learned.
  const [hand, box] = [{ id: 1, x: 80, y: 294 }, (await bar.boundingBox())!];
  await tablet.fingers('touchStart', hand);
  await tablet.fingers('touchStart', hand, { id: 2, x: box.x + box.width / 2, y: box.y + box.height / 2 });
  await tablet.fingers('touchEnd');
  await expect(bar).toContainText(/2 of \d+: /);
  await expect(panel.locator('li').first()).toContainText('✓ learned');
  expect(first).not.toContain('✓ learned');
  await page.getByRole('button', { name: 'Skip' }).click();
  await expect(bar).toContainText(/3 of \d+: /);
  await page.getByRole('button', { name: 'Back' }).click();
  await page.getByRole('button', { name: 'Learned, next' }).click();
  await waitFor('both to be remembered', async () => (await rigOf(pumice)).receivers.reduce((sum, { taught = {} }) => sum + Object.keys(taught).length, 0) === 2);
  await page.keyboard.press('Escape');
  await expect(bar).toHaveCount(0);
  const before = monitor.sent.length;
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 42 });
  await tablet.fingers('touchEnd');
  await waitFor('everything to be sent again', () => monitor.sent.slice(before).some((line) => line.startsWith('weather B2 15')));
});

test('a message is chosen in words and sent to an output', async ({ pumice, page, monitor }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('button', { name: 'Settings of Weather' }).click();
  const send = page.getByRole('region', { name: 'Send a message' });
  await send.getByRole('combobox', { name: 'Kind of the message' }).click();
  await page.getByText('Pitch bend', { exact: true }).click();
  await send.getByRole('spinbutton', { name: 'channel of the message' }).fill('3');
  await page.keyboard.press('Enter');
  await send.getByRole('spinbutton', { name: 'bend of the message' }).fill('-8192');
  await page.keyboard.press('Enter');
  await send.getByRole('button', { name: 'Send' }).click();
  await waitFor('the bend', () => monitor.facts.some((fact) => fact.direction === 'out' && fact.output === 'weather' && fact.bytes === 'E2 00 00' && fact.who === 'hand'));
});

test('the delay from finger to byte is drawn, of the rig and of one output', async ({ pumice, page, tablet }) => {
  await openBench(page, `${pumice.url}/outputs`);
  await page.locator('.ant-segmented-item').filter({ hasText: 'Delay' }).click();
  await expect(page.getByText('Nothing that a performer moved has left there in the last minute.')).toBeVisible();
  await tablet.fingers('touchStart', { id: 1, x: 80, y: 294 });
  await tablet.fingers('touchMove', { id: 1, x: 80, y: 200 });
  await tablet.fingers('touchEnd');
  const region = page.getByRole('region', { name: 'Delay' });
  await expect(region.getByText('99 of 100 within')).toBeVisible();
  await expect(region.getByRole('img', { name: /^Most messages took/ })).toBeVisible();
  await region.getByRole('combobox', { name: 'Delay of' }).click();
  await page.locator('.ant-select-item-option').filter({ hasText: 'Hull song' }).click();
  await expect(region.getByText('Nothing that a performer moved has left there')).toBeVisible();
});

const networkOf = async ({ url }: Pumice) => (await (await fetch(`${url}/api/settings/network`)).json()) as NetworkSettings;

test('a tablet that connects over the network is asked about once, plays, and is an output by one click', async ({ pumice, page }) => {
  const far = await NetworkPeer.open('Chart tablet', await freePair());
  await openBench(page, `${pumice.url}/outputs`);
  await page.getByRole('button', { name: 'Network MIDI' }).click();
  const panel = page.getByRole('complementary', { name: 'Network MIDI' });
  await expect(panel).toContainText('Off: nothing is listened to');
  await panel.getByRole('switch').click();
  await expect(panel).toContainText('Nobody is in it yet.');
  const ask = page.getByText('Chart tablet, at 127.0.0.2, wants to play over the network');
  await expect
    .poll(async () => {
      far.invite(pumice.midiPort);
      return ask.count();
    })
    .toBe(1);
  await page.getByRole('button', { name: 'Let in' }).click();
  await expect(ask).toHaveCount(0);
  const session = panel.getByRole('region', { name: 'Session Pumice' });
  await expect
    .poll(async () => {
      if (far.commands.length === 0) far.invite(pumice.midiPort);
      return session.innerText();
    })
    .toContain('connected, 127.0.0.2');
  await page.getByRole('button', { name: 'Add an output' }).click();
  await page.getByRole('menuitem', { name: 'Chart tablet' }).click();
  await expect(page.getByRole('article', { name: 'Output Chart tablet' })).toContainText('Chart tablet, over the network');
  await waitFor('it to be played', async () => (await rigOf(pumice)).outputs.some(({ name }) => name === 'Chart tablet'));
  await page.getByRole('button', { name: 'Test Chart tablet' }).click();
  await waitFor('the scale there', () => far.heard.some((message) => message.startsWith('90')));
  await far.bye();
  await expect(page.getByText('Chart tablet is not connected. Everything else plays on.')).toBeVisible();
  far.close();

  // Another session, and whom it calls; both go together.
  await page.getByRole('button', { name: 'Network MIDI' }).click();
  await panel.getByRole('textbox', { name: 'One more session' }).fill('Lower deck');
  await page.keyboard.press('Enter');
  await panel.getByRole('combobox', { name: 'Session to connect in' }).click();
  await page.getByTitle('Lower deck').click();
  const deck = panel.getByRole('region', { name: 'Session Lower deck' });
  for (const address of ['127.0.0.2', '127.0.0.3']) {
    await panel.getByRole('textbox', { name: 'Name of the other session' }).fill('Deck laptop');
    await panel.getByRole('textbox', { name: 'Its IP address' }).fill(address);
    await panel.getByRole('button', { name: 'Connect by address' }).click();
    await waitFor(`it to be called at ${address}`, async () => (await networkOf(pumice)).invited[0]?.at?.address === address);
  }
  expect(await networkOf(pumice)).toMatchObject({ invited: [{ session: 'Lower deck', name: 'Deck laptop' }] });
  await expect(deck.getByRole('listitem')).toHaveCount(1);
  await deck.getByRole('button', { name: 'Remove session Lower deck' }).click();
  await expect(deck).toHaveCount(0);
  await waitFor('nobody to be called any more', async () => (await networkOf(pumice)).invited.length === 0);
});
