import { randomUUID } from 'node:crypto';
import { expect, row, test } from './program.ts';

test('after I finish: written, seen, kept, finished, undone, finished late', async ({
  page,
  setTime,
}) => {
  await setTime('2026-11-24T09:40:00Z'); // a Tuesday
  await page.goto('/');
  await page.getByRole('button', { name: 'Make an account' }).click();
  await page.getByLabel('E-mail address').fill(`${randomUUID()}@example.org`);
  await page.getByLabel('Password').fill('short');
  await page.getByRole('button', { name: 'Make an account' }).click();
  await expect(page.getByText('A password has 10 characters at least.')).toBeVisible();
  await page.getByLabel('Password').fill('long enough to keep');
  await page.getByRole('button', { name: 'Make an account' }).click();
  await expect(page.getByText('Nothing comes back yet.')).toBeVisible();

  await page.getByRole('link', { name: 'Write one' }).click();
  await page
    .getByLabel('What comes back, and how?')
    .fill('Grease the stern gland 14 days after done');
  await expect(page.getByTestId('understood')).toHaveText(
    'Grease the stern gland comes back 14 days after you finish it, first on Tuesday 24 November.',
  );
  const next = page.getByRole('region', { name: 'Next times' });
  for (const date of ['Tue 24 Nov', 'Tue 8 Dec', 'Tue 22 Dec', 'Tue 5 Jan'])
    await expect(next.getByText(date)).toBeVisible();
  await page.getByRole('button', { name: 'Keep it' }).click();

  await expect(page.getByText('Grease the stern gland is kept. First today.')).toBeVisible();
  const it = row(page, 'Grease the stern gland');
  await it.getByRole('button', { name: 'Done: Grease the stern gland' }).click();
  await expect(it.getByText('Back again Tue 8 Dec')).toBeVisible();
  await expect(page.getByRole('status')).toHaveText('Back again Tue 8 Dec');
  await it.getByRole('button', { name: 'Undo: Grease the stern gland' }).click();
  await expect(it.getByText('14 days after done')).toBeVisible();
  await expect(it.getByText('Back again')).toHaveCount(0);

  await setTime('2026-12-14T09:40:00Z');
  await page.reload();
  await expect(it.getByText('20 days late')).toBeVisible();
  await it.getByRole('button', { name: 'Done: Grease the stern gland' }).click();
  // 14 days from 14 December, the day on which it was finished, not from 24 November.
  await expect(it.getByText('Back again Mon 28 Dec')).toBeVisible();
});

test('fixed, weekly: the missed one is in its record', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await page.goto('/write');
  await page.getByLabel('What comes back, and how?').fill('Check the bilge every Tuesday');
  await expect(page.getByTestId('understood')).toHaveText(
    'Check the bilge comes back every Tuesday, first on Tuesday 24 November.',
  );
  const next = page.getByRole('region', { name: 'Next times' });
  await expect(next.getByText('Tue 1 Dec')).toBeVisible();
  await write('Check the bilge every Tuesday');

  const it = row(page, 'Check the bilge');
  await it.getByRole('button', { name: 'Done: Check the bilge' }).click();
  await expect(it.getByText('Back again Tue 1 Dec')).toBeVisible();
  await it.getByRole('button', { name: 'Undo: Check the bilge' }).click();
  await expect(it.getByRole('button', { name: 'Done: Check the bilge' })).toBeVisible();

  // Nothing is done until Wednesday of the week after: the first Tuesday's is missed by then.
  await setTime('2026-12-02T09:40:00Z');
  await page.reload();
  await expect(it.getByText('1 day late')).toBeVisible();
  await it.getByRole('button', { name: 'Done: Check the bilge' }).click();
  await expect(it.getByText('Back again Tue 8 Dec')).toBeVisible();
  await it.getByRole('button', { name: /^Check the bilge,/ }).click();
  await it.getByRole('button', { name: 'Open: Check the bilge' }).click();
  const record = page.getByRole('region', { name: 'Last times' });
  await expect(record.getByText('1 done, 1 missed')).toBeVisible();
  await expect(record.getByText('Tue 1 Dec')).toBeVisible();
  await expect(record.getByText('done 1 day late')).toBeVisible();
  await expect(record.getByText('Tue 24 Nov')).toBeVisible();
  await expect(record.getByText('missed', { exact: true })).toBeVisible();

  // It was done after all: marked so, the next one stays where it was.
  await record.getByRole('button', { name: 'I did it: Check the bilge, Tue 24 Nov' }).click();
  await record.getByRole('button', { name: /^Tuesday 24 November 2026: The day on which/ }).click();
  await expect(record.getByText('2 done')).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'Next times' }).getByText('Tue 8 Dec'),
  ).toBeVisible();
});
