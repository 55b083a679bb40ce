import { existsSync } from 'node:fs';
import { defineConfig, type LaunchOptions } from '@playwright/test';

const WHOLE = process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium';
/** Debian's Chromium without windows, of the same sources: it shows the same pages for a fifth less of the processor. */
const SHELL = '/usr/bin/chromium-headless-shell';
/** Motion sensors and a pointer that is taken over are parts of the whole browser alone. */
const NEEDS_WHOLE = /@whole-browser/;

const launch = (executablePath: string): LaunchOptions => ({
  executablePath,
  args: ['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
});

export default defineConfig({
  testDir: 'test/journeys',
  // Those of a worker share a program, so two go side by side.
  workers: 2,
  fullyParallel: true,
  timeout: 240_000,
  expect: { timeout: 25_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/journeys.json' }]],
  use: {
    browserName: 'chromium',
    viewport: { width: 1280, height: 800 },
    // Lists and menus are there at once: what moves between the press and the release of a button is not clicked.
    contextOptions: { reducedMotion: 'reduce' },
  },
  projects: [
    { name: 'journeys', grepInvert: NEEDS_WHOLE, use: { launchOptions: launch(!process.env.PUMICE_CHROMIUM && existsSync(SHELL) ? SHELL : WHOLE) } },
    { name: 'whole browser', grep: NEEDS_WHOLE, use: { launchOptions: launch(WHOLE) } },
  ],
});
