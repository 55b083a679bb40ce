import type { Page } from '@playwright/test';
import type { PartOf } from '../../src/core/ensemble/parts';
import { withMidi } from '../helpers/devices';
import { expect, openBench, Tablet, test } from '../helpers/journey';
import type { Monitor } from '../helpers/monitor';
import { kill, waitFor, type Pumice } from '../helpers/pumice';

/** Keys of a channel that began at an output since a mark. */
const struck = (monitor: Monitor, output: string, channel: string, from = 0) => monitor.sent.slice(from).flatMap((sent) => (sent.startsWith(`${output} 9${channel} `) && !sent.endsWith(' 00') ? [parseInt(sent.split(' ')[2]!, 16)] : []));

/** What sounds after all that left since a mark: by output, channel and key. */
function sounding(monitor: Monitor, from = 0): string[] {
  const left = new Set<string>();
  for (const sent of monitor.sent.slice(from)) {
    const [output, status, key, velocity] = sent.split(' ') as [string, string, string, string];
    if (!/^[89]/.test(status)) continue;
    const name = `${output} ${status[1]} ${key}`;
    if (status.startsWith('9') && velocity !== '00') left.add(name);
    else left.delete(name);
  }
  return [...left];
}

/** Where a control of a surface lies. */
async function at(tablet: Tablet, label: string): Promise<{ x: number; y: number }> {
  const box = (await tablet.page.getByLabel(label, { exact: true }).first().boundingBox())!;
  return { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + box.height / 2) };
}

async function tap(tablet: Tablet, label: string): Promise<void> {
  const { x, y } = await at(tablet, label);
  await tablet.fingers('touchStart', { id: 9, x, y });
  await tablet.fingers('touchEnd');
}

test('a new rig with a board of chords: three fingers play to four receivers, and all of it stops', async ({ pumice, browser, page, monitor }) => {
  await openBench(page, `${pumice.url}/rigs`);
  await page.getByRole('button', { name: 'New rig' }).click();
  await page.getByRole('textbox', { name: 'Name of the new rig' }).fill('Night watch');
  await page.getByRole('radio', { name: /a band on one tablet/ }).check();
  await page.getByRole('button', { name: 'Make it and open it' }).click();
  await waitFor('the rig to be open', async () => (await pumice.playing()).document.name === 'Night watch');
  await page.getByRole('link', { name: 'Ensemble' }).click();
  const members = page.getByRole('list', { name: 'Members' });
  await expect(members.getByRole('listitem')).toHaveCount(5);
  await expect(members.getByRole('listitem', { name: 'Bass, Bass' }).getByRole('status')).toContainText('waits for the transport');

  // Another band is one step, which starting with the first note is part of; so is taking it back.
  await page.getByRole('combobox', { name: 'What starts it' }).click();
  await page.getByTitle('started by hand').click();
  await waitFor('no start by a note', async () => (await pumice.playing()).document.startsBy === undefined);
  await page.getByRole('button', { name: 'Add a board of chords' }).click();
  await expect(members.getByRole('listitem')).toHaveCount(10);
  await waitFor('the start by a note', async () => (await pumice.playing()).document.startsBy === 'first note');
  await page.keyboard.press('Control+z');
  await expect(members.getByRole('listitem')).toHaveCount(5);
  await waitFor('the start by hand again', async () => (await pumice.playing()).document.startsBy === undefined);
  await page.keyboard.press('Control+z');
  await waitFor('the start by a note again', async () => (await pumice.playing()).document.startsBy === 'first note');

  // A chord of one's own: what is none is said and put back, and one by its name is kept.
  await page.getByRole('button', { name: 'Settings of Chords' }).click();
  const second = page.getByRole('textbox', { name: 'Chord of degree 2' });
  await second.fill('Hx9');
  await second.press('Enter');
  await expect(page.getByText('"Hx9" is neither a chord')).toBeVisible();
  await expect(second).toHaveValue('Dm');
  await second.fill('G7/B');
  await second.press('Enter');
  await expect(second).toHaveValue('B D F G');
  await page.getByTitle('Go to a bar').click();
  await page.getByRole('spinbutton', { name: 'Go to bar' }).fill('3');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('timer', { name: 'Bar and beat' })).toHaveText('3.1');

  const tablet = await Tablet.open(browser, `${pumice.url}/play/chords`);
  await tap(tablet, 'Bass');
  await tap(tablet, 'Drums');
  const degree = await at(tablet, 'IV');
  const kind = await at(tablet, 'maj7');
  const strip = await at(tablet, 'Strum');
  const held = [{ id: 1, ...kind }, { id: 2, ...degree }];
  await tablet.fingers('touchStart', held[0]!);
  await tablet.fingers('touchStart', ...held);
  // F major seventh: F A C E, in whatever order they lie.
  await waitFor('the chord', () => [5, 9, 0, 4].every((tone) => struck(monitor, 'chords', '0').some((key) => key % 12 === tone)));
  await waitFor('the bass under it', () => struck(monitor, 'low-strings', '0').some((key) => key % 12 === 5));
  await waitFor('the drums', () => struck(monitor, 'drums', '9').includes(36));
  await tablet.fingers('touchStart', ...held, { id: 3, x: strip.x, y: 780 });
  for (let y = 760; y > 40; y -= 30) await tablet.fingers('touchMove', ...held, { id: 3, x: strip.x, y });
  await waitFor('all six strings', () => new Set(struck(monitor, 'strings', '0')).size === 6);
  await expect(members.getByRole('listitem', { name: 'Chords, Chord' })).toContainText('Fmaj7');
  await tablet.fingers('touchEnd');
  // The chord is there for bass and strings still, but sounds no more; Stop ends the rest.
  await waitFor('the chord to end', () => sounding(monitor).every((name) => !name.startsWith('chords ')));
  await page.getByRole('button', { name: 'Stop the ensemble' }).click();
  await waitFor('silence', () => sounding(monitor).length === 0);
  await expect(page.getByRole('timer', { name: 'Bar and beat' })).toHaveAttribute('data-alive', 'false');
  await tablet.close();
});

