import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'test/journeys',
  // Every journey has a program of its own, so two go side by side.
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
    launchOptions: {
      executablePath: process.env.PUMICE_CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
});
