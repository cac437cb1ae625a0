import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from './lib/mariadb.mjs';
import {
  ROOT,
  ensureBrowsers,
  ensureGalera,
  ensurePackages,
  ensureReaders,
  say,
} from './lib/setup.mjs';
import { buildWeb } from './lib/web.mjs';

/**
 * `npm test`: installs what is missing, then types, lint, unit, server and browser tests, on a
 * database of its own.
 */

ensurePackages();
ensureGalera();
ensureReaders();
const browsers = ensureBrowsers();

const folder = mkdtempSync(join(tmpdir(), 'back-again-test-'));
const database = await startMariadb(folder, { tests: true });
const env = {
  ...process.env,
  ...browsers,
  TEST_DATABASE_URL: database.url,
  E2E_REPORT: join(folder, 'e2e.json'),
  NODE_OPTIONS: '--disable-warning=ExperimentalWarning',
};
const jestReport = join(folder, 'jest.json');

/** Those that stand in one row run at the same time: each of them keeps one core busy. */
const STEPS = [
  [
    ['types', ['tsc', '-b', 'tsconfig.json']],
    ['lint', ['eslint', '.', '--max-warnings', '0']],
  ],
  [['format', ['prettier', '--check', '--log-level', 'warn', '.'], buildWeb]],
  [['unit and server tests', ['jest', '--maxWorkers=2', '--json', `--outputFile=${jestReport}`]]],
  [['browser tests', ['playwright', 'test', '-c', 'e2e/playwright.config.ts']]],
];

const failed = [];
for (const row of STEPS) await Promise.all(row.map((step) => take(...step)));

await database.stop();
const totals = counts();
rmSync(folder, { recursive: true, force: true });
if (failed.length) process.stdout.write(`Failed: ${failed.join(', ')}\n`);
if (totals.again) process.stdout.write(`Held only when run again: ${totals.again}\n`);
process.stdout.write(`${totals.passed} passed, ${totals.failed} failed\n`);
process.exit(failed.length || totals.passed === 0 ? 1 : 0);

/** @param beside what is done meanwhile, by the other core */
async function take(name, command, beside) {
  const from = Date.now();
  say(name);
  const child = spawn('npx', ['--no-install', ...command], {
    cwd: ROOT,
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  const ended = once(child, 'exit');
  await beside?.();
  const [status] = await ended;
  const seconds = Math.round((Date.now() - from) / 1000);
  if (status !== 0) failed.push(name);
  say(`${name}: ${status === 0 ? 'passed' : 'FAILED'} in ${seconds} s`);
}

/** How many tests passed and failed, in the two runners. */
function counts() {
  const jest = report(jestReport);
  const browser = report(env.E2E_REPORT)?.stats;
  return {
    passed: (jest?.numPassedTests ?? 0) + (browser?.expected ?? 0) + (browser?.flaky ?? 0),
    failed: (jest?.numFailedTests ?? 0) + (browser?.unexpected ?? 0),
    again: browser?.flaky ?? 0,
  };
}

function report(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
}
