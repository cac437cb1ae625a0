import { expect, expectNothingSerious, isSent, row, test } from './program.ts';

test('late ones are brought to today by one action, and back by one undo', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await write('Pump out the tank 21 days after done');
  await write('Send the mooring log on the 24th of each month');
  await setTime('2026-11-27T09:40:00Z');
  await page.goto('/');
  const late = page.getByRole('region', { name: 'Late' });
  await expect(late.getByText('3 days late')).toHaveCount(2);
  await page.getByRole('button', { name: 'Bring both to today' }).click();
  await expect(
    page.getByText('2 are brought to today, and still due when they were.'),
  ).toBeVisible();
  await expect(late).toHaveCount(0);
  await expect(
    page.getByRole('region', { name: 'No set time' }).getByText('3 days late'),
  ).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo: bring to today' }).click();
  await expect(late.getByText('3 days late')).toHaveCount(2);
});

test('done on an earlier day counts from that day; skipped counts from today', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await write('Grease the stern gland 14 days after done');
  await write('Test the smoke alarm 30 days after done');
  await setTime('2026-11-27T09:40:00Z');
  await page.goto('/');
  const gland = row(page, 'Grease the stern gland');
  await gland.getByRole('button', { name: /^Grease the stern gland,/ }).click();
  await gland.getByRole('button', { name: 'Done earlier: Grease the stern gland' }).click();
  await gland.getByRole('button', { name: 'It was done yesterday' }).click();
  await expect(gland.getByText('Back again Thu 10 Dec')).toBeVisible();
  const alarm = row(page, 'Test the smoke alarm');
  await alarm.getByRole('button', { name: /^Test the smoke alarm,/ }).click();
  await alarm.getByRole('button', { name: 'Skip: Test the smoke alarm' }).click();
  await expect(alarm.getByText('Skipped. Back again Sun 27 Dec')).toBeVisible();
});

test('moved to tomorrow, this time only: it stays due, and is there tomorrow', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  const it = row(page, 'Check the bilge');
  await it.getByRole('button', { name: /^Check the bilge,/ }).click();
  await it.getByRole('button', { name: 'Move: Check the bilge' }).click();
  await it.getByRole('button', { name: 'This time only, to tomorrow' }).click();
  await expect(page.getByRole('region', { name: 'Can be done already' })).toContainText(
    'for tomorrow',
  );
  await setTime('2026-11-25T09:40:00Z');
  await page.reload();
  await expect(page.getByRole('region', { name: 'No set time' })).toContainText('1 day late');
});

test('the whole job by keyboard', async ({ page, someone }) => {
  await someone();
  await page.goto('/write');
  await expect(page.getByLabel('What comes back, and how?')).toBeFocused();
  await page.keyboard.type('Sweep the flue every Friday');
  const part = page.getByRole('button', { name: /^every Friday\. Change/ });
  await expect(part).toBeVisible();
  for (let i = 0; i < 10 && !(await part.evaluate((e) => e === document.activeElement)); i++)
    await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('group', { name: 'How it comes back' })).toBeVisible();
  const wednesday = page.getByRole('button', { name: 'Wednesday', exact: true });
  await wednesday.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('What comes back, and how?')).toHaveValue(
    'Sweep the flue every Wednesday and Friday',
  );
  await expect(wednesday).toBeFocused();
  await page.getByRole('button', { name: 'Keep it' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Sweep the flue is kept. First tomorrow.')).toBeVisible();
});

test.describe('what is wrong is said, and what was typed stays', () => {
  for (const [text, words] of [
    ['Pay the fee on 30 Feb', 'There is no 30 February.'],
    ['Scrub the deck every 0 days', 'an interval is a whole number from 1 to 9,999'],
    ['Scrub the deck 10000000 days after done', 'A span can be a hundred years at most.'],
    ['Scrub the deck every day starting 1 Dec 2026 until 1 Nov 2026', 'before it starts'],
    ['every day', 'The words say when, but not what.'],
  ] as const)
    test(text, async ({ page, someone }) => {
      await someone();
      await page.goto('/write');
      const field = page.getByLabel('What comes back, and how?');
      await field.fill(text);
      await expect(page.getByText(words)).toBeVisible();
      await page.getByRole('button', { name: 'Keep it' }).click();
      await expect(field).toHaveValue(text);
      await page.goto('/all');
      await expect(page.getByText('Nothing yet.')).toBeVisible();
    });

  test('no date: a one-off without one, and it says so', async ({ page, someone, write }) => {
    await someone();
    await page.goto('/write');
    await page.getByLabel('What comes back, and how?').fill('Order wax');
    await expect(page.getByTestId('understood')).toHaveText('Order wax has no date yet.');
    await write('Order wax');
    await expect(page.getByText('It has no date yet: you find it in All.')).toBeVisible();
  });

  test('a session that ran out: sign in again, and the sentence is still there', async ({
    page,
    someone,
  }) => {
    const name = await someone();
    await page.goto('/write');
    await page.getByLabel('What comes back, and how?').fill('Order wax tomorrow');
    await page.context().clearCookies();
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByText('It is sent once you sign in again.')).toBeVisible();
    await page.getByLabel('E-mail address').fill(name);
    await page.getByLabel('Password').fill('a long password');
    await page.getByRole('button', { name: 'Sign in' }).click();
    // It was kept on the device, and is sent now.
    await expect(page.getByRole('button', { name: /^Order wax, back tomorrow/u })).toBeVisible();
    await isSent(page, 'Order wax');
  });

  test('no connection: what was typed is kept, and is sent once when it is back', async ({
    page,
    someone,
  }) => {
    await someone();
    await page.goto('/write');
    const field = page.getByLabel('What comes back, and how?');
    await field.fill('Order wax tomorrow');
    await page.route('**/api/actions', (route) => route.abort());
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByText('Order wax is kept.')).toBeVisible();
    await expect(page.getByText('1 change is kept on this device')).toBeVisible();
    await page.unroute('**/api/actions');
    await expect(page.getByText('kept on this device')).toHaveCount(0);
    await page.goto('/all');
    await expect(page.getByRole('button', { name: /^Order wax,/ })).toHaveCount(1);
  });
});

