import { defineConfig } from 'vitest/config';

const unit = { setupFiles: ['test/helpers/seed.ts'], testTimeout: 120_000, maxWorkers: 2 };

export default defineConfig({
  test: {
    projects: [
      // What is pure needs no process of its own for each file.
      { test: { ...unit, name: 'core', include: ['src/core/**/*.test.ts'], pool: 'threads', isolate: false } },
      { test: { ...unit, name: 'unit', include: ['src/**/*.test.ts'], exclude: ['src/{core,hub}/**'], isolate: false } },
      // Most of these put another clock in the place of the hub's, each for itself.
      { test: { ...unit, name: 'hub', include: ['src/hub/**/*.test.ts'] } },
      {
        // Against the built processes: `npm run build` first. Each file has programs of its own, so two go side by side; with three
        // the MIDI system of the tests lost a port once in two runs.
        test: { name: 'integration', include: ['test/integration/**/*.test.ts'], testTimeout: 120_000, hookTimeout: 90_000, maxWorkers: 2 },
      },
    ],
  },
});
