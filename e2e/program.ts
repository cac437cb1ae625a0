import { randomBytes, randomUUID } from 'node:crypto';
import AxeBuilder from '@axe-core/playwright';
import {
  test as base,
  expect,
  type APIRequestContext,
  type Locator,
  type Page,
  type Request,
} from '@playwright/test';
import { createConnection } from 'mariadb';
import { startProgram } from '../scripts/lib/program.mjs';
import { WEB } from '../scripts/lib/web.mjs';

export interface Program {
  url: string;
  pid: number;
  stop(signal?: NodeJS.Signals): Promise<void>;
}

/** Starts the program on a database of its own, standing at a given time. */
export async function startOwn(at: string, more: Record<string, string> = {}): Promise<Program> {
  return startOn(await freshDatabase(), at, more);
}

/** Starts the program on a given database. */
export async function startOn(
  databaseUrl: string,
  at: string,
  more: Record<string, string> = {},
): Promise<Program> {
  return startProgram({
    DATABASE_URL: databaseUrl,
    WEB_DIR: WEB,
    PORT: '0',
    SESSION_SECRET: 'for tests alone',
    TEST_CLOCK: '1',
    TEST_NOW: at,
    SIGN_IN_TRIES: '1000',
    LOG: 'warn',
    ...more,
  });
}

export async function freshDatabase(): Promise<string> {
  const url = new URL(process.env.TEST_DATABASE_URL!);
  const name = `e2e_${randomBytes(6).toString('hex')}`;
  const connection = await createConnection({
    socketPath: url.searchParams.get('socketPath')!,
    user: url.username,
    password: url.password,
  });
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`);
  await connection.end();
  url.pathname = `/${name}`;
  return url.href;
}

interface Fixtures {
  /** Sets the server's time. */
  setTime: (at: string) => Promise<void>;
  /** Makes an account and signs the page in. */
  someone: () => Promise<string>;
  /** Keeps what a sentence says, through the editor. */
  write: (sentence: string) => Promise<void>;
}

export const test = base.extend<Fixtures, { program: Program }>({
  program: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const program = await startOwn('2026-11-24T09:40:00Z');
      await use(program);
      await program.stop();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ program }, use) => use(program.url),
  // Requests that the tests send themselves say where they come from, as those of a page do.
  extraHTTPHeaders: async ({ program }, use) => use({ Origin: program.url }),
  setTime: async ({ page, request }, use) => {
    const underWay = new Set<Request>();
    const isAction = (it: Request) => it.url().endsWith('/api/actions');
    page.on('request', (it) => isAction(it) && underWay.add(it));
    page.on('requestfinished', (it) => underWay.delete(it));
    page.on('requestfailed', (it) => underWay.delete(it));
    page.on('close', () => underWay.clear());
    await use(async (at) => {
      // What the server is just taking is of the time before.
      await expect.poll(() => underWay.size, { intervals: [10] }).toBe(0);
      const answer = await request.put('/api/test/clock', { data: { now: at } });
      expect(answer.status()).toBe(200);
    });
  },
  someone: async ({ page, setTime }, use) =>
    use(async () => {
      await setTime('2026-11-24T09:40:00Z');
      return register(page.request);
    }),
  write: async ({ page }, use) =>
    use(async (sentence) => {
      await page.goto('/write');
      await page.getByLabel('What comes back, and how?').fill(sentence);
      await page.getByRole('button', { name: 'Keep it' }).click();
      await expect(page.getByText('is kept.')).toBeVisible();
    }),
});

export async function register(request: APIRequestContext): Promise<string> {
  const name = `${randomUUID()}@example.org`;
  const data = { name, password: 'a long password', zone: 'Europe/London' };
  const answer = await request.post('/api/accounts', { data });
  expect(answer.status()).toBe(201);
  return name;
}

/** Changes settings through their screen. */
export async function settings(page: Page, change: () => Promise<void>): Promise<void> {
  await page.goto('/settings');
  await expect(page.getByRole('heading', { name: 'Reminders' })).toBeVisible();
  await change();
  await expect(page.getByText('Kept.', { exact: true })).toBeVisible();
}

/** The row of a to-do on Today. */
export const row = (page: Page, title: string) => page.getByTestId(`row ${title}`);

/** Holds that axe finds nothing serious on a page; `where` names it when it does. */
export async function expectNothingSerious(
  page: Page,
  where = '',
  rules?: string[],
): Promise<void> {
  const axe = new AxeBuilder({ page });
  if (rules) axe.withRules(rules);
  const { violations } = await axe.analyze();
  const grave = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(grave.map(({ id, nodes }) => `${where}: ${id} ${nodes[0]?.html}`)).toEqual([]);
}

export { expect };

/** A word that does something, or is one of a few to choose from. */
export function button(page: Page, name: string | RegExp): Locator {
  const named = { name, exact: typeof name === 'string' };
  return page.getByRole('button', named).or(page.getByRole('radio', named));
}

/** A phone, and a wide screen. */
export const SIZES = [
  { width: 390, height: 844 },
  { width: 1280, height: 800 },
];

/** Where what belongs to the time of an unfolded row is: in the row, or on a wide screen in the story beside it. */
export const beside = (page: Page, it: Locator): Locator =>
  page.viewportSize()!.width < 1000
    ? it
    : page.getByRole('complementary', { name: 'The chosen to-do' });

/** Opens the story of an unfolded row, where it is not beside it already. */
export async function openStory(page: Page, it: Locator): Promise<void> {
  if (beside(page, it) === it) await it.getByRole('button', { name: /^Open: / }).click();
}

/** Does something as the page’s person would, and holds that it could be done. */
export async function act(request: APIRequestContext, action: object): Promise<void> {
  const answer = await request.post('/api/actions', { data: { id: randomUUID(), ...action } });
  expect([action, answer.status()]).toEqual([action, 200]);
}

/** Unfolds the row of a to-do on Today, and gives it. */
export async function unfold(page: Page, title: string): Promise<Locator> {
  const it = row(page, title);
  await it.getByRole('button', { name: new RegExp(`^${title},`, 'u') }).click();
  return it;
}

/** Opens the page of a to-do, from All. */
export async function openPage(page: Page, title: string): Promise<void> {
  await page.goto('/all');
  await button(page, new RegExp(`^${title}, .* Open$`, 'u')).click();
  await expect(page.getByRole('heading', { name: title, level: 1 })).toBeVisible();
}

/** Where a sentence is written, and where it stands as it was understood. */
export const field = (page: Page) => page.getByLabel('What comes back, and how?');
export const understood = (page: Page) => page.getByTestId('understood');

/** Types a sentence in the editor. */
export async function type(page: Page, text: string): Promise<void> {
  await page.goto('/write');
  await field(page).fill(text);
}

/** Waits until the server has something of the person with these words in it. */
export async function isSent(page: Page, words: string, timeout?: number): Promise<void> {
  await expect
    .poll(
      async () => (await page.request.get('/api/changes?since=0')).text(),
      timeout === undefined ? {} : { timeout },
    )
    .toContain(words);
}
