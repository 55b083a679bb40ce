import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'unit', include: ['src/**/*.test.ts'], setupFiles: ['test/helpers/seed.ts'], testTimeout: 120_000 } },
      {
        // Against the built processes: `npm run build` first. Each file has programs of its own, so two go side by side.
        test: { name: 'integration', include: ['test/integration/**/*.test.ts'], testTimeout: 120_000, hookTimeout: 90_000, maxWorkers: 2 },
      },
    ],
  },
});