const PHONE = { width: 390, height: 844 };
const WIDE = { width: 1280, height: 800 };
// In the dark only the tints differ, and they are the same at both sizes.
for (const [scheme, viewports] of [
  ['light', [PHONE, WIDE]],
  ['dark', [PHONE]],
] as const)
  for (const viewport of viewports)
    test(`nothing serious for a screen reader or weak eyes, ${scheme}, ${viewport.width}`, async ({
      page,
      someone,
      setTime,
      write,
    }) => {
      await page.setViewportSize(viewport);
      await page.emulateMedia({ colorScheme: scheme });
      await page.goto('/sign-in');
      await check('sign-in');
      await someone();
      await page.goto('/');
      await expect(page.getByText('Nothing comes back yet.')).toBeVisible();
      await check('first use');
      await write('Pump out the tank 21 days after done at 13:00');
      await write('Check the bilge every Tuesday');
      await setTime('2026-12-02T09:40:00Z');
      await page.goto('/');
      const it = row(page, 'Check the bilge');
      await it.getByRole('button', { name: 'Done: Check the bilge' }).click();
      await expect(it.getByText('Back again')).toBeVisible();
      await row(page, 'Pump out the tank').getByRole('button').first().click();
      await check('Today');
      await page.goto('/all');
      await page.getByRole('button', { name: /^Check the bilge,/ }).click();
      await expect(page.getByRole('region', { name: 'Last times' })).toBeVisible();
      await check('All and the page of a to-do');
      await page.goto('/write?text=Air%20the%20cabin%20every%20month%2010%20times');
      await page.getByRole('button', { name: /^every month\. Change/ }).click();
      await check('the editor, repeat');
      await page.getByRole('button', { name: /^10 times\. Change/ }).click();
      await page.getByRole('radio', { name: 'until a date' }).click();
      await check('the editor, end');
      await page.goto('/settings');
      await expect(page.getByRole('button', { name: /^Time zone: London/ })).toBeVisible();
      await check('Settings');

      function check(where: string) {
        const rules = scheme === 'dark' ? ['color-contrast'] : undefined;
        return expectNothingSerious(page, where, rules);
      }
    });

test('the script that shows Today the first time has at most 380 KB compressed', async ({
  page,
  someone,
}) => {
  await someone();
  const scripts: Promise<number>[] = [];
  page.on('requestfinished', (request) => {
    if (request.resourceType() === 'script')
      scripts.push(request.sizes().then(({ responseBodySize }) => responseBodySize));
  });
  await page.goto('/');
  await expect(page.getByText('Nothing comes back yet.')).toBeVisible();
  const sizes = await Promise.all(scripts);
  const total = sizes.reduce((sum, size) => sum + size, 0);
  expect(sizes.length).toBeGreaterThan(2);
  expect(total).toBeGreaterThan(100_000);
  expect(total).toBeLessThanOrEqual(380 * 1024);
});

test('settings are kept as they are chosen, and what is wrong with them is said', async ({
  page,
  someone,
}) => {
  await someone();
  await page.goto('/settings');
  const start = page.getByLabel('Your day starts at');
  await start.fill('13:00');
  await expect(page.getByText('The day starts between 00:00 and 11:59.')).toBeVisible();
  await start.fill('4am');
  const weekStart = page.getByRole('radiogroup', { name: 'Your week starts on' });
  await weekStart.getByRole('radio', { name: 'Sunday' }).click();
  await expect(page.getByText('Kept.', { exact: true })).toBeVisible();
  await page.reload();
  await expect(start).toHaveValue('04:00');
  await expect(weekStart.getByRole('radio', { name: 'Sunday' })).toBeChecked();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByLabel('Password')).toBeVisible();
  await page.goto('/');
  await expect(page.getByLabel('Password')).toBeVisible();
});
