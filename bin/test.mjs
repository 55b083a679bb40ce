// npm test: installs what it needs, then type check, lint, unit tests, build, integration tests, browser journeys.
// Its last line counts the tests of all runners; a type error, a lint error or a failed build counts as one failed test.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt } from './setup/build.mjs';
import { ensureChromium } from './setup/chromium.mjs';
import { ensureInstalled } from './setup/install.mjs';
import { ensureDebianTools } from './setup/debianTools.mjs';
import { ensureNativePorts } from './setup/nativePorts.mjs';
import { ROOT, run } from './setup/run.mjs';

const RESULTS = join(ROOT, 'test-results');
const count = { passed: 0, failed: 0 };

function finish() {
  console.log(`\n${count.passed} passed, ${count.failed} failed`);
  process.exit(count.failed === 0 && count.passed > 0 ? 0 : 1);
}

/** Does a step that passes or fails as a whole; only failing counts. */
async function step(name, work) {
  console.log(`\n--- ${name}`);
  try {
    if ((await work()) !== 0) throw new Error(`${name} failed.`);
    return true;
  } catch (error) {
    console.error(error.message);
    count.failed++;
    return false;
  }
}

/** Runs a test runner that leaves its counts in a JSON file; one that leaves none counts as one failed. */
async function runner(name, command, file, read) {
  console.log(`\n--- ${name}`);
  const path = join(RESULTS, file);
  rmSync(path, { force: true });
  const code = await run(process.execPath, command);
  try {
    const { passed, failed } = read(JSON.parse(readFileSync(path, 'utf8')));
    count.passed += passed;
    count.failed += failed > 0 ? failed : code === 0 ? 0 : 1;
  } catch {
    console.error(`${name} left no result.`);
    count.failed++;
  }
}

const vitest = (...projects) => [
  'node_modules/vitest/vitest.mjs',
  ...['run', ...projects.flatMap((project) => ['--project', project]), '--reporter', 'default', '--reporter', 'json', '--outputFile.json', `test-results/${projects.at(-1)}.json`],
];
const vitestCounts = ({ numPassedTests, numFailedTests, numFailedTestSuites }) => ({
  passed: numPassedTests,
  failed: numFailedTests || numFailedTestSuites,
});
const journeyCounts = ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky });

process.chdir(ROOT);
process.env.NEXT_TELEMETRY_DISABLED = '1';
if (!(await step('Packages', async () => (await ensureInstalled()) ?? 0))) finish();
mkdirSync(RESULTS, { recursive: true });

await Promise.all([
  step('Types', () => run(process.execPath, ['node_modules/typescript/bin/tsc', '--noEmit'])),
  step('Lint', () => run(process.execPath, ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'])),
]);
await runner('Unit tests', vitest('core', 'unit'), 'unit.json', vitestCounts);
if (await step('Build', async () => (await ensureBuilt()) ?? 0)) {
  await ensureDebianTools();
  await ensureNativePorts();
  await runner('Integration tests', vitest('integration'), 'integration.json', vitestCounts);
  if (await step('Chromium', async () => (await ensureChromium()) ?? 0)) {
    await runner('Journeys', ['node_modules/@playwright/test/cli.js', 'test'], 'journeys.json', journeyCounts);
  }
}
finish();
