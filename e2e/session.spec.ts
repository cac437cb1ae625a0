import { expect, isSent, row, test } from './program.ts';

test('signing out without a connection: nothing is shown any more, and the server hears of it later', async ({
  page,
  context,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every day');
  // What was not sent yet would be asked about first.
  await isSent(page, 'Check the bilge');
  await page.goto('/settings');
  await expect(page.getByRole('heading', { name: 'Account' })).toBeVisible();
  await context.setOffline(true);
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByText('You are signed out on this device.')).toBeVisible();
  await expect(page.getByText('Signed in as')).toHaveCount(0);
  await expect(row(page, 'Check the bilge')).toHaveCount(0);
  await context.setOffline(false);
  await expect(page.getByLabel('Password')).toBeVisible();
  expect((await page.request.get('/api/session')).status()).toBe(401);
});

test('a window whose session was ended in another shows nothing of the person any more', async ({
  page,
  context,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every day');
  await page.goto('/');
  await expect(row(page, 'Check the bilge')).toBeVisible();
  const other = await context.newPage();
  await other.goto('/settings');
  await other.getByRole('button', { name: 'Sign out' }).click();
  await expect(other.getByLabel('Password')).toBeVisible();
  await expect(page.getByLabel('Password')).toBeVisible({ timeout: 20_000 });
  await expect(row(page, 'Check the bilge')).toHaveCount(0);
});
