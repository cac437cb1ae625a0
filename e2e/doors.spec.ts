import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Download, Page } from '@playwright/test';
import ICAL from 'ical.js';
import jsQR from 'jsqr';
import { PNG } from 'pngjs';
import { fromIcal } from '../core/src/exchange.ts';
import { SIZES, act, button, expect, expectNothingSerious, register, test } from './program.ts';

// What goes in and out, and the account: on a phone and wide.

const says = (page: Page, words: string | RegExp) =>
  expect(page.getByRole('main').getByText(words).first()).toBeVisible();

/** Chooses a file where a button asks for one. */
async function choose(
  page: Page,
  name: string | RegExp,
  file: { name: string; text: string | Buffer },
) {
  const asked = page.waitForEvent('filechooser');
  await button(page, name).click();
  const buffer = Buffer.isBuffer(file.text) ? file.text : Buffer.from(file.text);
  await (await asked).setFiles({ name: file.name, mimeType: '', buffer });
}

const bytesOf = async (download: Download) => readFileSync(await download.path());

const calendar = (...entries: string[][]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', ...entries.flat(), 'END:VCALENDAR', ''].join('\r\n');
const event = (uid: string, ...lines: string[]) => [
  'BEGIN:VEVENT',
  `UID:${uid}`,
  ...lines,
  'END:VEVENT',
];

const THEIRS = calendar(
  event(
    'compost',
    'SUMMARY:Turn the compost',
    'DTSTART;VALUE=DATE:20261128',
    'RRULE:FREQ=WEEKLY;BYDAY=SA',
  ),
  event(
    'yard',
    'SUMMARY:Call the yard',
    'DTSTART;TZID=America/New_York:20261130T090000',
    'RRULE:FREQ=WEEKLY;BYDAY=MO',
    'X-THEIRS:kept',
  ),
  ['BEGIN:VTODO', 'UID:none', 'SUMMARY:No date', 'RRULE:FREQ=DAILY', 'END:VTODO'],
);

for (const size of SIZES)
  test.describe(`at ${size.width} px`, () => {
    test.use({ viewport: size });

    test('a calendar comes in with a doubt, is undone, and comes in once', async ({
      page,
      someone,
    }) => {
      await someone();
      await page.goto('/doors/in');
      await choose(page, 'Choose a file', { name: 'theirs.ics', text: THEIRS });
      await says(page, '2 to-dos in theirs.ics, 1 with a doubt, 1 left out.');
      await says(page, /Next: Sat 28 Nov, Sat 5 Dec, Sat 12 Dec/u);
      await says(page, /It is of another zone, whose clocks change on other days/u);
      await button(page, 'See what is left out: 1').click();
      await says(page, /none: It repeats, and has no date from which/u);
      await expectNothingSerious(page);
      // Nothing has changed so far.
      await button(page, 'Leave it: nothing comes in').click();
      await page.goto('/all');
      await expect(page.getByText('Turn the compost')).toBeHidden();
      await page.goto('/doors/in');
      await choose(page, 'Choose a file', { name: 'theirs.ics', text: THEIRS });
      await page.getByRole('checkbox', { name: 'Take in: Call the yard' }).click();
      await button(page, 'Take 1 to-do in').click();
      await says(page, '1 to-do came in from theirs.ics.');
      await button(page, 'Undo: what came in').click();
      await says(page, 'As it was before: nothing of it is here.');
      await choose(page, 'Choose a file', { name: 'theirs.ics', text: THEIRS });
      await button(page, 'Take 2 to-dos in').click();
      await says(page, '2 to-dos came in from theirs.ics.');
      // The same again is there already; what changed is shown, and nothing is doubled.
      const changed = THEIRS.replace('Turn the compost', 'Turn both composts');
      await choose(page, 'Choose a file', { name: 'again.ics', text: changed });
      await says(page, 'There already, and the same.');
      await says(page, 'There already; other here: its name.');
      await button(page, 'Take 1 to-do in').click();
      await says(page, '1 to-do became as there from again.ics.');
      await page.goto('/all');
      await says(page, 'Turn both composts');
      await expect(page.getByRole('main').getByText(/Turn (the|both) compost/u)).toHaveCount(1);
      // What is kept with it goes out again.
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.goto('/doors').then(() => button(page, 'Take all to-dos along as a calendar').click()),
      ]);
      const ical = String(await bytesOf(download));
      expect(ical).toContain('X-THEIRS:kept');
      expect(
        fromIcal({ ical })
          .todos.map(({ id }) => id)
          .sort(),
      ).toEqual(['compost', 'yard']);
    });

    test('a large one is stopped half-way, and a table has its columns set', async ({
      page,
      someone,
    }) => {
      await someone();
      await page.goto('/doors/in');
      const many = Array.from({ length: 5000 }, (_, i) =>
        event(
          `u${i}`,
          `SUMMARY:Thing ${i}`,
          'DTSTART;VALUE=DATE:20261128',
          `RRULE:FREQ=WEEKLY;INTERVAL=${1 + (i % 9)}`,
        ),
      );
      await choose(page, 'Choose a file', { name: 'many.ics', text: calendar(...many) });
      await button(page, 'Stop looking at the file').click();
      await expect(button(page, 'Choose a file')).toBeVisible();
      const table =
        'Thing;Rhythm;Words\nWax the skis;every year in November;Cold wax\nSand;sometimes;\n';
      await choose(page, 'Choose a file', {
        name: 'table.csv',
        text: Buffer.from(table, 'latin1'),
      });
      await says(page, '2 to-dos in table.csv.');
      await button(page, 'Column 2, Rhythm: nothing').click();
      await page.getByRole('radio', { name: 'how it comes back' }).click();
      await says(page, /Wax the skis comes back every year/u);
      await says(page, /Next: Mon 1 Nov 2027/u);
      await button(page, 'Column 3, Words: nothing').click();
      await page.getByRole('radio', { name: 'note' }).click();
      await expectNothingSerious(page);
      await button(page, /^Take 2 to-dos in$/u).click();
      await page.goto('/all');
      await says(page, 'Wax the skis');
    });

    test('what is neither calendar nor table says so', async ({ page, someone }) => {
      await someone();
      await page.goto('/doors/in');
      const files: [string, string | Buffer][] = [
        ['page.html', '<!doctype html><html><body>no</body></html>'],
        ['picture.png', Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex')],
        ['empty.ics', ''],
      ];
      for (const [name, text] of files) {
        await choose(page, /^(Choose a file|Another file)$/u, { name, text });
        await says(page, `${name} is neither a calendar nor a table.`);
        await expect(button(page, /^Take /u)).toBeHidden();
      }
    });

    test('a to-do has a way of its own: its code is read and used in a browser without a session', async ({
      page,
      someone,
      write,
      browser,
      program,
    }) => {
      await someone();
      await write('Change the mite board every 2 weeks on Tue');
      await page.goto('/all');
      await page.getByRole('main').getByText('Change the mite board').first().click();
      await button(page, 'A way of its own: Change the mite board').click();
      await button(page, 'Make its code').click();
      const code = page.getByRole('img', { name: 'Code of Change the mite board' });
      const { width, height, data } = PNG.sync.read(await code.screenshot());
      const read = jsQR(new Uint8ClampedArray(data), width, height);
      expect(read?.data).toBe(await page.getByTestId('secret').textContent());
      expect(read!.data).toMatch(new RegExp(`^${program.url}/do/baw_[\\w-]{32}$`, 'u'));
      await expectNothingSerious(page);
      const stranger = await browser.newContext({ baseURL: program.url, viewport: size });
      const scanned = await stranger.newPage();
      await scanned.goto(read!.data);
      await says(scanned, 'Due today.');
      await expectNothingSerious(scanned);
      await button(scanned, 'Done: Change the mite board').click();
      await says(scanned, /Done\. It is back again/u);
      await scanned.reload();
      await says(scanned, /There is nothing to do now: it is back again/u);
      await button(page, 'Back to Change the mite board').click();
      await says(page, 'by its own address');
      await button(page, 'A way of its own: Change the mite board').click();
      await says(page, /1 use/u);
      await button(page, 'Withdraw: Address 1').click();
      await says(page, 'None yet.');
      await scanned.reload();
      await says(scanned, 'There is nothing at this address.');
      await stranger.close();
    });

    test('the account: another password, sessions, another address, and its end', async ({
      page,
      someone,
      browser,
      program,
    }) => {
      const name = await someone();
      const other = await browser.newContext({ baseURL: program.url, viewport: size });
      const elsewhere = await other.newPage();
      const signIn = async (it: Page, address: string, password: string) => {
        await it.goto('/sign-in');
        await it.getByLabel('E-mail address').fill(address);
        await it.getByLabel('Password', { exact: true }).fill(password);
        await button(it, 'Sign in').click();
      };
      const OLD = 'a long password';
      await signIn(elsewhere, name, OLD);
      await expect(elsewhere).not.toHaveURL(/sign-in/u);
      await page.goto('/account');
      await expectNothingSerious(page);
      await expect(button(page, /^Sign out there/u)).toHaveCount(1);
      await page.getByLabel('Your password of now').fill('not it at all');
      await page.getByLabel('The new one').fill('another password');
      await button(page, 'Change the password').click();
      await says(page, 'That is not your password.');
      await page.getByLabel('Your password of now').fill(OLD);
      await button(page, 'Change the password').click();
      await says(page, 'It is changed. Everywhere else you are signed out.');
      await expect(button(page, /^Sign out there/u)).toHaveCount(0);
      await elsewhere.goto('/all');
      await expect(elsewhere).toHaveURL(/sign-in/u);
      const next = `${randomUUID()}@example.org`;
      await page.getByLabel('Your password', { exact: true }).fill('another password');
      await page.getByLabel('The new e-mail address').fill(next);
      await button(page, 'Change the address').click();
      await says(page, `Signed in as ${next}`);
      const [download] = await Promise.all([
        page.waitForEvent('download'),
        (async () => {
          await button(page, 'Remove the account …').click();
          await button(page, 'First take everything along').click();
        })(),
      ]);
      expect((await bytesOf(download)).subarray(0, 2).toString()).toBe('PK');
      await page.getByLabel('Your password, to remove everything').fill('another password');
      await button(page, 'Remove everything for good').click();
      await expect(page).toHaveURL(/sign-in/u);
      await signIn(page, next, 'another password');
      await says(page, 'That address and password do not go together.');
      await other.close();
    });
  });

