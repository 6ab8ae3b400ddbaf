// Everything that has to hold, from a clean clone: types, lint, unit tests, and the pages in a real browser.
// Ends with one line over all suites: N passed, N failed.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { built, installed, say, withChromium } from './lib/prepare.mjs';
import { run } from './lib/run.mjs';

const totals = { passed: 0, failed: 0 };
const bin = (name) => `node_modules/.bin/${name}`;

/** A suite that either holds or does not, and counts as one. */
async function check(name, command, args) {
  say(name);
  try {
    await run(command, args);
    totals.passed++;
  } catch (error) {
    console.error(error.message);
    totals.failed++;
  }
}

/** A suite that counts its own tests in a report; one that made no report failed. */
async function suite(name, command, args, report, read) {
  say(name);
  rmSync(report, { force: true });
  const ended = await run(command, args).then(
    () => true,
    () => false,
  );
  const counted = existsSync(report) ? read(JSON.parse(readFileSync(report, 'utf8'))) : { passed: 0, failed: 0 };
  totals.passed += counted.passed;
  totals.failed += counted.failed;
  if (!ended && counted.failed === 0) totals.failed++;
  if (ended && counted.passed === 0) totals.failed++;
}

await installed();
mkdirSync('test-results', { recursive: true });
await check('types', bin('tsc'), ['--noEmit']);
await check('lint: rules and the arrows between folders', bin('eslint'), ['.', '--max-warnings', '0']);
await check('lint: format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
await suite(
  'unit tests',
  bin('jest'),
  ['--json', '--outputFile=test-results/unit.json'],
  'test-results/unit.json',
  (report) => ({
    passed: report.numPassedTests,
    failed: report.numFailedTests + report.numRuntimeErrorTestSuites,
  }),
);
await withChromium();
await built();
await suite('the pages, in Chromium', bin('playwright'), ['test'], 'test-results/e2e.json', ({ stats }) => ({
  passed: stats.expected + stats.flaky,
  failed: stats.unexpected + stats.skipped,
}));

console.log(`${totals.passed} passed, ${totals.failed} failed`);
process.exitCode = totals.failed === 0 ? 0 : 1;
