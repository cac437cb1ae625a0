import { randomUUID } from 'node:crypto';
import { cpSync, appendFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WEB } from '../scripts/lib/web.mjs';
import { recordOf, todosOf } from './onServer.ts';
import { button, expect, freshDatabase, register, row, startOn, test } from './program.ts';

// The program itself on a device: it opens without a server, and a newer one waits until it is taken.
// 24 November 2026 is a Tuesday.

test.use({ serviceWorkers: 'allow' });

const NOW = '2026-11-24T09:40:00Z';
const noConnection = (page: Page) => page.getByText('No connection: this is as of');

/** Waits until the device has the program itself, and opens it from there. */
async function hasProgram(page: Page): Promise<void> {
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await page.reload();
  await expect
    .poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null))
    .toBe(true);
}

test('with the server stopped: opened, finished, written, moved, taken back; all of it once, as of when it was done', async ({
  browser,
}) => {
  const database = await freshDatabase();
  const first = await startOn(database, NOW);
  const { url } = first;
  const port = new URL(url).port;
  const context = await browser.newContext({
    baseURL: url,
    extraHTTPHeaders: { Origin: url },
    timezoneId: 'Europe/London',
  });
  const page = await context.newPage();
  await register(page.request);
  const titles = ['Check the bilge', 'Weigh the hives', 'Air the cabin', 'Pump out the tank'];
  for (const title of titles) {
    await page.goto('/write');
    await page.getByLabel('What comes back, and how?').fill(`${title} every Tuesday`);
    await button(page, 'Keep it').click();
    await expect(page.getByText('is kept.')).toBeVisible();
  }
  await hasProgram(page);
  await expect.poll(async () => (await todosOf(page)).length).toBe(4);
  await first.stop();

  await page.goto('/');
  await expect(noConnection(page)).toBeVisible();
  for (const title of titles.slice(0, 3)) {
    await button(page, `Done: ${title}`).click();
    await expect(row(page, title).getByText('Back again Tue 1 Dec')).toBeVisible();
  }
  await button(page, 'Undo: Air the cabin').click();
  await expect(button(page, 'Done: Air the cabin')).toBeVisible();
  await button(page, /^Pump out the tank,/u).click();
  await button(page, 'Move: Pump out the tank').click();
  await button(page, 'This time only, to the weekend').click();
  await page.goto('/write');
  await page.getByLabel('What comes back, and how?').fill('Order wax tomorrow');
  await button(page, 'Keep it').click();
  await expect(page.getByText('Order wax is kept. For tomorrow.')).toBeVisible();
  await page.close();

  const again = await context.newPage();
  await again.goto('/');
  await expect(noConnection(again)).toBeVisible();
  await expect(row(again, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  const second = await startOn(database, '2026-11-25T07:10:00Z', { PORT: port });
  try {
    await expect(noConnection(again)).toHaveCount(0, { timeout: 30_000 });
    await expect(button(again, /^Done: Order wax/u)).toBeVisible();
    for (const title of ['Check the bilge', 'Weigh the hives']) {
      const { record } = await recordOf(again, title);
      expect(record).toMatchObject([{ slot: '2026-11-24', status: 'done' }]);
      expect(record[0]!.closedAt).toMatch(/^2026-11-24T09:4/u);
    }
    expect((await recordOf(again, 'Air the cabin')).record).toEqual([]);
    expect((await recordOf(again, 'Pump out the tank')).todo.open).toMatchObject([
      { plan: '2026-11-28' },
    ]);
    expect((await recordOf(again, 'Order wax')).todo.createdAt).toMatch(/^2026-11-24T09:4/u);
    expect(await todosOf(again)).toHaveLength(5);
  } finally {
    await context.close();
    await second.stop();
  }
});

test('the second time the program comes from the device', async ({ page, someone, write }) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await hasProgram(page);
  const sources: boolean[] = [];
  page.on('response', (response) => {
    if (response.request().resourceType() === 'script') sources.push(response.fromServiceWorker());
  });
  await page.goto('/');
  await expect(button(page, 'Done: Check the bilge')).toBeVisible();
  expect(sources.length).toBeGreaterThan(2);
  expect(sources).not.toContain(false);
});

test('a newer program is offered, and put in place when it is taken', async ({ browser }) => {
  const web = mkdtempSync(join(tmpdir(), 'back-again-web-'));
  cpSync(WEB, web, { recursive: true });
  for (const packed of ['worker.js.br', 'worker.js.gz']) rmSync(join(web, packed));
  const program = await startOn(await freshDatabase(), NOW, { WEB_DIR: web });
  const context = await browser.newContext({
    baseURL: program.url,
    extraHTTPHeaders: { Origin: program.url },
  });
  try {
    const page = await context.newPage();
    await page.goto('/sign-in');
    const account = { name: `${randomUUID()}@example.org`, password: 'a long password' };
    const answer = await page.request.post('/api/accounts', {
      data: { ...account, zone: 'Europe/London' },
      headers: { Origin: program.url },
    });
    expect(answer.status()).toBe(201);
    await page.goto('/');
    await hasProgram(page);
    const offer = page.getByText('A newer Back Again is ready on this device.');
    await expect(offer).toHaveCount(0);
    appendFileSync(join(web, 'worker.js'), '\n// newer');
    await page.goto('/write');
    await page.getByLabel('What comes back, and how?').fill('Order wax tom');
    await page.evaluate(async () => (await navigator.serviceWorker.ready).update());
    await expect(offer).toBeVisible();
    // Nothing happens to who is in the middle of a sentence.
    await expect(page.getByLabel('What comes back, and how?')).toHaveValue('Order wax tom');
    await button(page, 'Use it now').click();
    await expect(offer).toHaveCount(0);
    await expect(page.getByLabel('What comes back, and how?')).toHaveValue('Order wax tom');
  } finally {
    await context.close();
    await program.stop();
    rmSync(web, { recursive: true, force: true });
  }
});
