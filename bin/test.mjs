// npm test: installs what it needs, then type check, lint, unit tests, build, integration tests, browser journeys.
// What failed is said again at the end, with its first words; the last line counts the tests of all runners. A type error, a lint error or a
// failed build counts as one failed test.
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { ensureBuilt } from './setup/build.mjs';
import { ensureChromium } from './setup/chromium.mjs';
import { ensureInstalled } from './setup/install.mjs';
import { ensureDebianTools } from './setup/debianTools.mjs';
import { ensureNativePorts } from './setup/nativePorts.mjs';
import { ROOT, run } from './setup/run.mjs';

const RESULTS = join(ROOT, 'test-results');
/** What tests write beside the project: folders of data, profiles of browsers. */
const SCRATCH = mkdtempSync(join(tmpdir(), 'pumice-tests-'));
const count = { passed: 0, failed: 0 };
/** What failed, in the order in which it did: its name, and what it said. */
const failures = [];

function finish() {
  try {
    rmSync(SCRATCH, { recursive: true, force: true, maxRetries: 5 });
  } catch {
    // A browser that is still ending writes there: that is no failed test.
  }
  for (const { name, said } of failures) console.log(`\nFailed: ${name}\n${said}`);
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
    failures.push({ name, said: error.message });
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
    count.failed += Math.max(failed.length, code === 0 ? 0 : 1);
    failures.push(...failed);
    if (code !== 0 && failed.length === 0) failures.push({ name, said: `No test of it failed, but it ended with exit code ${code}.` });
  } catch {
    failures.push({ name, said: `${name} left no result.` });
    count.failed++;
  }
}

/** Without the colours of a terminal, and no longer than what tells what went wrong. */
const firstWords = (said) => stripVTControlCharacters(said ?? '').split('\n').slice(0, 25).join('\n');
const vitestResult = ({ numPassedTests, testResults }) => ({
  passed: numPassedTests,
  failed: testResults.flatMap(({ name, status, message, assertionResults }) => {
    const failed = assertionResults.filter((test) => test.status === 'failed');
    // A file that cannot be read, or whose set-up fails, has no test that failed.
    if (status === 'failed' && failed.length === 0) return [{ name: relative(ROOT, name), said: firstWords(message) }];
    return failed.map(({ fullName, failureMessages }) => ({ name: `${relative(ROOT, name)}: ${fullName}`, said: firstWords(failureMessages.join('\n')) }));
  }),
});

function vitest(name, file, ...projects) {
  const command = ['run', ...projects.flatMap((project) => ['--project', project]), '--reporter', 'default', '--reporter', 'json', '--outputFile.json', `test-results/${file}`];
  return runner(name, ['node_modules/vitest/vitest.mjs', ...command], file, vitestResult);
}

const journeysOf = (suite) => [...suite.specs, ...(suite.suites ?? []).flatMap(journeysOf)];
const journeyResult = ({ stats, suites, errors }) => ({
  passed: stats.expected,
  failed: [
    ...suites.flatMap(journeysOf).flatMap(({ file, title, tests }) =>
      tests.filter(({ status }) => status === 'unexpected' || status === 'flaky').map(({ results }) => ({
        name: `${file}: ${title}`,
        said: firstWords(results.flatMap((result) => (result.errors ?? []).map(({ message }) => message)).join('\n')),
      })),
    ),
    ...errors.map(({ message }) => ({ name: 'Journeys', said: firstWords(message) })),
  ],
});

process.chdir(ROOT);
process.env.NEXT_TELEMETRY_DISABLED = '1';
if (!(await step('Packages', async () => (await ensureInstalled()) ?? 0))) finish();
mkdirSync(RESULTS, { recursive: true });
process.env.TMPDIR = SCRATCH;
// Packages may need these certificates. Node reads all of them at every start, for 0.15 s; what is fetched after this is fetched by Debian's own tools.
delete process.env.NODE_EXTRA_CA_CERTS;

await Promise.all([
  step('Types', () => run(process.execPath, ['node_modules/typescript/bin/tsc', '--noEmit'])),
  step('Lint', () => run(process.execPath, ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'])),
]);
await vitest('Unit tests', 'unit.json', 'core', 'unit', 'hub');
if (await step('Build', async () => (await ensureBuilt()) ?? 0)) {
  await ensureDebianTools();
  await ensureNativePorts();
  await vitest('Integration tests', 'integration.json', 'integration');
  if (await step('Chromium', async () => (await ensureChromium()) ?? 0)) {
    await runner('Journeys', ['node_modules/@playwright/test/cli.js', 'test'], 'journeys.json', journeyResult);
  }
}
finish();
