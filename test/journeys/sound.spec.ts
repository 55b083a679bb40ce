import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import type { Heard } from '../../src/protocol/frames';
import type { Score } from '../helpers/soundRoom';
import { bundled } from '../helpers/bundled';
import { expect, openBench, test } from '../helpers/journey';

/** The instruments as a script for a page without anything else. */
async function soundRoom(page: Page, url: string): Promise<(instrument: string, score: Score, lengthS: number, held?: readonly Heard[]) => Promise<{ sampleRate: number; samples: number[] }>> {
  await page.route('**/sound-room', (route) => route.fulfill({ contentType: 'text/html', body: '<!doctype html><title>Sound room</title>' }));
  await page.goto(`${url}/sound-room`);
  await page.addScriptTag({ content: await bundled(fileURLToPath(new URL('../helpers/soundRoom.ts', import.meta.url))) });
  return (...what) => page.evaluate((what) => (window as unknown as { playOffline: (...of: unknown[]) => Promise<{ sampleRate: number; samples: number[] }> }).playOffline(...what), what);
}

/**
 * The frequency of the strongest partial near one that is expected: the discrete-time Fourier transform of a Hann window, looked at in
 * steps of a tenth of a cent (closed form; no other partial of these voices lies within a semitone).
 */
function frequencyNear(samples: readonly number[], sampleRate: number, expectedHz: number): number {
  let best = 0;
  let most = -1;
  for (let cents = -20; cents <= 20; cents += 0.2) {
    const hz = expectedHz * 2 ** (cents / 1200);
    let [re, im] = [0, 0];
    samples.forEach((sample, i) => {
      const hann = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / samples.length);
      const phase = (2 * Math.PI * hz * i) / sampleRate;
      re += sample * hann * Math.cos(phase);
      im += sample * hann * Math.sin(phase);
    });
    const size = re * re + im * im;
    if (size > most) [best, most] = [hz, size];
  }
  return best;
}

const loudness = (samples: readonly number[]) => Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length);

test('a bent note sounds within a cent of where it should, and Panic is silence', async ({ pumice, page }) => {
  const play = await soundRoom(page, pumice.url);
  // A4 with a bend of 3/4 of a range of 2 semitones: 150 cents up, 440 * 2^(1.5 / 12) = 479.82 Hz.
  const bend = 8192 + Math.round(0.75 * 8191);
  const note: Score = [[0.05, 0x90, 69, 100]];
  const bent = await play('drone', [[0, 0xe0, bend & 0x7f, bend >> 7], ...note], 3);
  // The same, where the wheel was there before anybody switched the sound on.
  const heldBent = await play('drone', note, 3, [{ kind: 'pitchBend', channel: 1, number: 0, value: bend }]);
  for (const { samples, sampleRate } of [bent, heldBent]) {
    const steady = samples.slice(Math.round(1.2 * sampleRate), Math.round(2.2 * sampleRate));
    const expectedHz = 440 * 2 ** (1.5 / 12);
    expect(loudness(steady)).toBeGreaterThan(0.001);
    expect(Math.abs(1200 * Math.log2(frequencyNear(steady, sampleRate, expectedHz) / expectedHz))).toBeLessThan(1);
  }

  // Notes that ring on; Panic after 0.4 s, as the engine sends it.
  const notes: Score = [[0.05, 0x90, 60, 127], [0.1, 0x90, 67, 127]];
  const panic: Score = [[0.4, 0xb0, 64, 0], [0.4, 0xb0, 120, 0], [0.4, 0xb0, 123, 0], [0.4, 0xe0, 0, 64]];
  const later = async (score: Score) => {
    const { samples, sampleRate } = await play('struck', score, 1.2);
    return loudness(samples.slice(Math.round(0.6 * sampleRate)));
  };
  expect(await later(notes)).toBeGreaterThan(0.0003);
  expect(await later([...notes, ...panic])).toBeLessThan(1e-6);
});

test('a browser that does not begin to sound says so; once it does, the switch is on', async ({ pumice, page }) => {
  await page.addInitScript(() => {
    let begins = (): void => undefined;
    let hasBegun = false;
    const begun = new Promise<void>((resolve) => (begins = resolve)).then(() => (hasBegun = true));
    window.AudioContext = class extends AudioContext {
      override get state() {
        return hasBegun ? super.state : 'suspended';
      }
      override async resume() {
        await begun;
        return super.resume();
      }
    };
    Object.assign(window, { begins });
  });
  await openBench(page, `${pumice.url}/outputs`);
  const sound = page.getByRole('switch', { name: 'Sound of the stand-ins' });
  await sound.click();
  await expect(page.getByText('The browser gives no sound yet')).toBeVisible();
  await expect(sound).not.toBeChecked();
  await page.evaluate(() => (window as unknown as { begins: () => void }).begins());
  await expect(sound).toBeChecked();
});