test.describe('once', () => {
  test('everything out, and back into an empty account', async ({
    page,
    someone,
    write,
    browser,
    program,
  }) => {
    await someone();
    await write('Weigh the hives every Tuesday');
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.goto('/doors').then(() => button(page, 'Take everything along').click()),
    ]);
    const zip = await bytesOf(download);
    const headers = { Origin: program.url };
    const context = await browser.newContext({ baseURL: program.url, extraHTTPHeaders: headers });
    const other = await context.newPage();
    await register(other.request);
    await other.goto('/doors');
    await choose(other, 'Put a zip back', { name: 'back-again.zip', text: zip });
    await says(other, 'Put back: 1 to-do, 1 time, 0 places.');
    await other.goto('/');
    await says(other, 'Weigh the hives');
    await other.goto('/doors');
    await choose(other, 'Put a zip back', { name: 'no.zip', text: 'PK no zip at all' });
    await says(other, 'This is no zip with everything of an account.');
    await context.close();
  });

  test('a place goes out as a calendar', async ({ page, someone }) => {
    const { request } = page;
    await someone();
    const place = randomUUID();
    await act(request, { do: 'place', place, parts: { kind: 'sphere', name: 'Bees' } });
    const todo = randomUUID();
    const series = {
      start: '2026-11-24',
      repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU' },
    };
    await act(request, {
      do: 'create',
      todo,
      series,
      details: { title: 'Weigh the hives', place },
    });
    await page.goto(`/place/${place}`);
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      button(page, 'Take Bees along as a calendar').click(),
    ]);
    const { todos } = fromIcal({ ical: String(await bytesOf(download)) });
    expect(todos).toMatchObject([{ id: todo, details: { title: 'Weigh the hives' } }]);
  });

  test('a feed is subscribed to by a client that honours ETag', async ({
    page,
    someone,
    write,
  }) => {
    await someone();
    await write('Weigh the hives every Tuesday');
    await page.goto('/doors');
    await button(page, 'Make an address').click();
    const address = (await page.getByTestId('secret').textContent())!;
    /** What a small client keeps: the last tag, and the last text. */
    const kept = { tag: '', text: '', asked: [] as number[] };
    const refresh = () => {
      const given = kept.tag ? ['-H', `If-None-Match: ${kept.tag}`] : [];
      const { stdout } = spawnSync('curl', ['-s', '-i', ...given, address], { encoding: 'utf8' });
      const [head = '', ...body] = stdout.split('\r\n\r\n');
      const status = Number(/^HTTP\/\S+ (\d+)/u.exec(head)?.[1]);
      kept.asked.push(status);
      if (status !== 200) return;
      kept.tag = /^etag: (.*)$/imu.exec(head)![1]!.trim();
      kept.text = body.join('\r\n\r\n');
    };
    refresh();
    refresh();
    const titles = () =>
      new ICAL.Component(ICAL.parse(kept.text))
        .getAllSubcomponents('vevent')
        .map((it) => String(it.getFirstPropertyValue('summary')));
    expect(titles().length).toBeGreaterThan(50);
    await page.goto('/');
    await page.getByRole('button', { name: /^Weigh the hives,/u }).click();
    await button(page, 'Done: Weigh the hives').click();
    await expect.poll(() => (refresh(), titles()[0])).toBe('Weigh the hives (done)');
    expect(kept.asked.slice(0, 2)).toEqual([200, 304]);
  });

  test('a key is made, used by curl, limited, and withdrawn', async ({
    page,
    someone,
    write,
    program,
  }) => {
    await someone();
    await write('Weigh the hives every Tuesday');
    await page.goto('/doors');
    await page.getByLabel('What the key is for').fill('Scales');
    await page.getByRole('radio', { name: 'read', exact: true }).click();
    await button(page, 'Make a key').click();
    await says(page, 'The key: it is shown only now.');
    const secret = (await page.getByTestId('secret').textContent())!;
    const curl = (path: string, ...more: string[]) =>
      spawnSync(
        'curl',
        [
          '-s',
          '-o',
          '-',
          '-w',
          '\n%{http_code}',
          '-H',
          `Authorization: Bearer ${secret}`,
          ...more,
          `${program.url}/api${path}`,
        ],
        { encoding: 'utf8' },
      ).stdout;
    expect(curl('/today')).toMatch(/Weigh the hives[\s\S]*\n200$/u);
    const done = JSON.stringify({ do: 'done', id: randomUUID(), todo: randomUUID() });
    expect(curl('/actions', '-H', 'Content-Type: application/json', '-d', done)).toMatch(
      /key\.reach[\s\S]*\n403$/u,
    );
    await button(page, 'Hide: The key').click();
    await expect(page.getByText(secret)).toBeHidden();
    await expectNothingSerious(page);
    await button(page, 'Withdraw: Scales').click();
    await says(page, 'No key yet.');
    expect(curl('/today')).toMatch(/key\.none[\s\S]*\n401$/u);
  });

  test('a forgotten password: asked for, and the link that is none says so', async ({ page }) => {
    await page.goto('/sign-in');
    await button(page, 'I forgot my password').click();
    await page.getByLabel('E-mail address').fill('nobody@example.org');
    await button(page, 'Send the link').click();
    await says(page, /If there is an account with that address/u);
    await page.goto('/new-password/not.a.link');
    await page.getByLabel('The new password').fill('a long password');
    await button(page, 'Keep the password').click();
    await says(page, /This link was used, has expired/u);
  });
});
