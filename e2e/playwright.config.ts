import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS } from '../scripts/lib/chromium.mjs';

/** What depends on the browser around the page: its service workers, notifications, and a person's whole day. */
const WHOLE = ['closed.spec.ts', 'main-job.spec.ts', 'notified.spec.ts', 'shell.spec.ts'];
const page = {
  viewport: { width: 390, height: 844 },
  timezoneId: 'Europe/London',
  locale: 'en-GB',
  // What the tests put between a page and the server is not passed by; `shell.spec.ts` is about the worker.
  serviceWorkers: 'block' as const,
  // A trace takes pictures all the while: it is made where something is run again.
  trace: process.env.ALONE ? ('off' as const) : ('on-first-retry' as const),
};
const by = (executablePath = '/usr/bin/chromium') => ({
  use: { ...page, launchOptions: { args: CHROMIUM_ARGS, executablePath } },
});

export default defineConfig({
  testDir: '.',
  // What is measured is run by itself: nothing else draws meanwhile.
  ...(process.env.ALONE
    ? { testMatch: '*.alone.ts', ...by(process.env.CHROMIUM) }
    : {
        projects: [
          { name: 'windowless', ...by(process.env.WINDOWLESS), testIgnore: WHOLE },
          { name: 'whole', ...by(process.env.CHROMIUM), testMatch: WHOLE },
        ],
      }),
  // What is done at both sizes alike is done on a phone; `npm run check:wide` does all of it on a wide screen too.
  ...(process.env.WIDE ? {} : { grepInvert: /\b1280( px)? (?!axe)/u }),
  outputDir: '../test-results',
  // The server's time is set by the tests: each worker has a program of its own, and one test at a time.
  workers: 2,
  fullyParallel: false,
  // What fails once and holds at once again is told as such at the end.
  retries: 1,
  timeout: 120_000,
  expect: { timeout: 10_000 },
  reporter: process.env.E2E_REPORT
    ? [['list'], ['json', { outputFile: process.env.E2E_REPORT }]]
    : [['list']],
});