/** The pattern of the demo plays whenever the transport runs. */
async function withFreePattern(pumice: Pumice): Promise<string> {
  const { id, document } = await pumice.playing();
  const member = document.members.find(({ part }) => part.kind === 'pattern')!;
  const part = { ...(member.part as PartOf<'pattern'>) };
  delete part.while;
  await pumice.post(`/api/rigs/${id}/edits`, { edit: { kind: 'setMember', member: member.id, set: { part } } });
  await waitFor('it to be played', async () => !('while' in (await pumice.playing()).document.members.find((other) => other.id === member.id)!.part));
  return member.id;
}

test('a pattern is edited while it runs: by the mouse and by keys, heard the next time round, and kept', async ({ pumice, page, monitor }) => {
  const id = await withFreePattern(pumice);
  await openBench(page, `${pumice.url}/ensemble`);
  await page.getByRole('button', { name: 'Settings of Engine pattern' }).click();
  await page.getByRole('button', { name: 'Start from the beginning' }).click();
  await waitFor('the piston', () => struck(monitor, 'bell-and-rigging', 'C').includes(36));
  await page.getByRole('button', { name: 'Add a lane' }).click();
  const step = page.getByRole('button', { name: /^(kick|snare), step 5,/ });
  await step.click();
  await expect(step).toHaveAttribute('data-on', 'true');
  await waitFor('the new lane to be heard', () => struck(monitor, 'bell-and-rigging', 'C').includes(38));
  await step.press('ArrowRight');
  await page.keyboard.press('3');
  await expect(page.getByRole('button', { name: /step 6, 33 percent$/ })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('group', { name: /^Step 6/ })).toHaveCount(0);
  await expect(page.getByText(/step 6: a rest/)).toBeVisible();
  await page.getByRole('button', { name: 'Stop the ensemble' }).click();
  await waitFor('silence', () => sounding(monitor).length === 0);
  // A quick stroke, seen only where it begins and where it is at its end, turns every step that it crosses.
  const of = (n: number) => page.getByRole('button', { name: new RegExp(`^(kick|snare), step ${n},`) });
  const [from, to] = [(await of(10).boundingBox())!, (await of(14).boundingBox())!];
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2);
  await page.mouse.up();
  await expect(of(14)).toHaveAttribute('data-on', 'true');
  await waitFor('its hits', async () => {
    const part = (await pumice.playing()).document.members.find((member) => member.id === id)!.part as PartOf<'pattern'>;
    return part.patterns[0]!.lanes.at(-1)!.hits.map(({ at, strike, lasts }) => `${at} ${strike} ${lasts}`).join() === [4, 9, 10, 11, 12, 13].map((at) => `${at} 0.8 0.5`).join();
  });
});

