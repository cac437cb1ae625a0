import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  // What is measured is run by itself: nothing else draws meanwhile.
  testMatch: process.env.ALONE ? '*.alone.ts' : '*.spec.ts',
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
  use: {
    viewport: { width: 390, height: 844 },
    timezoneId: 'Europe/London',
    locale: 'en-GB',
    // What the tests put between a page and the server is not passed by; `shell.spec.ts` is about the worker.
    serviceWorkers: 'block',
    // A trace takes pictures all the while: it is made where something is run again.
    trace: process.env.ALONE ? 'off' : 'on-first-retry',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
