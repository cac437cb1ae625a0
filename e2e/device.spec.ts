import { randomUUID } from 'node:crypto';
import type { BrowserContext, Page } from '@playwright/test';
import { recordOf, todosOf } from './onServer.ts';
import { button, expect, register, row, test } from './program.ts';

// What a device keeps and does by itself: whatever the server answers, without a database of its own, with
// a clock that is wrong. 24 November 2026 is a Tuesday.

const NOW = '2026-11-24T09:40:00Z';
const noConnection = (page: Page) => page.getByText('No connection: this is as of');
const kept = (page: Page, n: number) =>
  page.getByText(
    n === 1 ? '1 change is kept on this device' : `${n} changes are kept on this device`,
  );

test('whatever the server is waited for, the answer is there: done, and written', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  let held = 0;
  let letGo: () => void = () => undefined;
  const later = new Promise<void>((done) => (letGo = done));
  await page.route('**/api/actions', async (route) => {
    held++;
    await later;
    await route.continue();
  });
  await page.goto('/');
  await button(page, 'Done: Check the bilge').click();
  await expect(row(page, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  await page.goto('/write');
  await page.getByLabel('What comes back, and how?').fill('Order wax tomorrow');
  await button(page, 'Keep it').click();
  await expect(page.getByText('Order wax is kept. For tomorrow.')).toBeVisible();
  expect(held).toBeGreaterThan(0);
  letGo();
  await expect.poll(async () => (await todosOf(page)).length).toBe(2);
});

test('one thing done is one request, and nothing is fetched after it', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await write('Weigh the hives every Tuesday');
  await page.goto('/');
  await expect(button(page, 'Done: Weigh the hives')).toBeVisible();
  await page.waitForLoadState('networkidle').catch(() => undefined);
  const asked: string[] = [];
  page.on('request', (request) =>
    asked.push(`${request.method()} ${new URL(request.url()).pathname}`),
  );
  const answered = page.waitForResponse('**/api/actions');
  await button(page, 'Done: Check the bilge').click();
  await answered;
  await expect(row(page, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  // The next thing is done after what the first would have fetched.
  const next = page.waitForResponse('**/api/actions');
  await button(page, 'Done: Weigh the hives').click();
  await next;
  expect(asked).toEqual(['POST /api/actions', 'POST /api/actions']);
});

/** A browser in which something is amiss from the beginning. */
async function amiss(context: BrowserContext, script: () => void): Promise<Page> {
  const page = await context.newPage();
  await page.addInitScript(script);
  return page;
}

test('a browser without a database of its own: all works, and it says that nothing is kept', async ({
  page,
  context,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  const other = await amiss(context, () =>
    Object.defineProperty(globalThis, 'indexedDB', { value: undefined }),
  );
  await other.goto('/');
  await expect(other.getByText('This browser keeps nothing')).toBeVisible();
  await button(other, 'Done: Check the bilge').click();
  await expect(row(other, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  await expect
    .poll(async () => (await recordOf(page, 'Check the bilge')).record)
    .toMatchObject([{ status: 'done' }]);
});

test('no room on the device: it says so, and works on', async ({
  page,
  context,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  const other = await amiss(context, () => {
    const full = () => {
      throw new DOMException('No room.', 'QuotaExceededError');
    };
    IDBObjectStore.prototype.put = full;
    IDBObjectStore.prototype.add = full;
  });
  await other.goto('/');
  await expect(other.getByText('There is no room left on this device')).toBeVisible();
  await button(other, 'Done: Check the bilge').click();
  await expect
    .poll(async () => (await recordOf(page, 'Check the bilge')).record)
    .toMatchObject([{ status: 'done' }]);
});

test('the device’s clock is three hours off: what is done counts by the right time', async ({
  page,
  context,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  const other = await amiss(context, () => {
    const now = Date.now.bind(Date);
    Date.now = () => now() - 3 * 3600_000;
  });
  await other.goto('/');
  await expect(button(other, 'Done: Check the bilge')).toBeVisible();
  await context.setOffline(true);
  await button(other, 'Done: Check the bilge').click();
  await expect(kept(other, 1)).toBeVisible();
  await context.setOffline(false);
  await expect(noConnection(other)).toHaveCount(0);
  const { record } = await recordOf(page, 'Check the bilge');
  expect(record[0]!.closedAt).toMatch(/^2026-11-24T09:4/u);
});

/** How much this device keeps in each of these stores. */
const countsOf = (page: Page, stores: string[]) =>
  page.evaluate(
    (names) =>
      new Promise<number[]>((done, fail) => {
        const opening = indexedDB.open('back-again');
        opening.onerror = () => fail(opening.error);
        opening.onsuccess = () => {
          const db = opening.result;
          const work = db.transaction(names);
          const counts = names.map((it) => work.objectStore(it).count());
          work.oncomplete = () => {
            db.close();
            done(counts.map(({ result }) => result));
          };
        };
      }),
    stores,
  );

/** Writes into what this device keeps, past the program. */
const spoil = (page: Page, pending: unknown[], form: number) =>
  page.evaluate(
    ([all, given]) =>
      new Promise<void>((done, fail) => {
        const opening = indexedDB.open('back-again');
        opening.onerror = () => fail(opening.error);
        opening.onsuccess = () => {
          const db = opening.result;
          const work = db.transaction(['people', 'pending'], 'readwrite');
          for (const it of all as unknown[]) work.objectStore('pending').add(it);
          const cursor = work.objectStore('people').openCursor();
          cursor.onsuccess = () =>
            cursor.result?.update({ ...(cursor.result.value as object), form: given });
          work.oncomplete = () => {
            db.close();
            done();
          };
        };
      }),
    [pending, form] as const,
  );

test('what a device has kept in a form that is not known is fetched anew; what waits and cannot be read is shown', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await spoil(page, [{ nonsense: 'Weigh the hives' }], 99);
  const asked = page.waitForRequest('**/api/changes?since=0');
  await page.reload();
  await asked;
  await expect(button(page, 'Done: Check the bilge')).toBeVisible();
  await expect(page.getByText('What waited on this device could not be read')).toBeVisible();
  await expect(page.getByText('Weigh the hives')).toBeVisible();
});

/** So many; `npm run check:waiting` has five hundred of them. */
const WAITING = Number(process.env.WAITING ?? 120);

test('many things that wait are all sent, each once', async ({ page, someone, write }) => {
  const name = await someone();
  await write('Check the bilge every Tuesday');
  await expect.poll(async () => (await todosOf(page)).length).toBe(1);
  const { id } = (await todosOf(page))[0]!;
  const notes = Array.from({ length: WAITING }, (_, i) => ({
    by: name,
    action: {
      do: 'note',
      id: randomUUID(),
      todo: id,
      slot: '2026-11-24',
      note: `Dry ${i}`,
      at: NOW,
    },
  }));
  await spoil(page, notes, 1);
  await page.reload();
  await expect.poll(() => countsOf(page, ['pending']), { timeout: 60_000 }).toEqual([0]);
  const answer = await page.request.get(`/api/todos/${id}`);
  expect(await answer.json()).toMatchObject({ todo: { open: [{ note: `Dry ${WAITING - 1}` }] } });
});

test('a session that ended keeps what waits for the same person; another never sees or sends it', async ({
  page,
  context,
  someone,
  write,
}) => {
  const name = await someone();
  for (const title of ['Check the bilge', 'Weigh the hives', 'Air the cabin'])
    await write(`${title} every Tuesday`);
  await page.goto('/');
  await expect(button(page, 'Done: Air the cabin')).toBeVisible();
  await context.route('**/api/actions', (route) => route.abort('internetdisconnected'));
  for (const title of ['Check the bilge', 'Weigh the hives', 'Air the cabin'])
    await button(page, `Done: ${title}`).click();
  await expect(kept(page, 3)).toBeVisible();
  await context.clearCookies();
  await context.unroute('**/api/actions');
  await expect(page.getByText('It is sent once you sign in again.')).toBeVisible();

  const other = await register(page.request);
  await page.goto('/');
  await expect(page.getByText('Nothing comes back yet.')).toBeVisible();
  await expect(page.getByText('kept on this device')).toHaveCount(0);
  expect(await todosOf(page)).toEqual([]);
  await page.request.delete('/api/session');

  await page.goto('/sign-in');
  await page.getByLabel('E-mail address').fill(name);
  await page.getByLabel('Password').fill('a long password');
  await button(page, 'Sign in').click();
  await expect(row(page, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  for (const title of ['Check the bilge', 'Weigh the hives', 'Air the cabin'])
    await expect
      .poll(async () => (await recordOf(page, title)).record)
      .toMatchObject([{ status: 'done' }]);
  expect(other).not.toBe(name);
});

test('signing out says first that something was not sent, and then leaves nothing behind', async ({
  page,
  context,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await page.goto('/');
  await context.route('**/api/actions', (route) => route.abort('internetdisconnected'));
  await button(page, 'Done: Check the bilge').click();
  await expect(kept(page, 1)).toBeVisible();
  await page.getByRole('link', { name: 'All' }).click();
  await button(page, 'Settings').click();
  await button(page, 'Sign out').click();
  await expect(page.getByText('1 change was not sent yet. Signed out, it is lost.')).toBeVisible();
  await button(page, 'Sign out all the same').click();
  await expect(page.getByLabel('Password')).toBeVisible();
  expect(await countsOf(page, ['todos', 'pending', 'people'])).toEqual([0, 0, 0]);
});

test('two devices take back the same: it is as before, once', async ({
  page,
  browser,
  baseURL,
  someone,
  write,
}) => {
  const name = await someone();
  await write('Check the bilge every Tuesday');
  await page.goto('/');
  await button(page, 'Done: Check the bilge').click();
  await expect(row(page, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  const context = await browser.newContext({
    baseURL: baseURL!,
    extraHTTPHeaders: { Origin: baseURL! },
  });
  const other = await context.newPage();
  await context.request.post('/api/session', { data: { name, password: 'a long password' } });
  await expect.poll(async () => (await recordOf(page, 'Check the bilge')).record.length).toBe(1);
  await other.goto('/');
  await expect(button(other, 'Undo: Check the bilge')).toBeVisible();
  for (const one of [page, other]) await one.context().setOffline(true);
  for (const one of [page, other]) await button(one, 'Undo: Check the bilge').click();
  for (const one of [page, other]) await one.context().setOffline(false);
  for (const one of [page, other]) {
    await expect(button(one, 'Done: Check the bilge')).toBeVisible();
    await expect(one.getByText('kept on this device')).toHaveCount(0);
  }
  expect((await recordOf(page, 'Check the bilge')).record).toEqual([]);
  await context.close();
});