/** Sends clocks of a tempo, each stamped with when it is due, however late the page comes to it, until it is told to stop. */
const beginClock = (page: Page, bpm: number) =>
  page.evaluate((everyMs) => {
    const fromMs = performance.now();
    let sent = 0;
    const timer = setInterval(() => {
      for (; fromMs + sent * everyMs <= performance.now(); sent++) window.testMidi.sayAt(fromMs + sent * everyMs, 0xf8);
    }, 4);
    (window as unknown as { endClock: () => void }).endClock = () => clearInterval(timer);
  }, 60_000 / bpm / 24);

test('a clock that comes in starts the piece, sets its tempo and stops it; one that stops without a word is said', async ({ pumice, page, monitor }) => {
  await withFreePattern(pumice);
  await withMidi(page.context());
  await openBench(page, `${pumice.url}/inputs`);
  await page.getByRole('button', { name: 'Add an input' }).click();
  await page.getByText('MIDI ports of this browser').click();
  await waitFor('the input', async () => {
    await page.evaluate(() => window.testMidi.say(0xb0, 1, 3));
    return page.getByRole('article', { name: 'Input Test keys' }).isVisible();
  });
  const { id, document } = await pumice.playing();
  const input = document.inputs.find(({ name }) => name === 'Test keys')!;
  await pumice.post(`/api/rigs/${id}/edits`, { edit: { kind: 'setInput', input: input.id, set: { followsClock: true } } });
  await waitFor('it to be followed', async () => (await pumice.playing()).document.inputs.some((known) => 'followsClock' in known && known.followsClock));
  await page.getByRole('link', { name: 'Ensemble' }).click();
  const transport = page.getByRole('group', { name: 'Transport' });
  const before = monitor.sent.length;
  await page.evaluate(() => window.testMidi.say(0xfa));
  await beginClock(page, 150);
  await expect(transport).toContainText('Follows the clock of Test keys.');
  await waitFor('the pattern', () => struck(monitor, 'bell-and-rigging', 'C', before).includes(36));
  await waitFor('its tempo', async () => Math.abs(parseFloat((await transport.getByLabel('Tempo that is played').textContent())!) - 150) < 3);
  await page.evaluate(() => (window as unknown as { endClock: () => void }).endClock());
  await expect(transport).toContainText('has stopped without a word: it goes on at');
  await page.evaluate(() => window.testMidi.say(0xfc));
  await expect(transport.getByRole('timer')).toHaveAttribute('data-alive', 'false');
  await waitFor('silence', () => sounding(monitor).length === 0);
});

test('a hub that dies in the middle leaves nothing hanging, and a chord that a finger holds comes again', async ({ pumice, browser, page, monitor }) => {
  const tablet = await Tablet.open(browser, `${pumice.url}/play/crew`);
  await openBench(page, `${pumice.url}/ensemble`);
  const degree = await at(tablet, 'i');
  await tablet.fingers('touchStart', { id: 1, ...degree });
  await waitFor('the chord', () => sounding(monitor).length === 3);
  kill((await pumice.health()).hub.pid);
  const gone = monitor.sent.length;
  await waitFor('the chord again', () => monitor.sent.slice(gone).filter((sent) => /^hull-song 9. .. (?!00)/.test(sent)).length >= 3);
  await tablet.fingers('touchEnd');
  await page.getByRole('button', { name: 'Stop the ensemble' }).click();
  await expect(page.getByRole('timer', { name: 'Bar and beat' })).toHaveAttribute('data-alive', 'false');
  await waitFor('silence', () => sounding(monitor, gone).length === 0);
  await tablet.close();
});

test('a pedal starts and stops the piece, and taps its tempo; what it starts is recorded where that is wished, and OSC ends it', async ({ pumice, browser, page }) => {
  const tablet = await Tablet.open(browser, `${pumice.url}/play/wheelhouse`);
  await openBench(page, `${pumice.url}/takes`);
  await page.getByRole('button', { name: 'Recording…' }).click();
  await page.getByRole('switch', { name: 'Start and Stop record' }).click();
  await expect(page.getByRole('switch', { name: 'Start and Stop record' })).toBeChecked();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Ensemble' }).click();
  const byGate = async (does: string) => {
    await page.getByRole('combobox', { name: does }).click();
    await page.getByTitle('Wheelhouse · Bell').last().click();
    await waitFor('the scene', async () => (await pumice.playing()).document.scenes.some(({ name, recalledBy }) => name === does && recalledBy?.signal === 'wheelhouse.bell'));
  };
  await page.getByRole('button', { name: 'By a gate…' }).click();
  await byGate('Start and stop');
  const transport = page.getByRole('group', { name: 'Transport' });
  await tap(tablet, 'Bell');
  await expect(transport.getByRole('timer')).toHaveAttribute('data-alive', 'true');
  await expect(page.getByRole('button', { name: 'End the take' })).toBeVisible();
  await tap(tablet, 'Bell');
  await expect(transport.getByRole('timer')).toHaveAttribute('data-alive', 'false');
  await expect(page.getByRole('button', { name: 'Record a take' })).toBeVisible();

  // Over OSC, from another program.
  await pumice.osc('/pumice/record', 1);
  await expect(page.getByRole('button', { name: 'End the take' })).toBeVisible();
  await pumice.osc('/pumice/record', 0);
  await expect(page.getByRole('button', { name: 'Record a take' })).toBeVisible();

  await byGate('Tap the tempo');
  // As many taps as it needs: on a slow machine two may be too far apart.
  await waitFor('a tempo that was tapped', async () => {
    await tap(tablet, 'Bell');
    return (await transport.textContent())!.includes('In a tempo that was tapped');
  });
});

test('steps of a bass are put by the mouse and by keys, accents of an arpeggio are drawn and typed, and undone', async ({ pumice, page }) => {
  await openBench(page, `${pumice.url}/ensemble`);
  const partOf = async (id: string) => (await pumice.playing()).document.members.find((member) => member.id === id)!.part;
  await page.getByRole('button', { name: 'Settings of Keel bass' }).click();
  await page.getByRole('combobox', { name: 'Plays', exact: true }).click();
  await page.getByTitle('steps of its own').click();
  const steps = page.getByRole('group', { name: 'What the bass plays' });
  await steps.getByRole('button', { name: 'Step 2, octave' }).click();
  await steps.getByRole('button', { name: 'Step 2, octave' }).press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await expect(steps.getByRole('button', { name: 'Step 3, fifth' })).toBeFocused();
  await page.keyboard.press('Space');
  await expect(steps.getByRole('button', { name: 'Step 3, fifth' })).toHaveAttribute('aria-pressed', 'false');
  await waitFor('the steps', async () => JSON.stringify(await partOf('keel-bass')).includes('"tones":["root","octave","rest","rest"]'));

  await page.getByRole('button', { name: 'Settings of Winch arpeggio' }).click();
  await page.getByRole('spinbutton', { name: 'Steps with accents, 0 for all alike' }).fill('5');
  await page.keyboard.press('Enter');
  const accents = page.getByRole('group', { name: 'How hard each step is' });
  const box = (await accents.boundingBox())!;
  await page.mouse.move(box.x + box.width / 10, box.y + box.height / 2);
  await page.mouse.down();
  // In one jump over the second step, as a quick hand is seen.
  await page.mouse.move(box.x + (5 * box.width) / 10, box.y + box.height / 2);
  await page.mouse.up();
  await accents.getByRole('slider', { name: 'Accent 5' }).press('ArrowDown');
  const drawn = async (wanted: readonly number[]) => {
    const part = await partOf('winch-arpeggio');
    // A pixel is more than a percent.
    return part.kind === 'arpeggio' && part.accents.length === wanted.length && part.accents.every((accent, i) => Math.abs(accent - wanted[i]!) < 0.04);
  };
  await waitFor('the accents', () => drawn([0.5, 0.5, 0.5, 0.6, 0.95]));
  // Edits that follow each other soon may be one step.
  await waitFor('the accents as they were', async () => {
    if (await drawn([1, 0.6, 0.8, 0.6])) return true;
    await page.getByRole('button', { name: /^Undo/ }).click();
    return false;
  });
});
